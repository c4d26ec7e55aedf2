import { isLithium } from '../chemistry';
import { HOUR_MS, hoursBetween } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { bandSide } from './band';

/** One rested reading of every cell, as the clock needs it. */
export interface RestedCells {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly records: readonly RecordId[];
}

/** A pack that is out of its band: since when, and by when it must be back. */
export interface RunningClock {
  readonly state: 'high' | 'low';
  readonly since: Instant;
  readonly allowanceHours: number;
  readonly dueAt: Instant;
  /** The readings it rests on: the one that started it and the latest. */
  readonly records: readonly RecordId[];
}

/** How a pack stands towards storage. `unmeasured` is not compliant; `no-rule` is a chemistry without a storage voltage. */
export type StorageState =
  | RunningClock
  | { readonly state: 'in-band'; readonly since: Instant; readonly records: readonly RecordId[] }
  | { readonly state: 'unmeasured' }
  | { readonly state: 'no-rule' };

/**
 * The storage state that a pack's rested readings add up to. The clock starts at the first reading outside the band
 * and runs, whoever holds the pack, until a reading inside it or on its other side: that one starts the other
 * allowance anew.
 * @param rested rested readings of all cells, in the order they were taken
 */
export function storageState(
  pack: PackFacts,
  rested: readonly RestedCells[],
  rules: HouseRules,
): StorageState {
  if (!isLithium(pack.chemistry)) return { state: 'no-rule' };
  const rule = rules.storage[pack.chemistry];
  const last = rested.at(-1);
  if (!last) return { state: 'unmeasured' };
  const state = bandSide(last.cellsMv, rule);
  const otherSide = rested.findLastIndex((reading) => bandSide(reading.cellsMv, rule) !== state);
  const first = rested[otherSide + 1]!;
  const records = first === last ? first.records : [...first.records, ...last.records];
  if (state === 'in-band') return { state, since: first.at, records };
  const allowanceHours = allowance(pack, state, rules);
  return { state, since: first.at, allowanceHours, dueAt: first.at + allowanceHours * HOUR_MS, records };
}

function allowance(pack: PackFacts, side: 'high' | 'low', rules: HouseRules): number {
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
      return true;
    case 'high':
    case 'low':
      return !isOverdue(storage, now);
    default:
      return storage satisfies never;
  }
}
