import { assess, isOutOfUse } from '../assess';
import type { Assessment, Verdict } from '../assess';
import type { Instant, PackId } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { isOverdue } from '../storage';

/** How a pack's clock stands: out of band and overdue, out of band and within its hours, or not running. */
export type ClockStanding = 'overdue' | 'running' | 'still';

/** What other rules would change for one pack. */
export interface RuleEffect {
  readonly packId: PackId;
  readonly verdict: readonly [before: Verdict, after: Verdict];
  readonly clock: readonly [before: ClockStanding, after: ClockStanding];
}

/** What one pack would be under other rules at this moment; null when neither its verdict nor its clock would change. */
export function effectOn(
  history: PackHistory,
  before: HouseRules,
  after: HouseRules,
  now: Instant,
): RuleEffect | null {
  const one = assess(history, before, now);
  const other = assess(history, after, now);
  const clock = [clockOf(one, now), clockOf(other, now)] as const;
  if (one.verdict === other.verdict && clock[0] === clock[1]) return null;
  return { packId: history.pack.id, verdict: [one.verdict, other.verdict], clock };
}

/** A pack that is out of use has no clock: its storage waits for the decision. */
function clockOf({ storage, verdict }: Assessment, now: Instant): ClockStanding {
  if (isOutOfUse(verdict)) return 'still';
  if (storage.state !== 'high' && storage.state !== 'low') return 'still';
  return isOverdue(storage, now) ? 'overdue' : 'running';
}

/** All effects in figures: how many packs move to each verdict, and what becomes of clocks. */
export interface EffectSums {
  readonly toVerdict: Readonly<Partial<Record<Verdict, number>>>;
  readonly becomeOverdue: number;
  readonly noLongerOverdue: number;
  readonly start: number;
  readonly stop: number;
}

export function sumsOf(effects: readonly RuleEffect[]): EffectSums {
  const toVerdict: Partial<Record<Verdict, number>> = {};
  for (const { verdict } of effects) {
    if (verdict[0] !== verdict[1]) toVerdict[verdict[1]] = (toVerdict[verdict[1]] ?? 0) + 1;
  }
  const count = (changed: (before: ClockStanding, after: ClockStanding) => boolean) =>
    effects.filter(({ clock }) => clock[0] !== clock[1] && changed(...clock)).length;
  return {
    toVerdict,
    becomeOverdue: count((_, after) => after === 'overdue'),
    noLongerOverdue: count((before, after) => before === 'overdue' && after === 'running'),
    start: count((before, after) => before === 'still' && after === 'running'),
    stop: count((_, after) => after === 'still'),
  };
}
