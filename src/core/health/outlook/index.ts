import { earlierOf } from '../../record';
import type { PackHistory } from '../../record';
import type { HouseRules } from '../../rules';
import { comparable } from '../likeWithLike';
import type { Measured } from '../measured';
import { outlookOf } from './outlook';
import type { Outlook } from './outlook';
import type { Siblings } from './siblings';
import { capacitySeries, resistanceSeries } from './values';

export type { WearClock } from './clock';
export { BY_TIME } from './clock';
export { bandAt } from './crossing';
export type { Futures } from './crossing';
export { below, quantile } from './normal';
export { alarmsOf, daysToRetire, daysToRetireNew, foretold } from './outlook';
export type { Outlook, SiblingWear } from './outlook';
export type { Siblings, WearShown } from './siblings';
export { siblingsOf, wearShown } from './siblings';

type Told = Outlook & { readonly cell: number | null };

/** A filter follows the records, not the time: one history asked about many moments is followed once. */
const followed = new WeakMap<PackHistory, Followed>();

interface Followed {
  readonly by: readonly unknown[];
  readonly told: readonly Told[];
}

/** {@link outlooks} of a history, kept while the same history is asked about under the same lines. */
export function outlooksKept(
  history: PackHistory,
  measured: Pick<Measured, 'capacity' | 'oddRecords'>,
  rules: HouseRules,
): readonly Told[] {
  const { capacityPercent, irGrowth } = rules.health;
  const by = [capacityPercent, irGrowth, measured.capacity];
  const isBy = (one: Followed | null | undefined): one is Followed =>
    one?.by.every((each, i) => each === by[i]) === true;
  const kept = followed.get(history);
  if (isBy(kept)) return kept.told;
  // What came since measured nothing anew, and the pack was not used: its clock of use stands where it stood.
  const earlier = earlierOf(history);
  const before = earlier && followed.get(earlier);
  const holds =
    isBy(before) &&
    earlier!.flights.length === history.flights.length &&
    earlier!.resistances.length === history.resistances.length;
  const told = holds ? before.told : outlooks(history, measured, rules);
  followed.set(history, { by, told });
  return told;
}

/** Capacity and resistance as a filter follows them; a measure of which nothing was taken is missing. */
export function outlooks(
  history: PackHistory,
  { capacity, oddRecords }: Pick<Measured, 'capacity' | 'oddRecords'>,
  rules: HouseRules,
  siblings: Siblings = {},
): readonly Told[] {
  const { capacityPercent, irGrowth } = rules.health;
  const lost = capacitySeries(capacity);
  const grown = resistanceSeries(comparable(history.resistances, oddRecords));
  const ofCapacity = outlookOf('capacity', lost, capacityPercent, history, siblings.capacity ?? null);
  const ofResistance =
    grown && outlookOf('resistance', grown, irGrowth, history, siblings.resistance ?? null);
  return [
    ...(ofCapacity ? [{ ...ofCapacity, cell: null }] : []),
    ...(ofResistance ? [{ ...ofResistance, cell: grown.cell }] : []),
  ];
}
