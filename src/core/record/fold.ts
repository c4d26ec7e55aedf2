import { HOUR_MS, MINUTE_MS } from '../measure';
import type { CraftId, Instant, PersonId, PlaceId, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { ReadingCondition } from '../reading';
import { IN_SERVICE, lifeAfterRetirement, lifeAfterSecondName, lifeAfterStep } from '../lifecycle';
import type { Life } from '../lifecycle';
import { effectiveRecords } from './effective';
import type { EffectiveRecord } from './effective';
import { faultsOf, reliedOn } from './memory';
import type { CountEvent, MemoryEvent } from './memory';
import type {
  ChargePayload,
  DecisionPayload,
  FlightPayload,
  IncidentPayload,
  InspectionAskedPayload,
  InspectionPayload,
  LandingVolts,
  LifeBefore,
  OwnCounters,
  PackRecord,
  ReadVolts,
  RecoveryPayload,
  ResistancePayload,
  WatchEndedPayload,
} from './record';

/** One reading that counts. */
export interface ReadingEvent {
  readonly at: Instant;
  readonly by: PersonId;
  readonly volts: ReadVolts;
  readonly condition: ReadingCondition;
  readonly meterErrorMv: number;
  readonly records: readonly RecordId[];
}

interface Happened {
  /** When it ended. */
  readonly at: Instant;
  readonly by: PersonId;
  readonly records: readonly RecordId[];
}

export type ResistanceEvent = Happened & ResistancePayload;
export type ChargeEvent = Happened & ChargePayload & { readonly startedAt: Instant };
export type FlightEvent = Happened &
  FlightPayload & {
    readonly startedAt: Instant;
    /** Null where it was somebody the register does not know. */
    readonly pilot: PersonId | null;
  };

export type InspectionEvent = Happened & InspectionPayload;

/** The pack was in an incident; `endedEarly` when somebody ended its watch before its time. */
export type IncidentEvent = Happened &
  IncidentPayload & { readonly endedEarly: (Happened & WatchEndedPayload) | null };
export type AskedEvent = Happened & InspectionAskedPayload;
export type DecisionEvent = Happened & DecisionPayload;
export type RecoveryEvent = Happened & RecoveryPayload;

/** From when on the pack lay somewhere, and who had it. */
export interface MoveEvent {
  readonly at: Instant;
  readonly placeId: PlaceId | null;
  readonly slot: number | null;
  readonly holderId: PersonId | null;
}

/** Who has a pack now, from when on and for what. */
export interface Custody {
  readonly holderId: PersonId;
  readonly since: Instant;
  /** The taking-out; null where it was only said in whose hands the pack is. */
  readonly recordId: RecordId | null;
  readonly craftId: CraftId | null;
  readonly dueBackAt: Instant | null;
  /** Somebody else who had it, and of whom whoever took it did not know; until one of the two answers. */
  readonly alsoWith: {
    readonly person: PersonId;
    readonly since: Instant;
    readonly recordId: RecordId | null;
  } | null;
}

/** One taking-out, from when it was in those hands until it was in others or back. */
export interface TakingEvent extends Happened {
  readonly holderId: PersonId;
  readonly craftId: CraftId | null;
  readonly dueBackAt: Instant | null;
  /** Null while it is still out. */
  readonly endedAt: Instant | null;
}

/** Everything the records tell about one pack, before any house rule has judged it. */
export interface PackHistory {
  /** Its facts; how it stores itself is as its memory last said. */
  readonly pack: PackFacts;
  readonly receivedAt: Instant | null;
  /** What it had behind it when it came; null for a pack that was new. */
  readonly before: LifeBefore | null;
  /** Every set of volts that counts, oldest first: meter readings, volts on landing, volts before a charge. */
  readonly readings: readonly ReadingEvent[];
  readonly resistances: readonly ResistanceEvent[];
  readonly charges: readonly ChargeEvent[];
  readonly flights: readonly FlightEvent[];
  readonly inspections: readonly InspectionEvent[];
  readonly moves: readonly MoveEvent[];
  readonly incidents: readonly IncidentEvent[];
  /** Inspections somebody asked for. */
  readonly asked: readonly AskedEvent[];
  readonly decisions: readonly DecisionEvent[];
  readonly recoveries: readonly RecoveryEvent[];
  /** Work on the pack's own memory, oldest first. */
  readonly memories: readonly MemoryEvent[];
  /** What the pack itself counted, oldest first. */
  readonly counts: readonly CountEvent[];
  readonly life: Life;
  readonly placeId: PlaceId | null;
  readonly slot: number | null;
  readonly holderId: PersonId | null;
  /** Null while nobody has it. */
  readonly custody: Custody | null;
  /** Every time it was taken out, oldest first. */
  readonly takings: readonly TakingEvent[];
  readonly lastRecordAt: Instant | null;
  /** What was written down long after it happened, and when that was. */
  readonly writtenLater: ReadonlyMap<RecordId, Instant>;
}

/** What is written down in the evening of its day is told in good time. */
const IN_GOOD_TIME_MS = 12 * HOUR_MS;

/** Whether something was written down so long after it happened that whoever relies on it should know. */
export function isWrittenLater({ at, recordedAt }: Pick<PackRecord, 'at' | 'recordedAt'>): boolean {
  return recordedAt - at >= IN_GOOD_TIME_MS;
}

/** What a pack's records add up to. Records may come in any order; the result is the same. */
export function fold(pack: PackFacts, records: readonly PackRecord[]): PackHistory {
  return folded({ ...NOTHING_YET, pack }, pack, effectiveRecords(records));
}

/**
 * What the records of a history add up to together with some that came since: the same as {@link fold} makes of all of them, without going
 * through the older ones. Null where that takes more: a correction changes what was, and what happened no later than the last record has its place
 * among the others.
 * @param before as it was folded with the very same facts of the pack
 */
export function foldOn(
  before: PackHistory,
  pack: PackFacts,
  fresh: readonly PackRecord[],
): PackHistory | null {
  const { lastRecordAt } = before;
  if (lastRecordAt === null) return null;
  if (fresh.some(({ kind, at }) => kind === 'correction' || at <= lastRecordAt)) return null;
  const history = folded(before, pack, effectiveRecords(fresh));
  // One step back is far enough, and all of them would never be let go of.
  continuedFrom.delete(before);
  continuedFrom.set(history, before);
  return history;
}

const continuedFrom = new WeakMap<PackHistory, PackHistory>();

/** The history that this one goes on from, where it was made by {@link foldOn}: what was worked out from that one may still hold. */
export function earlierOf(history: PackHistory): PackHistory | null {
  return continuedFrom.get(history) ?? null;
}

/**
 * Whether a list begins with all of another one's entries, the very same ones. Entries are put in, and never taken out or put in another order.
 * @example beginsWith(['a', 'b', 'c'], ['a', 'b']) // => true
 * @example beginsWith(['a', 'c', 'b'], ['a', 'b']) // => false
 */
export function beginsWith<One>(list: readonly One[], head: readonly One[]): boolean {
  return head.length === 0 || list[head.length - 1] === head.at(-1);
}

const NOTHING_YET: Omit<PackHistory, 'pack'> = {
  receivedAt: null,
  before: null,
  readings: [],
  resistances: [],
  charges: [],
  flights: [],
  inspections: [],
  moves: [],
  incidents: [],
  asked: [],
  decisions: [],
  recoveries: [],
  memories: [],
  counts: [],
  life: IN_SERVICE,
  placeId: null,
  slot: null,
  holderId: null,
  custody: null,
  takings: [],
  lastRecordAt: null,
  writtenLater: new Map(),
};

/** A history with more records, none of which happened before its last one. */
function folded(history: PackHistory, pack: PackFacts, records: readonly EffectiveRecord[]): PackHistory {
  const readings = [...history.readings];
  const resistances = [...history.resistances];
  const charges = [...history.charges];
  const flights = [...history.flights];
  const inspections = [...history.inspections];
  const moves = [...history.moves];
  const incidents = [...history.incidents];
  const asked = [...history.asked];
  const decisions = [...history.decisions];
  const recoveries = [...history.recoveries];
  const memories = [...history.memories];
  const counts = [...history.counts];
  const takings = [...history.takings];
  const writtenLater = new Map(history.writtenLater);
  let { life, receivedAt, before, placeId, slot, holderId, custody, lastRecordAt } = history;
  for (const record of records) {
    lastRecordAt = record.at;
    if (isWrittenLater(record)) writtenLater.set(record.id, record.recordedAt);
    switch (record.kind) {
      case 'received':
        receivedAt = record.at;
        before = record.payload.before ?? null;
        placeId = record.payload.placeId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case 'reading':
        readings.push(readingEvent(record));
        break;
      case 'resistance':
        resistances.push(resistanceEvent(record));
        break;
      case 'charge': {
        const charge = chargeEvent(record);
        charges.push(charge);
        if (charge.startCellsMv) insertByTime(readings, startReading(charge, charge.startCellsMv));
        break;
      }
      case 'flight': {
        const flight = flightEvent(record);
        flights.push(flight);
        if (flight.landing) insertByTime(readings, landingReading(flight, flight.landing));
        break;
      }
      case 'inspection':
        inspections.push(inspectionEvent(record));
        break;
      case 'moved':
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        if (record.payload.holderId !== holderId) endTaking(takings, record.at);
        custody = custodyAfterMove(custody, record);
        holderId = record.payload.holderId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case 'taken-out':
        custody = custodyAfterTakingOut(custody, record);
        placeId = null;
        slot = null;
        holderId = custody.holderId;
        endTaking(takings, record.at);
        takings.push(takingEvent(record, holderId));
        count(counts, record, record.payload.counters);
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case 'returned':
        endTaking(takings, record.at);
        count(counts, record, record.payload.counters);
        custody = null;
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        holderId = null;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case 'memory': {
        memories.push({ ...happened(record), ...record.payload });
        const { did, memory } = record.payload;
        if (did === 'read' && memory)
          count(counts, record, { cycles: memory.cycles, faults: faultsOf(memory) });
        break;
      }
      case 'note':
        break;
      case 'incident':
        incidents.push({ ...happened(record), ...record.payload, endedEarly: null });
        break;
      case 'watch-ended': {
        const ended = { ...happened(record), ...record.payload };
        const which = incidents.findIndex(({ incidentId }) => incidentId === ended.incidentId);
        if (which !== -1) incidents[which] = { ...incidents[which]!, endedEarly: ended };
        break;
      }
      case 'inspection-asked':
        asked.push({ ...happened(record), ...record.payload });
        break;
      case 'decision':
        decisions.push({ ...happened(record), ...record.payload });
        if (record.payload.what.to === 'retire') {
          const { secondWanted } = record.payload.what;
          life = lifeAfterRetirement(life, { ...stamp(record), secondWanted });
        }
        break;
      case 'confirmation':
        life = lifeAfterSecondName(life, { ...stamp(record), decisionId: record.payload.decisionId });
        break;
      case 'recovery':
        recoveries.push({ ...happened(record), ...record.payload });
        break;
      case 'disposal':
        life = lifeAfterStep(life, { ...stamp(record), payload: record.payload });
        // It lies in the container from then on, and nowhere once it is gone.
        if (record.payload.step === 'binned' || record.payload.step === 'recycled') {
          placeId = record.payload.step === 'binned' ? record.payload.placeId : null;
          slot = null;
          holderId = null;
          endTaking(takings, record.at);
          custody = null;
          moves.push({ at: record.at, placeId, slot, holderId });
        }
        break;
      default:
        record satisfies never;
    }
  }
  return {
    pack:
      memories.length === history.memories.length
        ? history.pack
        : { ...pack, smart: reliedOn(pack.smart, memories) },
    receivedAt,
    before,
    readings,
    resistances,
    charges,
    flights,
    inspections,
    moves,
    incidents,
    asked,
    decisions,
    recoveries,
    memories,
    counts,
    life,
    placeId,
    slot,
    holderId,
    custody,
    takings,
    lastRecordAt,
    writtenLater,
  };
}

/** In whose hands it was said to be: theirs already, or newly so, without a word of what for. */
function custodyAfterMove(known: Custody | null, { at, payload }: Of<'moved'>): Custody | null {
  const { holderId } = payload;
  if (holderId === null) return null;
  if (known?.holderId === holderId && known.alsoWith === null) return known;
  return { holderId, since: at, recordId: null, craftId: null, dueBackAt: null, alsoWith: null };
}

/** Neither of two takings-out is put aside: whoever had it, and was not named as giving it away, is named beside whoever has it now. */
function custodyAfterTakingOut(known: Custody | null, { id, at, by, payload }: Of<'taken-out'>): Custody {
  const { fromId, craftId, dueBackAt } = payload;
  const holderId = payload.holderId ?? by;
  const { holderId: person, since, recordId } = known ?? {};
  const unknown = person !== undefined && person !== fromId && person !== holderId;
  return {
    holderId,
    since: at,
    recordId: id,
    craftId,
    dueBackAt,
    alsoWith: unknown ? { person, since: since!, recordId: recordId! } : null,
  };
}

function takingEvent({ at, by, records, payload }: Of<'taken-out'>, holderId: PersonId): TakingEvent {
  const { craftId, dueBackAt } = payload;
  return { at, by, records, holderId, craftId, dueBackAt, endedAt: null };
}

/** Whoever had it last has it no more from then on. */
function endTaking(takings: TakingEvent[], at: Instant): void {
  const last = takings.at(-1);
  if (last?.endedAt === null) takings[takings.length - 1] = { ...last, endedAt: at };
}

/** Notes what the pack itself counted, where anybody read it. */
function count(counts: CountEvent[], { at, by, records }: EffectiveRecord, read: OwnCounters | null): void {
  if (read && (read.cycles !== null || read.faults !== null)) counts.push({ at, by, records, ...read });
}

function happened({ at, by, records }: EffectiveRecord): Happened {
  return { at, by, records };
}

function stamp({ at, by, id }: EffectiveRecord) {
  return { at, by, id };
}

/** A craft's or a charger's own voltmeter is coarser than one on the bench; the practice gives no figure, so a cautious one. */
const ON_BOARD_ERROR_MV = 10;

/** A charge nobody timed: what a 1C charge takes. Its first volts were read before it, not at its end. */
const ASSUMED_CHARGE_MINUTES = 60;

type Of<Kind extends EffectiveRecord['kind']> = Extract<EffectiveRecord, { kind: Kind }>;

// Written out rather than spread: spreading payloads made a fold of 500 records ten times slower.

function resistanceEvent({ at, by, records, payload }: Of<'resistance'>): ResistanceEvent {
  const { irMilliohm, temperatureC, instrument, remarks } = payload;
  return { at, by, records, irMilliohm, temperatureC, instrument, remarks };
}

function chargeEvent(record: Of<'charge'>): ChargeEvent {
  const { at, by, records, payload } = record;
  return {
    at,
    by,
    records,
    startedAt: record.at - (payload.minutes ?? ASSUMED_CHARGE_MINUTES) * MINUTE_MS,
    mode: payload.mode,
    charger: payload.charger,
    settings: payload.settings,
    startCellsMv: payload.startCellsMv,
    endCellsMv: payload.endCellsMv,
    movedMah: payload.movedMah,
    minutes: payload.minutes,
    temperatureC: payload.temperatureC,
    felt: payload.felt ?? null,
    balanced: payload.balanced,
    ending: payload.ending,
    remarks: payload.remarks,
    bench: payload.bench ?? null,
  };
}

function flightEvent(record: Of<'flight'>): FlightEvent {
  const { at, by, records, payload } = record;
  return {
    at,
    by,
    records,
    startedAt: record.at - (payload.minutes ?? 0) * MINUTE_MS,
    pilot: payload.flownBy ? null : (payload.pilotId ?? by),
    pilotId: payload.pilotId,
    flownBy: payload.flownBy ?? null,
    craft: payload.craft,
    craftId: payload.craftId ?? null,
    craftSetup: payload.craftSetup ?? null,
    minutes: payload.minutes,
    landing: payload.landing,
    usedMah: payload.usedMah,
    hottestC: payload.hottestC,
    felt: payload.felt ?? null,
    ambientC: payload.ambientC,
    remarks: payload.remarks,
  };
}

function inspectionEvent({ at, by, records, payload }: Of<'inspection'>): InspectionEvent {
  const { occasion, items, swelling, thicknessMm, massG, felt, remarks } = payload;
  return { at, by, records, occasion, items, swelling, thicknessMm, massG, felt: felt ?? null, remarks };
}

function landingReading({ at, by, records }: FlightEvent, landing: LandingVolts): ReadingEvent {
  const { volts, condition } = landing;
  return { at, by, volts, condition, meterErrorMv: ON_BOARD_ERROR_MV, records };
}

function readingEvent(record: Of<'reading'>): ReadingEvent {
  return {
    at: record.at,
    by: record.by,
    volts: record.payload.volts,
    condition: record.payload.condition,
    meterErrorMv: record.payload.meterErrorMv,
    records: record.records,
  };
}

/** Volts read before a charge stand for the pack as it was put on; whether it had rested is judged like any other claim. */
function startReading(charge: ChargeEvent, cellsMv: readonly number[]): ReadingEvent {
  return {
    at: charge.startedAt,
    by: charge.by,
    volts: { of: 'cells', cellsMv },
    condition: 'rested',
    meterErrorMv: ON_BOARD_ERROR_MV,
    records: charge.records,
  };
}

/** A charge is dated at its end but was read at its start, so its reading may belong before later ones. */
function insertByTime(readings: ReadingEvent[], reading: ReadingEvent): void {
  let place = readings.length;
  while (place > 0 && readings[place - 1]!.at > reading.at) place -= 1;
  readings.splice(place, 0, reading);
}
