import { countUpTo } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import { beginsWith, earlierOf } from '../record';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { carry, storageEvidence } from '../storage';
import type { Carried, CarryingRules, RestedCells, StorageEvidence } from '../storage';
import { AGREEING, capacityOfEnds, capacityOfEndsOn, healthShare, isPlausible } from './capacity';
import type { CapacityEnds, CapacityPoint } from './capacity';
import { oddCharges } from './oddCharges';
import type { ChargeLimits, OddCharge } from './oddCharges';

/** What the records measure of a pack together: its capacity, what it holds, and the charges that cannot be right. */
export interface Measured {
  readonly evidence: readonly StorageEvidence[];
  readonly carried: Carried;
  readonly odd: readonly OddCharge[];
  /** The records of those charges: their figures count for nothing in any trend. */
  readonly oddRecords: ReadonlySet<RecordId>;
  readonly capacity: readonly CapacityPoint[];
  /** As last measured, and never more than the label: the safer of the two, mAh. */
  readonly capacityMah: number;
}

interface Reading extends RestedCells {
  readonly meterErrorMv: number;
}

/**
 * Measures a pack from its records. What a charge had room for follows from capacity, and capacity leaves out the charges
 * that had none: so capacity is worked out once with every charge, for judging them, and once without the odd ones.
 */
export function measure(
  history: PackHistory,
  rested: readonly Reading[],
  rules: HouseRules,
  now: Instant,
): Measured {
  const { pack } = history;
  const known = timeless(history, rested);
  const limits = limitsOf(rules);
  const judged =
    known.by.get(limits) ??
    judgedOn(history, rested, rules, known, limits, now) ??
    judgedBy(history, rested, rules, known, now);
  if (!known.by.has(limits)) {
    // A form in which somebody tries one figure after another asks about many limits, and goes back to few.
    if (known.by.size === MOST_LIMITS) known.by.clear();
    known.by.set(limits, judged);
  }
  const carried = judged.carried.until(now) ?? carry(pack, known.evidence, rules, now, known.capacityAt);
  return { ...judged, evidence: known.evidence, carried };
}

interface Judged extends Omit<Measured, 'evidence'> {
  /** What measured the capacity beside the odd charges. */
  readonly ends: CapacityEnds;
}

/** The house's limits that what is measured depends on. */
type Limits = CarryingRules & ChargeLimits;

/** Those of one set of house rules in words: most changes of rules leave them alone, and what was measured then stands. */
function limitsOf(rules: HouseRules): string {
  const known = limitsKept.get(rules);
  if (known !== undefined) return known;
  const { storage, bleedDays, charge, flight } = rules;
  const limits = JSON.stringify({ storage, bleedDays, charge, flight } satisfies Limits);
  limitsKept.set(rules, limits);
  return limits;
}

const MOST_LIMITS = 4;
const limitsKept = new WeakMap<HouseRules, string>();

/** What no moment changes, under the same limits. */
function judgedBy(
  history: PackHistory,
  rested: readonly Reading[],
  rules: Limits,
  { evidence, everything, capacityAt, mostAt }: Timeless,
  now: Instant,
): Judged {
  const { pack } = history;
  const carried = carry(pack, evidence, rules, Math.max(now, evidence.at(-1)?.at ?? now), capacityAt);
  const odd = oddCharges(history, rules, carried.before, mostAt);
  const oddRecords = recordsOf(odd);
  const ends = odd.length === 0 ? everything : capacityOfEnds(history, rested, oddRecords);
  return { carried, odd, oddRecords, ...capacityOf(pack, ends) };
}

/**
 * The same, going on from what was judged before the last records came; null where nothing was, or they measure anew what the older ones were
 * carried by.
 */
function judgedOn(
  history: PackHistory,
  rested: readonly Reading[],
  rules: Limits,
  { evidence, everything, capacityAt, mostAt, before }: Timeless,
  limits: string,
  now: Instant,
): Judged | null {
  const was = before?.by.get(limits);
  if (!before || !was) return null;
  const { pack, charges } = history;
  const more = evidence.slice(before.evidence.length);
  const carried = was.carried.onwards(more, Math.max(now, evidence.at(-1)?.at ?? now), capacityAt);
  const late = { pack, charges: charges.slice(before.charges.length) };
  const found = oddCharges(late, rules, carried.before.slice(was.carried.before.length), mostAt);
  const odd = found.length === 0 ? was.odd : [...was.odd, ...found];
  const oddRecords = found.length === 0 ? was.oddRecords : recordsOf(odd);
  const on = () =>
    found.length === 0 ? capacityOfEndsOn(was.ends, history, rested, before, oddRecords) : null;
  const ends = odd.length === 0 ? everything : (on() ?? capacityOfEnds(history, rested, oddRecords));
  return { carried, odd, oddRecords, ...capacityOf(pack, ends) };
}

function recordsOf(odd: readonly OddCharge[]): ReadonlySet<RecordId> {
  return new Set(odd.flatMap(({ charge }) => charge.records));
}

function capacityOf(
  { capacityMah }: PackFacts,
  ends: CapacityEnds,
): Pick<Judged, 'ends' | 'capacity' | 'capacityMah'> {
  const capacity = ends.weakest;
  return { ends, capacity, capacityMah: capacityMah * Math.min(1, healthShare(capacity)) };
}

interface Timeless {
  readonly rested: readonly Reading[];
  readonly evidence: readonly StorageEvidence[];
  /** What measured the capacity, odd charges among it. */
  readonly everything: CapacityEnds;
  readonly capacityAt: (at: Instant) => number;
  readonly mostAt: (at: Instant) => number;
  /** What follows from them under the {@link limitsOf} each set of house rules asked about. */
  readonly by: Map<string, Judged>;
  /** What these go on from, where the last records changed nothing of what was known before. */
  readonly before: Before | null;
}

/** What was known of the first records of a history. */
type Before = Pick<Timeless, 'rested' | 'evidence' | 'by'> & Pick<PackHistory, 'charges'>;

/** One history is asked about many moments when its future is worked out; what no moment changes is worked out once. */
const known = new WeakMap<PackHistory, Timeless>();

function timeless(history: PackHistory, rested: readonly Reading[]): Timeless {
  const before = known.get(history);
  if (before && sameReadings(before.rested, rested)) return before;
  const made = timelessOn(history, rested) ?? timelessOf(history, rested);
  known.set(history, made);
  return made;
}

function timelessOf(history: PackHistory, rested: readonly Reading[]): Timeless {
  const everything = capacityOfEnds(history, rested);
  const evidence = storageEvidence(history, rested);
  return { rested, evidence, ...capacitiesBy(history.pack, everything), by: new Map(), before: null };
}

function capacitiesBy(
  { capacityMah }: PackFacts,
  everything: CapacityEnds,
): Pick<Timeless, 'everything' | 'capacityAt' | 'mostAt'> {
  return {
    everything,
    capacityAt: capacityOver(capacityMah, everything.weakest),
    // One cell may be dying: a charger goes on until the strongest is full.
    mostAt: capacityOver(capacityMah, everything.strongest),
  };
}

/** The same, going on from what was known before the last records came; null where they change something of that. */
function timelessOn(history: PackHistory, rested: readonly Reading[]): Timeless | null {
  const earlier = earlierOf(history);
  const was = earlier && known.get(earlier);
  if (!was || earlier.pack !== history.pack || !beginsWith(rested, was.rested)) return null;
  const { pack, charges, flights } = history;
  const more = storageEvidence(
    {
      pack,
      charges: charges.slice(earlier.charges.length),
      flights: flights.slice(earlier.flights.length),
    },
    rested.slice(was.rested.length),
  );
  const [last, next] = [was.evidence.at(-1), more[0]];
  if (last && next && next.at <= last.at) return null;
  const before = { rested: was.rested, evidence: was.evidence, by: was.by, charges: earlier.charges };
  const everything = capacityOfEndsOn(was.everything, history, rested, before);
  if (!everything) return null;
  // What came measures the capacity from then on; what it was taken to be before stays.
  const capacities = everything === was.everything ? was : capacitiesBy(pack, everything);
  const { capacityAt, mostAt } = capacities;
  const joined = [...was.evidence, ...more];
  return { rested, evidence: joined, everything, capacityAt, mostAt, by: new Map(), before };
}

/** The readings that may decide follow from the rest the rules ask; the same ones are as many and end alike. */
function sameReadings(a: readonly Reading[], b: readonly Reading[]): boolean {
  if (a === b) return true;
  return (
    a.length === b.length && a.every(({ records, at }, i) => b[i]!.at === at && b[i]!.records === records)
  );
}

/** The capacity at any moment by the measurements before it; the label until enough of them agree. */
function capacityOver(labelMah: number, points: readonly CapacityPoint[]): (at: Instant) => number {
  const plausible = points.filter(isPlausible);
  if (plausible.length < AGREEING) return () => labelMah;
  const mah = plausible.map((point, i) =>
    i + 1 < AGREEING ? labelMah : (labelMah / 100) * middleOf(plausible, i),
  );
  return (at) => mah[countUpTo(plausible, at) - 1] ?? labelMah;
}

/** The median of three values up to this one, without a sort: it is asked for every measurement of every pack. */
function middleOf(points: readonly CapacityPoint[], i: number): number {
  const [a, b, c] = [points[i - 2]!.value, points[i - 1]!.value, points[i]!.value];
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
}
