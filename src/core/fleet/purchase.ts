import { below, quantile } from '../health';
import { seededRandom } from '../random';
import type { Random } from '../random';
import type { Lifetime } from './lifetimes';

/** What is asked of a register: how its packs of one type go, and how many are to be there. */
export interface FleetType<Id> {
  readonly id: Id;
  /** One a pack in service. */
  readonly lives: readonly Lifetime[];
  /** What a pack bought today may last. */
  readonly fresh: Lifetime;
  /** So many are to be in service at all times. */
  readonly wanted: number;
  /** What one costs; null where nobody knows. */
  readonly price: number | null;
  /** How fast these packs wear against today: 1 as now, 2 twice as fast. */
  readonly pace: number;
}

export interface Assumptions {
  /** Packs that go for another reason than wear, as a share of all a year: crashes, leads, swelling. */
  readonly lossesAYear: number;
  readonly quarters: number;
  readonly draws: number;
  readonly seed: number;
}

/** Four times in five it is between the two, most likely about the middle one. */
export interface Range {
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

export interface TypePurchase<Id> {
  readonly id: Id;
  /** Packs to be bought in each quarter. */
  readonly quarters: readonly Range[];
  /** Packs bought up to the end of each quarter, all told: what an order has to cover. */
  readonly upTo: readonly Range[];
  /** Packs that have gone by the end, the bought ones among them. */
  readonly gone: Range;
}

export interface Purchase<Id> {
  readonly types: readonly TypePurchase<Id>[];
  /** Packs of all types bought up to the end of each quarter. */
  readonly packs: readonly Range[];
  /** What it costs up to the end of each quarter; types without a price are left out. */
  readonly money: readonly Range[];
}

/** A month as plans count it, days. */
export const MONTH_DAYS = 365.25 / 12;
const QUARTER_DAYS = 3 * MONTH_DAYS;
/** What holds four times in five. */
const LOW = 0.1;
const HIGH = 0.9;
/**
 * How much packs go together: what makes one last longer than foretold (a gentler year, a better delivery, a habit) is shared by the house
 * and by the type. Tuned on simulated clubs (docs/bench.md); with none shared a range of twenty packs would be far too narrow.
 */
const SHARED_BY_HOUSE = 0.1;
const SHARED_BY_TYPE = 0.3;
/**
 * Futures come too early where the retire line lies far ahead: they hold every knee and step that may come, and most packs meet none. By this
 * much the packs of simulated clubs lasted longer (docs/bench.md); a single pack's range is corrected in the same way where it is told.
 */
const LATER = 1.5;

/** The draws are worked off in steps, so that whoever asked can be told how far it is, and end it. */
export interface PurchaseRun<Id> {
  /** Goes on for so many draws; true once all are done. */
  readonly go: (draws: number) => boolean;
  readonly done: () => number;
  readonly answer: () => Purchase<Id>;
}

/**
 * What is to be bought: every pack's end is drawn together with all others' many times over, and whatever falls below what is wanted is
 * bought on the day and wears from then on. The same question has the same answer.
 */
export function purchaseRun<Id>(types: readonly FleetType<Id>[], assumptions: Assumptions): PurchaseRun<Id> {
  const { quarters, draws } = assumptions;
  const random = seededRandom(assumptions.seed);
  const bought = types.map(() => Array.from({ length: quarters }, () => new Uint16Array(draws)));
  const gone = types.map(() => new Uint16Array(draws));
  let done = 0;
  const one = () => {
    const house = bellShaped(random);
    for (const [i, type] of types.entries()) {
      const shared = Math.sqrt(SHARED_BY_HOUSE) * house + Math.sqrt(SHARED_BY_TYPE) * bellShaped(random);
      gone[i]![done] = follow(type, assumptions, random, shared, (quarter) => {
        bought[i]![quarter]![done]! += 1;
      });
    }
    done += 1;
  };
  return {
    go: (more) => {
      for (let i = 0; i < more && done < draws; i += 1) one();
      return done >= draws;
    },
    done: () => done,
    answer: () => answerOf(types, bought, gone, quarters, done),
  };
}

/** {@link purchaseRun} from end to end. */
export function purchase<Id>(types: readonly FleetType<Id>[], assumptions: Assumptions): Purchase<Id> {
  const run = purchaseRun(types, assumptions);
  run.go(assumptions.draws);
  return run.answer();
}

/** A new pack that is over sooner was never sound and goes back: it is no purchase of its own. */
const LEAST_DAYS = 30;
const LEFT_TO_EACH = Math.sqrt(1 - SHARED_BY_HOUSE - SHARED_BY_TYPE);

/** One draw of one type: tells each quarter in which a pack is bought, and answers how many have gone. */
function follow<Id>(
  { lives, fresh, wanted, pace }: FleetType<Id>,
  { lossesAYear, quarters }: Assumptions,
  random: Random,
  shared: number,
  buy: (quarter: number) => void,
): number {
  const horizon = quarters * QUARTER_DAYS;
  const lasts = (life: Lifetime): number => {
    let days = lossesAYear > 0 ? (-Math.log(1 - random()) / lossesAYear) * 365.25 : Infinity;
    for (const measure of life) {
      const share = below(shared + LEFT_TO_EACH * bellShaped(random));
      days = Math.min(days, (at(measure, share) * LATER) / pace);
    }
    return days;
  };
  const ends: number[] = [];
  for (const life of lives) {
    const end = lasts(life);
    if (end < horizon) ends.push(end);
  }
  let inService = lives.length;
  const buyOn = (day: number) => {
    buy(Math.min(quarters - 1, Math.floor(day / QUARTER_DAYS)));
    inService += 1;
    const end = day + Math.max(LEAST_DAYS, lasts(fresh));
    if (end < horizon) ends.push(end);
  };
  while (inService < wanted) buyOn(0);
  let gone = 0;
  for (;;) {
    const next = indexOfLeast(ends);
    if (next === -1) return gone;
    const [day] = ends.splice(next, 1);
    gone += 1;
    inService -= 1;
    if (inService < wanted) buyOn(day!);
  }
}

function indexOfLeast(list: readonly number[]): number {
  let least = -1;
  for (let i = 0; i < list.length; i += 1) if (least === -1 || list[i]! < list[least]!) least = i;
  return least;
}

/** The figure below which this share of the rising figures lies. */
function at(sorted: Float64Array, share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}

function bellShaped(random: Random): number {
  return quantile(random());
}

function answerOf<Id>(
  types: readonly FleetType<Id>[],
  bought: readonly (readonly Uint16Array[])[],
  gone: readonly Uint16Array[],
  quarters: number,
  done: number,
): Purchase<Id> {
  const upTo = bought.map((ofType) => {
    const sums = ofType.map((list) => Float64Array.from(list));
    for (let quarter = 1; quarter < quarters; quarter += 1)
      for (let draw = 0; draw < done; draw += 1) sums[quarter]![draw]! += sums[quarter - 1]![draw]!;
    return sums;
  });
  const summed = (worth: (type: FleetType<Id>) => number) =>
    Array.from({ length: quarters }, (_, quarter) =>
      rangeOf(
        Float64Array.from({ length: done }, (_unused, draw) =>
          types.reduce((sum, type, i) => sum + worth(type) * upTo[i]![quarter]![draw]!, 0),
        ),
        done,
      ),
    );
  return {
    types: types.map(({ id }, i) => ({
      id,
      quarters: bought[i]!.map((list) => rangeOf(list, done)),
      upTo: upTo[i]!.map((list) => rangeOf(list, done)),
      gone: rangeOf(gone[i]!, done),
    })),
    packs: summed(() => 1),
    money: summed(({ price }) => price ?? 0),
  };
}

function rangeOf(list: Uint16Array | Float64Array, done: number): Range {
  const sorted = list.slice(0, done).sort();
  const of = (share: number) => sorted[Math.min(done - 1, Math.floor(share * done))] ?? 0;
  return { low: of(LOW), middle: of(0.5), high: of(HIGH) };
}

/** What all packs there are tell of losses that are no wear, before a register has told of its own: one in twenty a year. */
const USUAL_LOSSES = { packs: 1.25, years: 25 };

/**
 * Losses a year for another reason than wear, from what this register has seen and what is usual.
 * @example lossRate(0, 0) // => 0.05
 */
export function lossRate(packsLost: number, packYears: number): number {
  return (packsLost + USUAL_LOSSES.packs) / (packYears + USUAL_LOSSES.years);
}
