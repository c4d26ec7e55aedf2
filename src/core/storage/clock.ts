import { isLithium, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { DAY_MS, HOUR_MS, hoursBetween } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { bandSide } from './band';
import type { BandSide } from './band';
import { SELF_DISCHARGE_PERCENT_PER_MONTH } from './carried';
import type { StorageEvidence } from './evidence';

/** A pack that is out of its band: since when, and by when it must be back. */
export interface RunningClock {
  readonly state: 'high' | 'low';
  readonly since: Instant;
  readonly allowanceHours: number;
  readonly dueAt: Instant;
  /** When a smart pack will have brought itself to storage; null for a pack that does not. */
  readonly bledAt: Instant | null;
  /** When it was charged faster than at home and is to be flown or drained the same day; null where it was not. */
  readonly fieldChargedAt: Instant | null;
  /** The records it rests on: what started it and the latest. */
  readonly records: readonly RecordId[];
}

/**
 * How a pack stands towards storage. `pending` was brought to storage but not read since; `self-storing` is full and within
 * the rules brings itself to storage; `unmeasured` was never read, was used since, or was not read for so long that nobody
 * knows any more, and is not compliant; `no-rule` is a chemistry without a storage voltage.
 */
export type StorageState =
  | RunningClock
  | { readonly state: 'in-band'; readonly since: Instant; readonly records: readonly RecordId[] }
  | {
      readonly state: 'self-storing';
      readonly since: Instant;
      readonly bledAt: Instant;
      readonly records: readonly RecordId[];
    }
  | {
      readonly state: 'pending';
      readonly by: 'job' | 'own-bleed';
      readonly since: Instant;
      readonly records: readonly RecordId[];
    }
  | {
      readonly state: 'unmeasured';
      readonly why: 'never' | 'used' | 'lapsed';
      /** When it was used, or when what was known of it stopped being enough. */
      readonly since: Instant | null;
      readonly records: readonly RecordId[];
    }
  | { readonly state: 'no-rule' };

/** Every way a pack can stand towards storage. */
export const STORAGE_STATES = [
  'in-band',
  'high',
  'low',
  'self-storing',
  'pending',
  'unmeasured',
  'no-rule',
] as const satisfies readonly StorageState['state'][];

/** How far the records carry a pack, before its allowance is put to it. */
type ClockState =
  | { readonly state: 'unmeasured'; readonly used: UsedFrom | null }
  | { readonly state: 'pending'; readonly since: Instant; readonly records: readonly RecordId[] }
  | {
      readonly state: BandSide;
      readonly since: Instant;
      readonly records: readonly RecordId[];
      readonly fieldChargedAt: Instant | null;
    };

/** A use, and what the pack was known to be when it began. */
interface UsedFrom {
  readonly at: Instant;
  readonly before: ClockState;
  readonly records: readonly RecordId[];
}

/**
 * The storage state that the evidence adds up to. The clock starts when the pack is known to have left the band: a
 * charge ended, it landed, a reading. It runs, whoever holds the pack, until a rested reading inside the band or a
 * completed storage job; a reading on the other side starts the other allowance anew. What is full stays full until
 * something says otherwise, except that a smart pack bleeds itself to storage after its own delay. Nothing is compliant for
 * ever: what was read or put into the band counts until its leak may have taken it out.
 * @param evidence in the order it happened
 */
export function storageState(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: HouseRules,
  now: Instant,
): StorageState {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return { state: 'no-rule' };
  const clockState = standing(evidence, chemistry, rules);
  if (clockState.state === 'unmeasured') {
    const { used } = clockState;
    const why = used ? 'used' : 'never';
    return { state: 'unmeasured', why, since: used?.at ?? null, records: used?.records ?? [] };
  }
  const last = evidence.at(-1)!;
  const lapsed = (at: Instant, records: readonly RecordId[]): StorageState | null =>
    now < at ? null : { state: 'unmeasured', why: 'lapsed', since: at, records };
  const { since, records } = clockState;
  if (clockState.state === 'pending') {
    const state: StorageState = { state: 'pending', by: 'job', since, records };
    return lapsed(lapsesAt(chemistry, last, rules), records) ?? state;
  }
  if (clockState.state === 'in-band')
    return lapsed(lapsesAt(chemistry, last, rules), records) ?? { state: 'in-band', since, records };
  const { state, fieldChargedAt } = clockState;
  const bledAt = state === 'high' ? selfStoredAt(pack, last.at, rules) : null;
  if (bledAt !== null && now >= bledAt) {
    const stored = { ...last, at: bledAt, kind: 'stored' as const };
    const pending: StorageState = { state: 'pending', by: 'own-bleed', since: bledAt, records };
    return lapsed(lapsesAt(chemistry, stored, rules), records) ?? pending;
  }
  const leaked = state === 'high' ? lapsed(leakedIntoBandAt(chemistry, last, rules), records) : null;
  if (leaked) return leaked;
  const allowanceHours = allowance(pack, state, rules);
  const ownDelay = pack.smart?.autoStorageAfterHours ?? Infinity;
  if (bledAt !== null && ownDelay <= allowanceHours && fieldChargedAt === null)
    return { state: 'self-storing', since, bledAt, records };
  const dueAt = dueAtOf(clockState, allowanceHours, rules);
  return { state, since, allowanceHours, dueAt, bledAt, fieldChargedAt, records };
}

function dueAtOf(
  { since, fieldChargedAt }: { readonly since: Instant; readonly fieldChargedAt: Instant | null },
  allowanceHours: number,
  rules: HouseRules,
): Instant {
  return Math.min(
    since + allowanceHours * HOUR_MS,
    fieldChargedAt === null ? Infinity : fieldChargedAt + rules.charge.fieldHours * HOUR_MS,
  );
}

/** A clock that ran once, and what ended it. */
export interface EndedClock {
  readonly dueAt: Instant;
  /** What started it. */
  readonly records: readonly RecordId[];
  readonly endedBy: StorageEvidence;
}

/**
 * The storage clock that ended last; null where none ever did, and for a pack that brings itself to storage.
 * @param evidence in the order it happened
 */
export function lastEndedClock(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: HouseRules,
): EndedClock | null {
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.smart?.autoStorage) return null;
  let clockState: ClockState = { state: 'unmeasured', used: null };
  let ended: EndedClock | null = null;
  for (const one of evidence) {
    const next = standingAfter(clockState, one, chemistry, rules);
    if ((clockState.state === 'high' || clockState.state === 'low') && next.state !== clockState.state) {
      const dueAt = dueAtOf(clockState, allowance(pack, clockState.state, rules), rules);
      ended = { dueAt, records: clockState.records, endedBy: one };
    }
    clockState = next;
  }
  return ended;
}

/** Where the records carry a pack is asked about many moments; only its allowance depends on them. */
const stood = new WeakMap<
  readonly StorageEvidence[],
  { readonly chemistry: LithiumChemistry; readonly rules: HouseRules; readonly clockState: ClockState }
>();

function standing(
  evidence: readonly StorageEvidence[],
  chemistry: LithiumChemistry,
  rules: HouseRules,
): ClockState {
  const kept = stood.get(evidence);
  if (kept?.rules === rules && kept.chemistry === chemistry) return kept.clockState;
  let clockState: ClockState = { state: 'unmeasured', used: null };
  for (const one of evidence) clockState = standingAfter(clockState, one, chemistry, rules);
  stood.set(evidence, { chemistry, rules, clockState });
  return clockState;
}

const MONTH_DAYS = 30;

/**
 * Until when what was last known to lie in the band is taken to lie there: until a leak of twice the chemistry's own may
 * have taken its lowest cell out below, but no sooner than the rules want it read again.
 */
function lapsesAt(chemistry: LithiumChemistry, last: StorageEvidence, rules: HouseRules): Instant {
  const { bandLowMv, targetMv } = rules.storage[chemistry];
  const lowestMv = last.kind === 'read' || last.kind === 'charged' ? Math.min(...last.cellsMv) : targetMv;
  const spare = Math.max(0, socPercent(chemistry, lowestMv) - socPercent(chemistry, bandLowMv));
  const days = (spare / (2 * SELF_DISCHARGE_PERCENT_PER_MONTH)) * MONTH_DAYS;
  return last.at + Math.max(days, rules.idle.everyDays) * DAY_MS;
}

/** When what was last known to lie above the band has leaked down into it by its chemistry's own leak: nobody knows any more then. */
function leakedIntoBandAt(chemistry: LithiumChemistry, last: StorageEvidence, rules: HouseRules): Instant {
  if (last.kind !== 'read' && last.kind !== 'charged') return Infinity;
  const over =
    socPercent(chemistry, Math.max(...last.cellsMv)) -
    socPercent(chemistry, rules.storage[chemistry].bandHighMv);
  return last.at + (Math.max(0, over) / SELF_DISCHARGE_PERCENT_PER_MONTH) * MONTH_DAYS * DAY_MS;
}

/** The moments at which time alone may change the storage state: it bleeds itself down, leaks into its band, or is not known any more. */
export function storageChanges(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: HouseRules,
): readonly Instant[] {
  const last = evidence.at(-1);
  if (!last || !isLithium(pack.chemistry)) return [];
  const bledAt = selfStoredAt(pack, last.at, rules);
  return [
    lapsesAt(pack.chemistry, last, rules),
    leakedIntoBandAt(pack.chemistry, last, rules),
    ...(bledAt === null
      ? []
      : [bledAt, lapsesAt(pack.chemistry, { kind: 'stored', at: bledAt, records: [] }, rules)]),
  ]
    .filter(Number.isFinite)
    .map(Math.ceil);
}

/** When a smart pack left alone since then will have bled itself to storage; null when it does not do that. */
export function selfStoredAt(
  { smart }: PackFacts,
  leftAloneSince: Instant,
  { bleedDays }: HouseRules,
): Instant | null {
  if (!smart?.autoStorage) return null;
  return leftAloneSince + smart.autoStorageAfterHours * HOUR_MS + bleedDays * DAY_MS;
}

function standingAfter(
  before: ClockState,
  evidence: StorageEvidence,
  chemistry: LithiumChemistry,
  rules: HouseRules,
): ClockState {
  const rule = rules.storage[chemistry];
  const { at, records } = evidence;
  switch (evidence.kind) {
    case 'read': {
      const side = bandSide(evidence.cellsMv, rule);
      return standsOn(before, side, evidence, side === 'high' ? fieldChargedIn(before) : null);
    }
    case 'charged': {
      const side = bandSide(evidence.cellsMv, rule);
      // Volts at a charge's end are not rested: inside the band they are a storage job that waits to be confirmed.
      if (side === 'in-band') return { state: 'pending', since: at, records };
      return standsOn(before, side, evidence, isFieldRate(evidence.rateC, rules) ? at : null);
    }
    case 'filled': {
      // What went in can only have taken it further up; where from is not enough to say that it is in its band.
      const high = before.state === 'high';
      return high ? standsOn(before, 'high', evidence, fieldChargedIn(before)) : usedAfter(before, evidence);
    }
    case 'stored':
      return { state: 'pending', since: at, records };
    case 'used':
    case 'unknown':
      return usedAfter(before, evidence);
    default:
      return evidence satisfies never;
  }
}

function usedAfter(before: ClockState, { at, records }: StorageEvidence): ClockState {
  return { state: 'unmeasured', used: { at, before: beforeUse(before), records } };
}

function fieldChargedIn(clockState: ClockState): Instant | null {
  return clockState.state === 'high' ? clockState.fieldChargedAt : null;
}

/** Chargers set amps in steps; half a percent over a rate is the step. */
const STEP = 1.005;

/** Faster than the house charges at home: such a charge is for flying today. */
function isFieldRate(rateC: number | null, { charge }: HouseRules): boolean {
  return rateC !== null && rateC > charge.homeC * STEP;
}

/** Several uses in a row count from what was last known. */
function beforeUse(before: ClockState): ClockState {
  return before.state === 'unmeasured' && before.used ? before.used.before : before;
}

function standsOn(
  before: ClockState,
  side: BandSide,
  { at, records }: StorageEvidence,
  fieldChargedAt: Instant | null,
): ClockState {
  const stands = (since: Instant, on: readonly RecordId[]): ClockState => ({
    state: side,
    since,
    records: on,
    fieldChargedAt,
  });
  if (before.state === side) return stands(before.since, joined(before.records, records));
  if (before.state !== 'unmeasured' || !before.used) return stands(at, records);
  const { used } = before;
  // Still on the side it was on before it was used: it never came back into the band.
  if (used.before.state === side) return stands(used.before.since, joined(used.before.records, records));
  return stands(side === 'low' ? used.at : at, joined(used.records, records));
}

function joined(first: readonly RecordId[], last: readonly RecordId[]): readonly RecordId[] {
  const begin = first[0];
  return begin === undefined || last.includes(begin) ? last : [begin, ...last];
}

/** Hours a pack may be outside its band on this side. */
export function allowance(
  pack: Pick<PackFacts, 'fieldPack'>,
  side: 'high' | 'low',
  rules: HouseRules,
): number {
  if (side === 'low') return rules.allowance.lowHours;
  return pack.fieldPack ? rules.allowance.fieldHighHours : rules.allowance.highHours;
}

/**
 * Hours a pack has been out of its band by now. Never negative.
 * @example hoursOut({ since: 0 }, 7_200_000) // => 2
 */
export function hoursOut(clock: Pick<RunningClock, 'since'>, now: Instant): number {
  return hoursBetween(clock.since, now);
}

/**
 * Whether the allowance is used up. A pack is compliant for less time than the allowance, so at the due instant it no longer is.
 * @example isOverdue({ dueAt: 10 }, 10) // => true
 * @example isOverdue({ dueAt: 10 }, 9) // => false
 */
export function isOverdue(clock: Pick<RunningClock, 'dueAt'>, now: Instant): boolean {
  return now >= clock.dueAt;
}

/**
 * Whether a pack complies with storage now; null where no rule asks.
 * @example isCompliant({ state: 'no-rule' }, 0) // => null
 * @example isCompliant({ state: 'unmeasured', why: 'never', since: null, records: [] }, 0) // => false
 */
export function isCompliant(storage: StorageState, now: Instant): boolean | null {
  switch (storage.state) {
    case 'no-rule':
      return null;
    case 'unmeasured':
      return false;
    case 'in-band':
    case 'pending':
    case 'self-storing':
      return true;
    case 'high':
    case 'low':
      return !isOverdue(storage, now);
    default:
      return storage satisfies never;
  }
}
