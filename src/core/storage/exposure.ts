import { CHEMISTRY, CURVE_STEP_PERCENT, isLithium, restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { countUpTo, countWhile, DAY_MS } from '../measure';
import type { Instant, PersonId } from '../measure';
import { earlierOf } from '../record';
import type { MoveEvent, PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { shorterOf } from './carried';
import type { Carried, Stretch } from './carried';

/** Full-charge days, in full-equivalent days, and whose hands the pack was in; null for the store. */
export interface HeldExposure {
  readonly holderId: PersonId | null;
  readonly days: number;
}

/** The house's limits that time at full is weighed by. */
type ExposureRules = Pick<HouseRules, 'storage' | 'shelfC'>;

/**
 * How much one day at this voltage ages a pack as compared with a day full at 25 °C: nothing up to the band's top, rising
 * in a straight line to 1 at full, times what the warmth makes of it. Source: the practice.
 * @param warmth as {@link warmthFactor} has it
 * @example exposureRate(4200, 3850, 4200, 1) // => 1
 * @example exposureRate(4025, 3850, 4200, 2) // => 1
 * @example exposureRate(3850, 3850, 4200, 1) // => 0
 */
export function exposureRate(mv: number, bandHighMv: number, fullMv: number, warmth: number): number {
  return Math.min(1, Math.max(0, (mv - bandHighMv) / (fullMv - bandHighMv))) * warmth;
}

/**
 * How much faster than at 25 °C a pack ages at a temperature: it doubles for every 10 °C. Source: the practice.
 * @example warmthFactor(35) // => 2
 */
export function warmthFactor(celsius: number): number {
  return 2 ** ((celsius - 25) / 10);
}

/**
 * The exposure ledger: full-equivalent days spent above the band, by whoever held the pack, most first. Ten separate
 * days count as ten in a row do. A pack is as warm as the place it lies in.
 */
export function exposureByHolder(
  history: PackHistory,
  stretches: readonly Stretch[],
  rules: ExposureRules,
): readonly HeldExposure[] {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return [];
  const days = new Map<PersonId | null, number>();
  for (const stretch of stretches) {
    for (const part of cutAt(stretch, history.moves)) {
      const holder = holderAt(history.moves, part.from);
      days.set(holder, (days.get(holder) ?? 0) + exposureDays(history, part, chemistry, rules));
    }
  }
  return [...days]
    .map(([holderId, held]) => ({ holderId, days: held }))
    .filter((held) => held.days > 0)
    .sort((a, b) => b.days - a.days);
}

/**
 * Full-equivalent days of one stretch, place by place. The integral is exact, since the rate is a straight line of the
 * charge between the points of the curve and the charge one of time: cutting a stretch anywhere changes no sum.
 */
export function exposureDays(
  history: PackHistory,
  stretch: Stretch,
  chemistry: LithiumChemistry,
  rules: ExposureRules,
): number {
  const { bandHighMv } = rules.storage[chemistry];
  // Most of a pack's life lies in its band and ages nothing.
  if (restMv(chemistry, Math.max(stretch.fromPercent, stretch.toPercent)) <= bandHighMv) return 0;
  if (history.pack.placeTemperatures.length === 0)
    return daysAt(stretch, chemistry, bandHighMv, rules.shelfC);
  return cutAt(stretch, warmthChanges(history)).reduce((sum, part) => {
    const celsius = celsiusAt(history, part.from) ?? rules.shelfC;
    return sum + daysAt(part, chemistry, bandHighMv, celsius);
  }, 0);
}

/** When a history's pack may have become warmer or colder: it was moved, or its place was measured. Put in order once. */
const changesKept = new WeakMap<PackHistory, readonly { readonly at: Instant }[]>();

function warmthChanges(history: PackHistory): readonly { readonly at: Instant }[] {
  const kept = changesKept.get(history);
  if (kept) return kept;
  const { moves, pack } = history;
  const changes = [...moves, ...pack.placeTemperatures.map(({ since }) => ({ at: since }))];
  changes.sort((a, b) => a.at - b.at);
  changesKept.set(history, changes);
  return changes;
}

/** Days' worth full of each of many stretches, and of all of them up to each. */
interface Summed {
  readonly history: PackHistory;
  readonly bandHighMv: number;
  readonly shelfC: number;
  readonly days: Float64Array;
  readonly upTo: Float64Array;
}

/** The past is asked about for every week of a pack's future; its stretches are weighed once. */
const summed = new WeakMap<readonly Stretch[], Summed>();

function sumsOf(history: PackHistory, past: readonly Stretch[], rules: ExposureRules): Summed {
  const { chemistry } = history.pack;
  const { shelfC } = rules;
  const bandHighMv = isLithium(chemistry) ? rules.storage[chemistry].bandHighMv : 0;
  const holds = (one: Summed | undefined, of: PackHistory | null) =>
    one?.history === of && one?.bandHighMv === bandHighMv && one.shelfC === shelfC;
  const kept = summed.get(past);
  if (kept && holds(kept, history)) return kept;
  // A pack that was moved since was as warm before as it was.
  const earlier = earlierOf(history);
  const before = [kept, summed.get(shorterOf(past) ?? past)].find((one) => holds(one, earlier));
  const days = new Float64Array(past.length);
  const upTo = new Float64Array(past.length + 1);
  if (before) {
    days.set(before.days);
    upTo.set(before.upTo);
  }
  for (let i = before?.days.length ?? 0; i < past.length; i++) {
    days[i] = isLithium(chemistry) ? exposureDays(history, past[i]!, chemistry, rules) : 0;
    upTo[i + 1] = upTo[i]! + days[i]!;
  }
  const made = { history, bandHighMv, shelfC, days, upTo };
  summed.set(past, made);
  return made;
}

/** Days' worth full between two moments, and the stretch that gave most of them. */
export interface FullTime {
  readonly days: number;
  readonly longest: () => { readonly from: Instant; readonly to: Instant };
}

/**
 * Days' worth full that a pack spent between two moments: what lies wholly inside is a difference of two sums, and only the
 * stretches that reach over an end are weighed anew.
 */
export function fullTimeBetween(
  history: PackHistory,
  { past, open }: Pick<Carried, 'past' | 'open'>,
  rules: ExposureRules,
  from: Instant,
  to: Instant,
): FullTime {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return { days: 0, longest: () => ({ from, to: from }) };
  const { days, upTo } = sumsOf(history, past, rules);
  const first = pastBy(past, from);
  const after = Math.max(first, pastBy(past, to));
  const edges: { readonly part: Stretch; readonly days: number }[] = [];
  let sum = upTo[after]! - upTo[first]!;
  const within = (stretch: Stretch) => {
    const part = clippedFrom(stretch, from);
    return part && part.from < to ? clippedTo(part, to) : null;
  };
  const weigh = (stretch: Stretch) => {
    const part = within(stretch);
    if (!part) return;
    const weighed = exposureDays(history, part, chemistry, rules);
    edges.push({ part, days: weighed });
    sum += weighed;
  };
  // The first of the past reaches back over the beginning, the one after the last over the end.
  if (first < after && past[first]!.from < from) {
    sum -= days[first]!;
    weigh(past[first]!);
  }
  if (after < past.length) weigh(past[after]!);
  for (const stretch of open) weigh(stretch);
  const longest = () => {
    let most = { days: 0, from: 0, to: 0 };
    for (let i = first; i < after; i++) {
      const { from: begin, to: end } = past[i]!;
      if (begin >= from && days[i]! > most.days) most = { days: days[i]!, from: begin, to: end };
    }
    for (const edge of edges)
      if (edge.days > most.days) most = { days: edge.days, from: edge.part.from, to: edge.part.to };
    return { from: most.from, to: most.to };
  };
  return { days: sum, longest };
}

/** How many stretches are over by a moment. They follow each other. */
function pastBy(past: readonly Stretch[], moment: Instant): number {
  return countWhile(past, ({ to }) => to <= moment);
}

function daysAt(stretch: Stretch, chemistry: LithiumChemistry, bandHighMv: number, celsius: number): number {
  const span = (stretch.to - stretch.from) / DAY_MS;
  const [low, high] = [
    Math.min(stretch.fromPercent, stretch.toPercent),
    Math.max(stretch.fromPercent, stretch.toPercent),
  ];
  const fullMv = CHEMISTRY[chemistry].fullMv!;
  const warmth = warmthFactor(celsius);
  const rate = (percent: number) => exposureRate(restMv(chemistry, percent), bandHighMv, fullMv, warmth);
  if (high - low < 1e-9) return rate(high) * span;
  const bandPercent = socPercent(chemistry, bandHighMv);
  let area = 0;
  let [from, rateFrom] = [low, rate(low)];
  // From corner to corner of the curve; the band's top is one, too.
  while (from < high) {
    const corner = Math.min(high, CURVE_STEP_PERCENT * (Math.floor(from / CURVE_STEP_PERCENT) + 1));
    const to = bandPercent > from && bandPercent < corner ? bandPercent : corner;
    const rateTo = rate(to);
    area += ((rateFrom + rateTo) / 2) * (to - from);
    [from, rateFrom] = [to, rateTo];
  }
  return (area / (high - low)) * span;
}

/**
 * The part of a stretch up to a moment after its beginning.
 * @example clippedTo({ from: 0, to: 10, fromPercent: 100, toPercent: 0, known: true }, 4).to // => 4
 */
export function clippedTo(stretch: Stretch, to: Instant): Stretch {
  return stretch.to <= to ? stretch : cutAt(stretch, [{ at: to }])[0]!;
}

/**
 * The part of a stretch from a moment on; null when all of it lies before.
 * @example clippedFrom({ from: 0, to: 10, fromPercent: 100, toPercent: 0, known: true }, 4).fromPercent // => 60
 * @example clippedFrom({ from: 0, to: 10, fromPercent: 100, toPercent: 0, known: true }, 10) // => null
 */
export function clippedFrom(stretch: Stretch, from: Instant): Stretch | null {
  if (stretch.to <= from) return null;
  return stretch.from >= from ? stretch : cutAt(stretch, [{ at: from }]).at(-1)!;
}

/** How warm a pack was at a moment, by the place it lay in; null where nobody measures that. */
function celsiusAt({ moves, pack }: PackHistory, at: Instant): number | null {
  const placeId = moves[countUpTo(moves, at) - 1]?.placeId ?? null;
  if (placeId === null) return null;
  const known = pack.placeTemperatures.findLast((one) => one.placeId === placeId && one.since <= at);
  return known?.celsius ?? null;
}

/**
 * The stretch in parts, none of which spans a change of hands.
 * @param changes in the order of time
 */
export function cutAt(stretch: Stretch, changes: readonly { readonly at: Instant }[]): Stretch[] {
  const { from, to, fromPercent, toPercent, known } = stretch;
  const parts: Stretch[] = [];
  let begin = from;
  let percent = fromPercent;
  for (let i = countUpTo(changes, from); i < changes.length && changes[i]!.at < to; i++) {
    const { at } = changes[i]!;
    if (at === begin) continue;
    const then = fromPercent + ((toPercent - fromPercent) * (at - from)) / (to - from);
    parts.push({ from: begin, to: at, fromPercent: percent, toPercent: then, known });
    begin = at;
    percent = then;
  }
  if (parts.length === 0) return [stretch];
  return [...parts, { from: begin, to, fromPercent: percent, toPercent, known }];
}

/** Who had the pack at a moment. */
export function holderAt(moves: readonly MoveEvent[], at: Instant): PersonId | null {
  return moves[countUpTo(moves, at) - 1]?.holderId ?? null;
}
