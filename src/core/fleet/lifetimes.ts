import { restedReadings } from '../assess';
import { daysToRetire, daysToRetireNew, measure, outlooks, siblingsOf, wearShown } from '../health';
import type { Siblings, WearShown } from '../health';
import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';

/**
 * When a pack may be over: for each measure that wears, in how many days it passes its retire line, one figure a future, rising. Endless
 * where it does not within five years.
 */
export type Lifetime = readonly Float64Array[];

const MEASURES = ['capacity', 'resistance'] as const;

/** What a pack of this type that is bought today may last, by what its siblings taught. */
export function lifetimeOfNew(rules: HouseRules, siblings: Siblings): Lifetime {
  const lines = { capacity: rules.health.capacityPercent, resistance: rules.health.irGrowth };
  return MEASURES.map((one) => daysToRetireNew(one, lines[one], siblings[one] ?? null));
}

/** What a pack has shown, for its siblings to learn from. */
export function shownBy(history: PackHistory, rules: HouseRules, now: Instant): readonly WearShown[] {
  return wearShown(history, outlooks(history, measuredOf(history, rules, now), rules));
}

/**
 * What a pack in service may still last. Of a measure that nobody has taken, what its siblings last counts, given that it has lasted until
 * now.
 * @param shown of its siblings, without the pack itself
 */
export function lifetimeOf(
  history: PackHistory,
  rules: HouseRules,
  now: Instant,
  shown: readonly WearShown[],
): Lifetime {
  const siblings = siblingsOf(shown);
  const followed = outlooks(history, measuredOf(history, rules, now), rules, siblings);
  const unknown = lifetimeOfNew(rules, siblings);
  const ageDays = (now - (history.pack.inServiceAt ?? history.receivedAt ?? now)) / DAY_MS;
  return MEASURES.map((one, i) => {
    const outlook = followed.find((known) => known.measure === one);
    return outlook ? daysToRetire(outlook, now) : lastedUntil(unknown[i]!, ageDays);
  });
}

function measuredOf(history: PackHistory, rules: HouseRules, now: Instant) {
  return measure(history, restedReadings(history, rules).rested, rules, now);
}

/** Those of the futures that last longer than so many days, from then on. Where none does, all are over now. */
function lastedUntil(days: Float64Array, age: number): Float64Array {
  const left = days.filter((one) => one > age).map((one) => one - age);
  return left.length > 0 ? left : Float64Array.of(0);
}
