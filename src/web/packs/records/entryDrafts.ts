import type { EquipmentAnswer, PackTypeAnswer } from '../../../contract';
import type { Chemistry } from '../../../core/chemistry';
import { parseCelsius, parseFigure, parseFigures, parseMah, parseMinutes } from '../../../core/reading';
import type { Felt } from '../../../core/reading';
import type { CurveId } from '../../../core/measure';
import type {
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  ReadVolts,
  ResistancePayload,
} from '../../../core/record';
import { plural } from '../../../core/wording';
import { stationName, stationsOf } from '../../domain/bench';
import { blankToNull, Gate } from '../../domain/entry/gate';
import type { Understood } from '../../domain/entry/gate';

/** What has been typed into the forms for charges and resistance, and what it comes to. */

export interface ChargeDraft {
  readonly mode: ChargeMode;
  readonly ending: ChargeEnding;
  readonly balanced: 'yes' | 'no' | 'unseen';
  readonly start: string;
  readonly end: string;
  readonly moved: string;
  readonly minutes: string;
  readonly celsius: string;
  readonly felt: Felt | '';
  /** A channel of a registered charger, as a place's key; OTHER_CHARGER for one that is typed; empty for not noted. */
  readonly station: string;
  readonly charger: string;
  readonly setChemistry: Chemistry | '';
  readonly setCells: string;
  readonly setTop: string;
  readonly setAmps: string;
  readonly ended: string;
  readonly remarks: string;
  /** The curve of a log that was read into this; empty for none. */
  readonly curve: string;
}

export const NO_CHARGE: ChargeDraft = {
  mode: 'balance',
  ending: 'complete',
  balanced: 'unseen',
  start: '',
  end: '',
  moved: '',
  minutes: '',
  celsius: '',
  felt: '',
  station: '',
  charger: '',
  setChemistry: '',
  setCells: '',
  setTop: '',
  setAmps: '',
  ended: '',
  remarks: '',
  curve: '',
};

/** The choice under which a charger is typed that is not in the register. */
export const OTHER_CHARGER = 'other';

export interface ResistanceDraft {
  readonly ir: string;
  readonly celsius: string;
  readonly instrument: string;
  readonly remarks: string;
}

export const NO_RESISTANCE: ResistanceDraft = { ir: '', celsius: '', instrument: '', remarks: '' };

/** What is measured along with a look over a pack; all of it may be left out. */
export interface MeasuresDraft {
  readonly cells: string;
  readonly ir: string;
  readonly celsius: string;
  readonly thickness: string;
  readonly mass: string;
}

export const NO_MEASURES: MeasuresDraft = { cells: '', ir: '', celsius: '', thickness: '', mass: '' };

export interface Measures {
  readonly volts: ReadVolts | null;
  readonly irMilliohm: readonly number[] | null;
  readonly temperatureC: number | null;
  readonly thicknessMm: number | null;
  readonly massG: number | null;
}

export function chargeTyped(
  draft: ChargeDraft,
  type: PackTypeAnswer,
  equipment: readonly EquipmentAnswer[] = [],
): Understood<ChargePayload, keyof ChargeDraft> {
  const gate = new Gate<keyof ChargeDraft>();
  const station = stationsOf(equipment).find(({ key }) => key === draft.station);
  const topV = gate.figure('setTop', parseFigure(draft.setTop), 'Type volts a cell, like 4.2.');
  const payload: ChargePayload = {
    mode: draft.mode,
    charger: station ? stationName(equipment, station.id, station.channel) : blankToNull(draft.charger),
    ...(station
      ? { bench: { equipmentId: station.id, channel: station.channel, jobId: null, shareMah: null } }
      : {}),
    settings: {
      chemistry: draft.setChemistry || null,
      cells: gate.figure('setCells', parseFigure(draft.setCells), 'Type the cell count set.'),
      topMv: topV === null ? null : Math.round(topV * 1000),
      currentA: gate.figure('setAmps', parseFigure(draft.setAmps), 'Type amps, like 3.3.'),
    },
    startCellsMv: gate.cells('start', draft.start, type),
    endCellsMv: gate.cells('end', draft.end, type),
    movedMah: gate.figure('moved', parseMah(draft.moved), 'Type mAh, or 2.1 Ah.'),
    minutes: gate.figure(
      'minutes',
      parseMinutes(draft.minutes),
      'Type minutes, or 1:30 for a minute and a half.',
    ),
    temperatureC: gate.figure('celsius', parseCelsius(draft.celsius), 'Type °C, or 95 F.'),
    felt: draft.felt || null,
    balanced: draft.balanced === 'unseen' ? null : draft.balanced === 'yes',
    ending: draft.ending,
    remarks: blankToNull(draft.remarks),
    ...(draft.curve ? { curveId: draft.curve as CurveId } : {}),
  };
  return gate.answer(payload, gate.moment('ended', draft.ended));
}

export function resistanceTyped(
  draft: ResistanceDraft,
  type: PackTypeAnswer,
): Understood<ResistancePayload, keyof ResistanceDraft> {
  const gate = new Gate<keyof ResistanceDraft>();
  const irMilliohm = parseFigures(draft.ir);
  if (irMilliohm?.length !== type.series)
    gate.errors.ir = `Type the milliohms of all ${plural(type.series, 'cell')}, like 4.2 4.1 4.4.`;
  const celsius = gate.figure('celsius', parseCelsius(draft.celsius), 'Type °C, or 95 F.');
  if (draft.celsius.trim() === '') gate.errors.celsius = 'Resistance means nothing without its temperature.';
  return gate.answer({
    irMilliohm: irMilliohm ?? [],
    temperatureC: celsius ?? 0,
    instrument: blankToNull(draft.instrument),
    remarks: blankToNull(draft.remarks),
  });
}

export function measuresTyped(
  draft: MeasuresDraft,
  type: PackTypeAnswer,
): Understood<Measures, keyof MeasuresDraft> {
  const gate = new Gate<keyof MeasuresDraft>();
  const irMilliohm = draft.ir.trim() === '' ? null : parseFigures(draft.ir);
  if (draft.ir.trim() !== '' && irMilliohm?.length !== type.series)
    gate.errors.ir = `Type the milliohms of all ${plural(type.series, 'cell')}, like 4.2 4.1 4.4.`;
  if (irMilliohm && draft.celsius.trim() === '')
    gate.errors.celsius = 'Resistance means nothing without its temperature.';
  return gate.answer({
    volts: gate.volts('cells', draft.cells, type),
    irMilliohm,
    temperatureC: gate.figure('celsius', parseCelsius(draft.celsius), 'Type °C, or 95 F.'),
    thicknessMm: gate.above('thickness', draft.thickness, 'Millimetres, like 31.5.'),
    massG: gate.above('mass', draft.mass, 'Grams, like 1910.'),
  });
}
