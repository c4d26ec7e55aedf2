import { isLithium } from '../chemistry';
import { DAY_MS, HOUR_MS, hoursBetween } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { HouseRules, StorageRule } from '../rules';
import { bandSide } from './band';
import type { BandSide } from './band';
import type { StorageEvidence } from './evidence';

/** A pack that is out of its band: since when, and by when it must be back. */
export interface RunningClock {
  readonly state: 'high' | 'low';
  readonly since: Instant;
  readonly allowanceHours: number;
  readonly dueAt: Instant;
  /** When a smart pack will have brought itself to storage; null for a pack that does not. */
  readonly bledAt: Instant | null;
  /** The records it rests on: what started it and the latest. */
  readonly records: readonly RecordId[];
}

/**
 * How a pack stands towards storage. `pending` was brought to storage but not read since; `unmeasured` was never read,
 * or used since, and is not compliant; `no-rule` is a chemistry without a storage voltage.
 */
export type StorageState =
  | RunningClock
  | { readonly state: 'in-band'; readonly since: Instant; readonly records: readonly RecordId[] }
  | {
      readonly state: 'pending';
      readonly by: 'job' | 'own-bleed';
      readonly since: Instant;
      readonly records: readonly RecordId[];
    }
  | { readonly state: 'unmeasured'; readonly since: Instant | null; readonly records: readonly RecordId[] }
  | { readonly state: 'no-rule' };

/** A smart pack takes about this long to bleed from full to storage once its own delay is over. Source: the practice. */
export const BLEED_DAYS = 6;

/** How far the records carry a pack, before its allowance is put to it. */
type Standing =
  | { readonly state: 'unmeasured'; readonly used: UsedFrom | null }
  | { readonly state: 'pending'; readonly since: Instant; readonly records: readonly RecordId[] }
  | { readonly state: BandSide; readonly since: Instant; readonly records: readonly RecordId[] };

/** A use, and what the pack was known to be when it began. */
interface UsedFrom {
  readonly at: Instant;
  readonly before: Standing;
  readonly records: readonly RecordId[];
}

/**
 * The storage state that the evidence adds up to. The clock starts when the pack is known to have left the band: a
 * charge ended, it landed, a reading. It runs, whoever holds the pack, until a rested reading inside the band or a
 * completed storage job; a reading on the other side starts the other allowance anew. What is full stays full until
 * something says otherwise, except that a smart pack bleeds itself to storage after its own delay.
 * @param evidence in the order it happened
 */
export function storageState(
  pack: PackFacts,
  evidence: readonly StorageEvidence[],
  rules: HouseRules,
  now: Instant,
): StorageState {
  if (!isLithium(pack.chemistry)) return { state: 'no-rule' };
  const rule = rules.storage[pack.chemistry];
  let standing: Standing = { state: 'unmeasured', used: null };
  for (const one of evidence) standing = standingAfter(standing, one, rule);
  if (standing.state === 'unmeasured') {
    const { used } = standing;
    return { state: 'unmeasured', since: used?.at ?? null, records: used?.records ?? [] };
  }
  if (standing.state === 'pending') return { ...standing, by: 'job' };
  if (standing.state === 'in-band') return { ...standing, state: 'in-band' };
  const { state, since, records } = standing;
  const bledAt = state === 'high' ? selfStoredAt(pack, evidence.at(-1)!.at) : null;
  if (bledAt !== null && now >= bledAt) return { state: 'pending', by: 'own-bleed', since: bledAt, records };
  const allowanceHours = allowance(pack, state, rules);
  return { state, since, allowanceHours, dueAt: since + allowanceHours * HOUR_MS, bledAt, records };
}

/** When a smart pack left alone since then will have bled itself to storage; null when it does not do that. */
export function selfStoredAt({ smart }: PackFacts, leftAloneSince: Instant): Instant | null {
  if (!smart?.autoStorage) return null;
  return leftAloneSince + smart.autoStorageAfterHours * HOUR_MS + BLEED_DAYS * DAY_MS;
}

function standingAfter(before: Standing, evidence: StorageEvidence, rule: StorageRule): Standing {
  switch (evidence.kind) {
    case 'read':
      return standsOn(before, bandSide(evidence.cellsMv, rule), evidence);
    case 'charged':
      return standsOn(before, bandSide([evidence.mv], rule), evidence);
    case 'stored':
      return { state: 'pending', since: evidence.at, records: evidence.records };
    case 'used':
      return {
        state: 'unmeasured',
        used: { at: evidence.at, before: beforeUse(before), records: evidence.records },
      };
    default:
      return evidence satisfies never;
  }
}

/** Several uses in a row count from what was last known. */
function beforeUse(before: Standing): Standing {
  return before.state === 'unmeasured' && before.used ? before.used.before : before;
}

function standsOn(before: Standing, side: BandSide, { at, records }: StorageEvidence): Standing {
  if (before.state === side)
    return { state: side, since: before.since, records: joined(before.records, records) };
  if (before.state !== 'unmeasured' || !before.used) return { state: side, since: at, records };
  const { used } = before;
  // Still on the side it was on before it was used: it never came back into the band.
  if (used.before.state === side)
    return { state: side, since: used.before.since, records: joined(used.before.records, records) };
  return { state: side, since: side === 'low' ? used.at : at, records: joined(used.records, records) };
}

function joined(first: readonly RecordId[], last: readonly RecordId[]): readonly RecordId[] {
  const begin = first[0];
  return begin === undefined || last.includes(begin) ? last : [begin, ...last];
}

/** Hours a pack may be outside its band on this side. */
export function allowance(pack: PackFacts, side: 'high' | 'low', rules: HouseRules): number {
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

/** Whether the allowance is used up. A pack is compliant for less time than the allowance, so at the due instant it no longer is. */
export function isOverdue(clock: Pick<RunningClock, 'dueAt'>, now: Instant): boolean {
  return now >= clock.dueAt;
}

/** Whether a pack complies with storage now; null where no rule asks. */
export function isCompliant(storage: StorageState, now: Instant): boolean | null {
  switch (storage.state) {
    case 'no-rule':
      return null;
    case 'unmeasured':
      return false;
    case 'in-band':
    case 'pending':
      return true;
    case 'high':
    case 'low':
      return !isOverdue(storage, now);
    default:
      return storage satisfies never;
  }
}
