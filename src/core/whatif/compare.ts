import { isOutOfUse, movesClock, storageUnder, verdictAfter, verdictUnder } from '../assess';
import type { Gravest, RulesPart, Verdict } from '../assess';
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

/** How a pack stands at a moment, of what other rules can change. */
export interface Standing {
  readonly verdict: Verdict;
  readonly clock: ClockStanding;
}

/** How a pack stands under these rules at a moment. */
export function standingUnder(history: PackHistory, rules: HouseRules, now: Instant): Standing {
  const verdict = verdictUnder(history, rules, now);
  return { verdict, clock: clockUnder(verdict, history, rules, now) };
}

/** What lists say of a pack that was judged before. */
export interface Told {
  readonly verdict: Verdict;
  /** When the storage clock of a pack in service ends, if one runs. */
  readonly dueAt: Instant | null;
  /** What was found; of a pack out of use, only what makes it so. */
  readonly found: Gravest;
}

/** How a pack stands by what was told of it. */
export function standingTold({ verdict, dueAt }: Told, now: Instant): Standing {
  return { verdict, clock: clockOf(verdict, dueAt === null ? null : { dueAt }, now) };
}

/**
 * How a pack would stand under other house rules, by what was told of it at this moment and what they change.
 * @param changed the parts of the rules that differ for packs of its chemistry; where there are none it stands as it does
 */
export function standingAfter(
  history: PackHistory,
  told: Told,
  changed: ReadonlySet<RulesPart>,
  after: HouseRules,
  now: Instant,
): Standing {
  const verdict = verdictAfter(history, told, changed, after, now);
  // A pack out of use was told no clock; back in use it may have one.
  const isTold = !movesClock(changed) && !isOutOfUse(told.verdict);
  const clock = isTold
    ? standingTold({ ...told, verdict }, now).clock
    : clockUnder(verdict, history, after, now);
  return { verdict, clock };
}

function clockUnder(verdict: Verdict, history: PackHistory, rules: HouseRules, now: Instant): ClockStanding {
  if (isOutOfUse(verdict)) return 'still';
  const storage = storageUnder(history, rules, now);
  return clockOf(verdict, storage.state === 'high' || storage.state === 'low' ? storage : null, now);
}

/** A pack that is out of use has no clock: its storage waits for the decision. */
function clockOf(verdict: Verdict, running: { readonly dueAt: Instant } | null, now: Instant): ClockStanding {
  if (isOutOfUse(verdict) || !running) return 'still';
  return isOverdue(running, now) ? 'overdue' : 'running';
}

/** What one pack would be other than it is; null when neither its verdict nor its clock would change. */
export function effectOn(packId: PackId, before: Standing, after: Standing): RuleEffect | null {
  if (before.verdict === after.verdict && before.clock === after.clock) return null;
  return { packId, verdict: [before.verdict, after.verdict], clock: [before.clock, after.clock] };
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
