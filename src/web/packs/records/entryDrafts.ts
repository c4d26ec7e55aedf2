import { minuteAt } from '../../app/days';
import type { EquipmentAnswer, PackTypeAnswer } from '../../../contract';
import type { Chemistry } from '../../../core/chemistry';
import type { Instant, PersonId } from '../../../core/measure';
import {
  parseCelsius,
  parseFigure,
  parseFigures,
  parseMah,
  parseMinutes,
  parseVolts,
} from '../../../core/reading';
import type { Felt, TypedFigure } from '../../../core/reading';
import type {
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  FlightPayload,
  ReadVolts,
  ResistancePayload,
} from '../../../core/record';
import { plural, voltsRefusalSentence } from '../../../core/wording';
import { stationName, stationsOf } from '../../domain/bench';

/** What has been typed into the forms for charges, flights and resistance, and what it comes to. */

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
};

/** The choice under which a charger is typed that is not in the register. */
export const OTHER_CHARGER = 'other';

export interface FlightDraft {
  readonly pilotId: string;
  readonly craft: string;
  readonly minutes: string;
  readonly landing: string;
  readonly condition: 'loaded' | 'settling';
  readonly used: string;
  readonly hottest: string;
  readonly felt: Felt | '';
  readonly ambient: string;
  readonly ended: string;
  readonly remarks: string;
}

export const NO_FLIGHT: FlightDraft = {
  pilotId: '',
  craft: '',
  minutes: '',
  landing: '',
  condition: 'loaded',
  used: '',
  hottest: '',
  felt: '',
  ambient: '',
  ended: '',
  remarks: '',
};

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

/** What a form's text comes to: the payload, or what is wrong at each field. `at` is null for now. */
export type Understood<Payload, Field extends string> =
  | { readonly payload: Payload; readonly at: Instant | null; readonly errors: null }
  | { readonly payload: null; readonly at: null; readonly errors: Partial<Record<Field, string>> };

/** Collects figures and the sentences of those that are none. */
class Gate<Field extends string> {
  readonly errors: Partial<Record<Field, string>> = {};

  figure(field: Field, typed: TypedFigure, wanted: string): number | null {
    if (typed.outcome === 'refused') this.errors[field] = `“${typed.text}” is no figure. ${wanted}`;
    return typed.outcome === 'figure' ? typed.value : null;
  }

  /** A figure above zero. */
  above(field: Field, text: string, wanted: string): number | null {
    const value = this.figure(field, parseFigure(text), wanted);
    if (value !== null && value <= 0) this.errors[field] = `“${text}” cannot be. ${wanted}`;
    return value;
  }

  volts(field: Field, text: string, type: PackTypeAnswer): ReadVolts | null {
    const typed = parseVolts(text, type);
    if (typed.outcome === 'cells') return { of: 'cells', cellsMv: typed.cellsMv };
    if (typed.outcome === 'pack') return { of: 'pack', packMv: typed.packMv };
    if (typed.outcome === 'refused') this.errors[field] = voltsRefusalSentence(typed.why);
    return null;
  }

  /** In the air only the pack's total shows on the screen; by itself it is enough for a landing. */
  landing(field: Field, text: string, type: PackTypeAnswer): ReadVolts | null {
    const typed = parseVolts(text, type);
    if (typed.outcome === 'refused' && typed.why.code === 'pack-total')
      return { of: 'pack', packMv: typed.why.packMv };
    return this.volts(field, text, type);
  }

  cells(field: Field, text: string, type: PackTypeAnswer): readonly number[] | null {
    const volts = this.volts(field, text, type);
    if (volts?.of === 'pack') this.errors[field] = `Type all ${plural(type.series, 'cell')}.`;
    return volts?.of === 'cells' ? volts.cellsMv : null;
  }

  moment(field: Field, text: string): Instant | null {
    const at = minuteAt(text);
    if (Number.isNaN(at)) this.errors[field] = 'Give the day and the time.';
    return Number.isNaN(at) ? null : at;
  }

  answer<Payload>(payload: Payload, at: Instant | null = null): Understood<Payload, Field> {
    return Object.keys(this.errors).length > 0
      ? { payload: null, at: null, errors: this.errors }
      : { payload, at, errors: null };
  }
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
  };
  return gate.answer(payload, gate.moment('ended', draft.ended));
}

export function flightTyped(
  draft: FlightDraft,
  type: PackTypeAnswer,
): Understood<FlightPayload, keyof FlightDraft> {
  const gate = new Gate<keyof FlightDraft>();
  const volts = gate.landing('landing', draft.landing, type);
  const payload: FlightPayload = {
    pilotId: (draft.pilotId || null) as PersonId | null,
    craft: blankToNull(draft.craft),
    minutes: gate.figure('minutes', parseMinutes(draft.minutes), 'Type minutes, or 12:30.'),
    landing: volts && { volts, condition: draft.condition },
    usedMah: gate.figure('used', parseMah(draft.used), 'Type mAh, or 2.1 Ah.'),
    hottestC: gate.figure('hottest', parseCelsius(draft.hottest), 'Type °C, or 95 F.'),
    felt: draft.felt || null,
    ambientC: gate.figure('ambient', parseCelsius(draft.ambient), 'Type °C, or 95 F.'),
    remarks: blankToNull(draft.remarks),
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

export function blankToNull(text: string | undefined): string | null {
  const trimmed = text?.trim() ?? '';
  return trimmed === '' ? null : trimmed;
}
