import type {
  ChargeEnding,
  ChargeMode,
  ChargePayload,
  Correctable,
  DecisionPayload,
  FlightPayload,
  InspectionPayload,
  MemoryPayload,
  MemorySetting,
  OwnCounters,
  ReadingPayload,
  ReadVolts,
  RecoveryEnding,
  RecoveryPayload,
  ResistancePayload,
  Uncorrectable,
} from '../record';
import { faultsOf } from '../record';
import { CHEMISTRY } from '../chemistry';
import type { CraftId, Instant, PersonId, PlaceId } from '../measure';
import { amps, plural, volts } from './figures';
import { disposalLine } from './lifecycle';
import { INCIDENT_WORDS } from './incident';
import { ANSWER_WORDS, OCCASION_WORDS, SWELLING_WORDS } from './inspection';

/** Names for ids and days for moments, for putting records into words. */
export interface Names {
  readonly place: (id: PlaceId) => string;
  readonly person: (id: PersonId) => string;
  readonly craft: (id: CraftId) => string;
  /** The day of a moment where the reader is. */
  readonly day: (at: Instant) => string;
}

/** A record in one line: measured figures apart from words, because they are set in another face. */
export interface RecordLine {
  readonly figures: string;
  readonly words: string;
}

/** What a record says. */
export function recordLine(record: Correctable | Uncorrectable, names: Names): RecordLine {
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
    case 'memory':
      return memoryLine(record.payload);
    case 'received':
    case 'moved':
    case 'taken-out':
    case 'returned':
    case 'note':
      return { figures: '', words: wordsOf(record, names) };
    case 'incident':
    case 'watch-ended':
    case 'inspection-asked':
    case 'decision':
    case 'confirmation':
    case 'recovery':
    case 'disposal':
      return { figures: '', words: uncorrectableWords(record, names) };
    default:
      return record satisfies never;
  }
}

function wordsOf(
  record: Extract<Correctable, { kind: 'received' | 'moved' | 'taken-out' | 'returned' | 'note' }>,
  names: Names,
): string {
  switch (record.kind) {
    case 'received': {
      const { source, placeId, before } = record.payload;
      const came = [source ?? 'Taken into the register', placeId && `laid in ${names.place(placeId)}`];
      return joined([
        came.filter(Boolean).join(', '),
        before && 'in use before',
        before?.cycles != null && plural(before.cycles, 'cycle'),
        before?.flights != null && plural(before.flights, 'flight'),
      ]);
    }
    case 'moved': {
      const { placeId, holderId } = record.payload;
      const slot = record.payload.slot ? `, slot ${record.payload.slot}` : '';
      const where = placeId ? `to ${names.place(placeId)}${slot}` : 'to no fixed place';
      return holderId ? `${where}, with ${names.person(holderId)}` : where;
    }
    case 'taken-out': {
      const { holderId, fromId, craftId, dueBackAt, shortFlight, counters, remarks } = record.payload;
      return joined([
        holderId && `by ${names.person(holderId)}`,
        fromId && `from ${names.person(fromId)}`,
        craftId && `for ${names.craft(craftId)}`,
        dueBackAt && `back by ${names.day(dueBackAt)}`,
        shortFlight && 'not charged, for a short flight',
        ...counted(counters),
        remarks,
      ]);
    }
    case 'returned': {
      const { placeId, slot, used, unplugged, counters, remarks } = record.payload;
      return joined([
        used ? 'used' : 'not used',
        placeId && `to ${names.place(placeId)}${slot ? `, slot ${slot}` : ''}`,
        unplugged === false && 'still plugged in',
        ...counted(counters),
        remarks,
      ]);
    }
    case 'note':
      return record.payload.text;
    default:
      return record satisfies never;
  }
}

/** What each setting of a smart pack's memory is called. */
export const MEMORY_SETTING_WORDS: Readonly<Record<MemorySetting, string>> = {
  storage: 'its own storage',
  delay: 'when that begins',
  'storage-volts': 'where that stops',
  top: 'its top',
  current: 'its current',
};

const MEMORY_WORDS: Readonly<Record<MemoryPayload['did'], string>> = {
  read: 'read',
  written: 'set',
  updated: 'updated',
};

/** What was done with a smart pack's memory, and what it said or was told. */
function memoryLine({ did, memory, remarks }: MemoryPayload): RecordLine {
  if (memory === null)
    return {
      figures: '',
      words: joined([did === 'read' ? 'could not be read' : MEMORY_WORDS[did], remarks]),
    };
  const { storage, topMv, chargeA, cycles, firmware, firmwareDate } = memory;
  const faults = faultsOf(memory);
  const own = storage && {
    wait: storage.isOn && storage.afterHours !== null ? ` after ${storage.afterHours} h` : '',
    to: storage.isOn && storage.mv !== null ? ` at ${volts(storage.mv)} V` : '',
  };
  return {
    figures: '',
    words: joined([
      MEMORY_WORDS[did],
      own && storage && (storage.isOn ? `stores itself${own.wait}${own.to}` : 'its own storage is off'),
      topMv !== null && `top ${volts(topMv)} V`,
      chargeA !== null && amps(chargeA),
      ...counted({ cycles, faults }),
      firmware !== null && `program ${firmware}${firmwareDate === null ? '' : ` of ${firmwareDate}`}`,
      remarks,
    ]),
  };
}

function counted(counters: OwnCounters | null): readonly (string | false)[] {
  if (!counters) return [];
  const { cycles, faults } = counters;
  return [
    cycles !== null && `${plural(cycles, 'cycle')} by its own count`,
    faults !== null && `${plural(faults, 'fault')} by its own count`,
  ];
}

/** What a decision or a step on a pack's way says. */
function uncorrectableWords(record: Uncorrectable, names: Names): string {
  switch (record.kind) {
    case 'incident':
      return `${INCIDENT_WORDS[record.payload.kind].name}${record.payload.holds ? '' : ', not held for it'}`;
    case 'watch-ended':
    case 'inspection-asked':
      return record.payload.reason;
    case 'decision': {
      const { what, reason } = record.payload;
      return `${decisionWords(what, names)}: ${reason}`;
    }
    case 'confirmation':
      return joined(['under the retirement', record.payload.reason]);
    case 'recovery':
      return recoveryWords(record.payload);
    case 'disposal':
      return disposalLine(record.payload, names.place);
    default:
      return record satisfies never;
  }
}

function decisionWords(what: DecisionPayload['what'], names: Names): string {
  switch (what.to) {
    case 'hold':
      return 'Put on hold';
    case 'release': {
      const { watch } = what;
      if (watch === 'none') return 'Released';
      return watch === 'for-good'
        ? 'Released, on caution for good'
        : `Released, on caution until ${names.day(watch.until)}`;
    }
    case 'retire':
      return what.secondWanted ? 'Retired, a second name wanted' : 'Retired';
    default:
      return what satisfies never;
  }
}

function recoveryWords(payload: RecoveryPayload): string {
  switch (payload.step) {
    case 'begun':
      return `Begun at ${amps(payload.currentA)} on ${payload.charger}, attended by ${payload.attendant}: ${payload.causeText}`;
    case 'looked':
      return joined([`Felt: ${payload.feels}`, payload.cellsMv?.map(volts).join(' ')]);
    case 'ended':
      return joined([RECOVERY_WORDS[payload.how], payload.cellsMv?.map(volts).join(' '), payload.remarks]);
    default:
      return payload satisfies never;
  }
}

export const RECOVERY_WORDS: Readonly<Record<RecoveryEnding, string>> = {
  reached: 'Came up',
  warm: 'Got warm, stopped',
  time: 'Time over, stopped',
  'given-up': 'Given up',
};

export const MODE_WORDS: Readonly<Record<ChargeMode, string>> = {
  balance: 'balance charge',
  fast: 'fast charge',
  storage: 'to storage',
  discharge: 'discharge',
};

export const ENDING_WORDS: Readonly<Record<ChargeEnding, string>> = {
  complete: 'complete',
  taper: 'stopped on the taper',
  quick: 'quick phase only',
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
  measured: device,
}: ReadingPayload): RecordLine {
  return {
    figures: figuresOf(read),
    words: joined([
      condition === 'loaded' ? 'under load' : condition,
      device ? `${instrument}, by itself` : instrument,
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
      flight.flownBy ?? (pilotId && names.person(pilotId)),
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
