import type { PersonId, PlaceId } from '../../core/measure';
import type {
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  Correctable,
  FlightPayload,
  InspectionPayload,
  PackRecord,
  ReadingPayload,
  ReadVolts,
  ResistancePayload,
} from '../../core/record';
import { CHEMISTRY } from '../../core/chemistry';
import { amps, ANSWER_WORDS, OCCASION_WORDS, SWELLING_WORDS, volts } from '../../core/wording';

/** Names for ids, for putting records into words. */
export interface Names {
  readonly place: (id: PlaceId) => string;
  readonly person: (id: PersonId) => string;
}

export const KIND_WORDS: Readonly<Record<PackRecord['kind'], string>> = {
  received: 'Received',
  reading: 'Reading',
  resistance: 'Resistance',
  charge: 'Charge',
  flight: 'Flight',
  inspection: 'Inspection',
  moved: 'Moved',
  note: 'Note',
  correction: 'Correction',
};

/** A record in one line: measured figures apart from words, because they are set in another face. */
export interface RecordLine {
  readonly figures: string;
  readonly words: string;
}

/** What a record says. */
export function recordLine(record: Correctable, names: Names): RecordLine {
  switch (record.kind) {
    case 'reading':
      return readingLine(record.payload);
    case 'resistance':
      return resistanceLine(record.payload);
    case 'charge':
      return chargeLine(record.payload);
    case 'flight':
      return flightLine(record.payload, names);
    case 'inspection':
      return inspectionLine(record.payload);
    case 'received':
    case 'moved':
    case 'note':
      return { figures: '', words: wordsOf(record, names) };
    default:
      return record satisfies never;
  }
}

function wordsOf(
  record: Extract<Correctable, { kind: 'received' | 'moved' | 'note' }>,
  names: Names,
): string {
  switch (record.kind) {
    case 'received': {
      const { source, placeId } = record.payload;
      return [source ?? 'Taken into the register', placeId && `laid in ${names.place(placeId)}`]
        .filter(Boolean)
        .join(', ');
    }
    case 'moved': {
      const { placeId, holderId } = record.payload;
      const slot = record.payload.slot ? `, slot ${record.payload.slot}` : '';
      const where = placeId ? `to ${names.place(placeId)}${slot}` : 'to no fixed place';
      return holderId ? `${where}, with ${names.person(holderId)}` : where;
    }
    case 'note':
      return record.payload.text;
    default:
      return record satisfies never;
  }
}

export const MODE_WORDS: Readonly<Record<ChargeMode, string>> = {
  balance: 'balance charge',
  fast: 'fast charge',
  storage: 'to storage',
  discharge: 'discharge',
};

export const ENDING_WORDS: Readonly<Record<ChargeEnding, string>> = {
  complete: 'complete',
  'timed-out': 'timed out',
  stopped: 'stopped by hand',
  error: 'error',
};

function readingLine({
  volts: read,
  condition,
  instrument,
  temperatureC,
  remarks,
}: ReadingPayload): RecordLine {
  return {
    figures: figuresOf(read),
    words: joined([
      condition === 'loaded' ? 'under load' : condition,
      instrument,
      measured(temperatureC, '°C'),
      remarks,
    ]),
  };
}

function resistanceLine({ irMilliohm, temperatureC, instrument, remarks }: ResistancePayload): RecordLine {
  return {
    figures: irMilliohm.join(' '),
    words: joined([`mΩ at ${temperatureC} °C`, instrument, remarks]),
  };
}

function chargeLine(charge: ChargePayload): RecordLine {
  const { mode, charger, settings, startCellsMv, endCellsMv, balanced, ending, remarks } = charge;
  const set = joined([
    settings.chemistry && CHEMISTRY[settings.chemistry].name,
    settings.cells && `${settings.cells}S`,
    settings.topMv && `to ${volts(settings.topMv)} V`,
    settings.currentA && `at ${amps(settings.currentA)}`,
  ]);
  return {
    figures: [startCellsMv, endCellsMv]
      .map((cells) => cells?.map(volts).join(' ') ?? '')
      .join(' → ')
      .replace(/^ → $/, ''),
    words: joined([
      MODE_WORDS[mode],
      ENDING_WORDS[ending],
      measured(charge.movedMah, 'mAh'),
      measured(charge.minutes, 'min'),
      measured(charge.temperatureC, '°C'),
      balanced === null ? null : balanced ? 'balanced' : 'not balanced',
      set && `set ${set}`,
      charger,
      remarks,
    ]),
  };
}

function flightLine(flight: FlightPayload, names: Names): RecordLine {
  const { pilotId, craft, landing, hottestC, ambientC, remarks } = flight;
  return {
    figures: landing ? figuresOf(landing.volts) : '',
    words: joined([
      landing && (landing.condition === 'loaded' ? 'landed, under load' : 'landed, settling'),
      measured(flight.minutes, 'min'),
      measured(flight.usedMah, 'mAh'),
      craft,
      pilotId && names.person(pilotId),
      hottestC === null ? null : `hottest ${hottestC} °C`,
      ambientC === null ? null : `outside ${ambientC} °C`,
      remarks,
    ]),
  };
}

function inspectionLine(inspection: InspectionPayload): RecordLine {
  const { occasion, items, swelling, thicknessMm, massG, remarks } = inspection;
  const told = items.filter(({ answer }) => answer !== 'ok');
  const sound = items.length - told.length;
  return {
    figures: joined([thicknessMm !== null && `${thicknessMm} mm`, massG !== null && `${massG} g`]),
    words: joined([
      OCCASION_WORDS[occasion],
      told.length === 0 ? `all ${sound} in order` : `${sound} in order`,
      swelling && swelling !== 'none' && `swollen, ${SWELLING_WORDS[swelling]}`,
      ...told.map(({ asks, answer, note }) => `${ANSWER_WORDS[answer]}: ${asks}${note ? `, ${note}` : ''}`),
      remarks,
    ]),
  };
}

function figuresOf(read: ReadVolts): string {
  return read.of === 'cells' ? read.cellsMv.map(volts).join(' ') : `${volts(read.packMv)} V the pack`;
}

function measured(value: number | null, unit: string): string | null {
  return value === null ? null : `${Math.round(value * 10) / 10} ${unit}`;
}

function joined(parts: readonly (string | number | false | null | undefined)[]): string {
  return parts.filter(Boolean).join(' · ');
}
