import { answersTo } from '../admission';
import type { Circumstances } from '../admission';
import { assess } from '../assess';
import type { Assessment } from '../assess';
import type { Chemistry } from '../chemistry';
import type { IncidentKind } from '../incident';
import { answeredItems, DEFAULT_CHECKLISTS } from '../inspection';
import type { Marks, Occasion } from '../inspection';
import type { DisposalPayload } from '../lifecycle';
import { HOUR_MS } from '../measure';
import type { IncidentId, Instant, PackId, PersonId, PlaceId, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { ReadingCondition } from '../reading';
import { BLANK_CHARGE, BLANK_FLIGHT, fold } from '../record';
import type {
  ChargePayload,
  DecisionPayload,
  FlightPayload,
  InspectionPayload,
  PackRecord,
  RecordBody,
  RecoveryPayload,
  WatchAfter,
} from '../record';
import { PRESET_RULES } from '../rules';
import type { HouseRules } from '../rules';

/** Builders for tests: packs and records in the fewest words. */

export const START: Instant = Date.UTC(2026, 2, 2, 8, 0);
export const SOMEBODY = '0195a000-0000-7000-8000-000000000001' as PersonId;
export const EVEN_KEEL = PRESET_RULES['even-keel'];

export function aPack(facts: Partial<PackFacts> = {}): PackFacts {
  return {
    id: '0195a000-0000-7000-8000-0000000000aa' as PackId,
    chemistry: 'lipo',
    series: 4,
    parallel: 1,
    capacityMah: 3300,
    continuousC: 20,
    burstC: 40,
    chargeC: 2,
    dutyClass: 'normal',
    fieldPack: false,
    smart: null,
    inServiceAt: null,
    placeTemperatures: [],
    ...facts,
  };
}

let made = 0;

/** A record, some hours after the start. Ids rise in the order records are made. */
export function aRecord(hours: number, body: RecordBody, more: Partial<PackRecord> = {}): PackRecord {
  made += 1;
  const at = START + hours * HOUR_MS;
  const id = `0195a001-0000-7000-8000-${String(made).padStart(12, '0')}` as RecordId;
  return {
    ...body,
    id,
    packId: aPack().id,
    seq: made,
    at,
    recordedAt: at,
    by: SOMEBODY,
    rulesVersion: 1,
    ...more,
  } as PackRecord;
}

interface ReadingOptions {
  readonly condition?: ReadingCondition;
  readonly meterErrorMv?: number;
}

export function reading(
  hours: number,
  cellsMv: readonly number[],
  { condition = 'rested', meterErrorMv = 5 }: ReadingOptions = {},
): PackRecord {
  return aRecord(hours, {
    kind: 'reading',
    payload: {
      volts: { of: 'cells', cellsMv },
      condition,
      instrument: null,
      meterErrorMv,
      temperatureC: null,
      remarks: null,
    },
    supersedes: null,
  });
}

export function total(hours: number, packMv: number): PackRecord {
  return aRecord(hours, {
    kind: 'reading',
    payload: {
      volts: { of: 'pack', packMv },
      condition: 'rested',
      instrument: null,
      meterErrorMv: 5,
      temperatureC: null,
      remarks: null,
    },
    supersedes: null,
  });
}

/** A finished balance charge unless told otherwise, ended at this hour. */
export function charge(hours: number, more: Partial<ChargePayload> = {}): PackRecord {
  const payload = { ...BLANK_CHARGE, ...more };
  return aRecord(hours, { kind: 'charge', payload, supersedes: null });
}

/** A flight that landed at this hour, with nothing noted unless told otherwise. */
export function flight(hours: number, more: Partial<FlightPayload> = {}): PackRecord {
  const payload = { ...BLANK_FLIGHT, ...more };
  return aRecord(hours, { kind: 'flight', payload, supersedes: null });
}

export function resistance(hours: number, irMilliohm: readonly number[], temperatureC = 25): PackRecord {
  return aRecord(hours, {
    kind: 'resistance',
    payload: { irMilliohm, temperatureC, instrument: null, remarks: null },
    supersedes: null,
  });
}

/** A look over the pack at this hour: everything in order but what is named. */
export function inspection(
  hours: number,
  occasion: Occasion = 'scheduled',
  more: Partial<InspectionPayload> = {},
  wrong: readonly string[] = [],
): PackRecord {
  const marks: Marks = Object.fromEntries(
    wrong.map((key) => [key, { answer: 'fail' as const, note: '', photoIds: [] }]),
  );
  const items = answeredItems(DEFAULT_CHECKLISTS[occasion], marks);
  const payload = { occasion, items, swelling: null, thicknessMm: null, massG: null, remarks: null, ...more };
  return aRecord(hours, { kind: 'inspection', payload, supersedes: null });
}

export function moved(hours: number, holderId: PersonId | null, placeId: PlaceId | null = null): PackRecord {
  return aRecord(hours, { kind: 'moved', payload: { placeId, holderId }, supersedes: null });
}

export function received(hours = -1): PackRecord {
  return aRecord(hours, { kind: 'received', payload: { source: null, placeId: null }, supersedes: null });
}

export function note(hours: number, text = 'a note'): PackRecord {
  return aRecord(hours, { kind: 'note', payload: { text }, supersedes: null });
}

/** Withdraws a record, or says what it should have said. */
export function correction(hours: number, of: PackRecord, instead: PackRecord | null): PackRecord {
  const replacement =
    instead && instead.kind !== 'correction'
      ? ({ kind: instead.kind, payload: instead.payload } as never)
      : null;
  return aRecord(hours, {
    kind: 'correction',
    payload: { reason: 'a slip', replacement },
    supersedes: of.id,
  });
}

/** What is said of a pack with these records, some hours after the start. */
export function judged(
  pack: PackFacts,
  records: readonly PackRecord[],
  hours = 0,
  rules: HouseRules = EVEN_KEEL,
): Assessment {
  return assess(fold(pack, records), rules, START + hours * HOUR_MS);
}

/** As many equal cells as the pack has. */
export function level(pack: PackFacts, mv: number): number[] {
  return Array.from({ length: pack.series }, () => mv);
}

export const SERIES_OF: Readonly<Record<Chemistry, number>> = {
  lipo: 4,
  lihv: 4,
  liion: 4,
  lifepo4: 4,
  nimh: 6,
};

/** The rules that found something, and how grave. */
export function found(assessment: Assessment): Record<string, string> {
  return Object.fromEntries(assessment.findings.map(({ rule, severity }) => [rule, severity]));
}

/** What the gate looks at besides the pack, in a house where nothing is special. */
export const PLAIN: Circumstances = { rules: EVEN_KEEL, places: new Map(), through: 'records' };

const INCIDENT = '0195a002-0000-7000-8000-000000000001' as IncidentId;

/** The pack was in an incident at this hour, a crash unless told otherwise. */
export function incident(hours: number, kind: IncidentKind = 'crash', holds = true): PackRecord {
  const payload = { incidentId: INCIDENT, kind, holds };
  return aRecord(hours, { kind: 'incident', payload, supersedes: null });
}

export function watchEnded(hours: number): PackRecord {
  const payload = { incidentId: INCIDENT, reason: 'cold and quiet' };
  return aRecord(hours, { kind: 'watch-ended', payload, supersedes: null });
}

export function decision(
  hours: number,
  what: DecisionPayload['what'],
  more: Partial<PackRecord> = {},
): PackRecord {
  const payload = { basedOnSeq: 1, reason: 'looked at', what };
  return aRecord(hours, { kind: 'decision', payload, supersedes: null }, more);
}

/** A release of whatever keeps the pack of these records out of use at this hour. */
export function release(
  hours: number,
  pack: PackFacts,
  records: readonly PackRecord[],
  watch: WatchAfter = 'none',
  rules = EVEN_KEEL,
): PackRecord {
  const { findings } = assess(fold(pack, records), rules, START + hours * HOUR_MS);
  return decision(hours, { to: 'release', answers: answersTo(findings), watch });
}

export function disposal(hours: number, payload: DisposalPayload): PackRecord {
  return aRecord(hours, { kind: 'disposal', payload, supersedes: null });
}

export function recovery(hours: number, payload: RecoveryPayload): PackRecord {
  return aRecord(hours, { kind: 'recovery', payload, supersedes: null });
}
