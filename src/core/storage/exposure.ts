import { CHEMISTRY, isLithium, restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { DAY_MS } from '../measure';
import type { Instant, PersonId } from '../measure';
import type { MoveEvent, PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { Stretch } from './carried';

/** Full-charge days, in full-equivalent days, and whose hands the pack was in; null for the store. */
export interface HeldExposure {
  readonly holderId: PersonId | null;
  readonly days: number;
}

const CURVE_PERCENTS = Array.from({ length: 21 }, (_, i) => i * 5);

/**
 * How much one day at this voltage ages a pack as compared with a day full at 25 °C: nothing up to the band's top, rising
 * in a straight line to 1 at full, doubling for every 10 °C. Source: the practice.
 * @example exposureRate(4200, 3850, 4200, 25) // => 1
 * @example exposureRate(4025, 3850, 4200, 35) // => 1
 * @example exposureRate(3850, 3850, 4200, 25) // => 0
 */
export function exposureRate(mv: number, bandHighMv: number, fullMv: number, celsius: number): number {
  const weight = Math.min(1, Math.max(0, (mv - bandHighMv) / (fullMv - bandHighMv)));
  return weight * 2 ** ((celsius - 25) / 10);
}

/**
 * The exposure ledger: full-equivalent days spent above the band, by whoever held the pack, most first. Ten separate
 * days count as ten in a row do. A pack is as warm as the place it lies in.
 */
export function exposureByHolder(
  history: PackHistory,
  stretches: readonly Stretch[],
  rules: HouseRules,
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
  rules: HouseRules,
): number {
  const { bandHighMv } = rules.storage[chemistry];
  // Most of a pack's life lies in its band and ages nothing.
  if (restMv(chemistry, Math.max(stretch.fromPercent, stretch.toPercent)) <= bandHighMv) return 0;
  const { moves, pack } = history;
  if (pack.placeTemperatures.length === 0) return daysAt(stretch, chemistry, bandHighMv, rules.shelfC);
  const changes = [...moves.map(({ at }) => at), ...pack.placeTemperatures.map(({ since }) => since)];
  const cuts = changes.sort((a, b) => a - b).map((at) => ({ at }));
  return cutAt(stretch, cuts).reduce((sum, part) => {
    const celsius = celsiusAt(history, part.from) ?? rules.shelfC;
    return sum + daysAt(part, chemistry, bandHighMv, celsius);
  }, 0);
}

function daysAt(stretch: Stretch, chemistry: LithiumChemistry, bandHighMv: number, celsius: number): number {
  const span = (stretch.to - stretch.from) / DAY_MS;
  const [low, high] = [
    Math.min(stretch.fromPercent, stretch.toPercent),
    Math.max(stretch.fromPercent, stretch.toPercent),
  ];
  const fullMv = CHEMISTRY[chemistry].fullMv!;
  const rate = (percent: number) => exposureRate(restMv(chemistry, percent), bandHighMv, fullMv, celsius);
  if (high - low < 1e-9) return rate(high) * span;
  const corners = [low, ...CURVE_PERCENTS, socPercent(chemistry, bandHighMv), high]
    .filter((percent) => percent >= low && percent <= high)
    .sort((a, b) => a - b);
  let area = 0;
  for (let i = 1; i < corners.length; i++)
    area += ((rate(corners[i - 1]!) + rate(corners[i]!)) / 2) * (corners[i]! - corners[i - 1]!);
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
  const placeId = moves.findLast((move) => move.at <= at)?.placeId ?? null;
  if (placeId === null) return null;
  const known = pack.placeTemperatures.findLast((one) => one.placeId === placeId && one.since <= at);
  return known?.celsius ?? null;
}

/** The stretch in parts, none of which spans a change of hands. */
export function cutAt(stretch: Stretch, changes: readonly { readonly at: Instant }[]): Stretch[] {
  const cuts = changes.map(({ at }) => at).filter((at) => at > stretch.from && at < stretch.to);
  if (cuts.length === 0) return [stretch];
  const percentAt = (at: Instant) =>
    stretch.fromPercent +
    ((stretch.toPercent - stretch.fromPercent) * (at - stretch.from)) / (stretch.to - stretch.from);
  const ends = [stretch.from, ...cuts, stretch.to];
  return ends.slice(1).map((to, i) => ({
    from: ends[i]!,
    to,
    fromPercent: percentAt(ends[i]!),
    toPercent: percentAt(to),
    known: stretch.known,
  }));
}

/** Who had the pack at a moment. */
export function holderAt(moves: readonly MoveEvent[], at: Instant): PersonId | null {
  return moves.findLast((move) => move.at <= at)?.holderId ?? null;
}
