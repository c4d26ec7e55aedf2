import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import { median } from './points';
import type { Point } from './points';

/** How a measure moves: a robust line through its values, and how sure that line is. */
export interface Trend {
  readonly enough: true;
  readonly count: number;
  /** How many values the line was laid through, after thinning. */
  readonly used: number;
  /** The middle of the observations, where the line is surest. */
  readonly midAt: Instant;
  readonly midValue: number;
  readonly perDay: number;
  /** The slope's 80 % confidence interval. */
  readonly perDayLow: number;
  readonly perDayHigh: number;
  /** How far single values lie from the line: the median distance. */
  readonly scatter: number;
}

/** Too few values, or too short a time, to say where a measure is going. */
export interface NotEnough {
  readonly enough: false;
  readonly count: number;
  readonly wanted: number;
}

/** Never a line through two points: a robust slope needs this many values over this many days. */
export const TREND_POINTS = 6;
const TREND_DAYS = 21;
/** Longer series are thinned to medians of neighbours; pairs grow with the square of the count. */
const MOST_POINTS = 48;
/** Two-sided 80 % of a normal distribution. */
export const Z80 = 1.2816;

/**
 * The Theil–Sen line: the median of the slopes through every pair of values, with Sen's confidence interval from the
 * ranks of those slopes. One wild value moves it little.
 */
export function trendOf(points: readonly Point[]): Trend | NotEnough {
  const thinned = thin(recent(points));
  const first = thinned[0];
  const last = thinned.at(-1);
  if (!first || !last || thinned.length < TREND_POINTS || last.at - first.at < TREND_DAYS * DAY_MS)
    return { enough: false, count: points.length, wanted: TREND_POINTS };
  const slopes = pairSlopes(thinned);
  const n = thinned.length;
  // Sen 1968: the number of concordant pairs of n values without a trend has this variance.
  const halfWidth = Z80 * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const rank = (at: number) => slopes[Math.min(slopes.length - 1, Math.max(0, Math.round(at)))]!;
  const perDay = median(slopes);
  const midAt = median(thinned.map(({ at }) => at));
  const midValue = median(thinned.map(({ at, value }) => value - (perDay * (at - midAt)) / DAY_MS));
  const off = thinned.map(({ at, value }) => Math.abs(value - midValue - (perDay * (at - midAt)) / DAY_MS));
  return {
    enough: true,
    count: points.length,
    used: n,
    midAt,
    midValue,
    perDay,
    perDayLow: rank((slopes.length - halfWidth) / 2),
    perDayHigh: rank((slopes.length + halfWidth) / 2),
    scatter: median(off),
  };
}

/** Worn cells wear faster, so the later half says more of what is coming; but never less than half a year or eight values. */
const LATER_SHARE = 0.5;
const LATER_DAYS = 180;
const LATER_POINTS = 8;

function recent(points: readonly Point[]): readonly Point[] {
  const first = points[0];
  const last = points.at(-1);
  const few = points.at(-LATER_POINTS);
  if (!first || !last || !few) return points;
  const from = last.at - Math.max(LATER_DAYS * DAY_MS, (last.at - first.at) * LATER_SHARE);
  return points.filter(({ at }) => at >= Math.min(from, few.at));
}

function pairSlopes(points: readonly Point[]): number[] {
  const slopes: number[] = [];
  for (let i = 0; i < points.length; i++) {
    for (let j = i + 1; j < points.length; j++) {
      const days = (points[j]!.at - points[i]!.at) / DAY_MS;
      if (days > 0) slopes.push((points[j]!.value - points[i]!.value) / days);
    }
  }
  return slopes.sort((a, b) => a - b);
}

function thin(points: readonly Point[]): readonly Point[] {
  if (points.length <= MOST_POINTS) return points;
  const size = Math.ceil(points.length / MOST_POINTS);
  const thinned: Point[] = [];
  for (let i = 0; i < points.length; i += size) {
    const group = points.slice(i, i + size);
    thinned.push({
      at: median(group.map(({ at }) => at)),
      value: median(group.map(({ value }) => value)),
      records: [],
    });
  }
  return thinned;
}
