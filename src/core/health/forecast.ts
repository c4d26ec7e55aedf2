import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import { Z80 } from './trend';
import type { NotEnough, Trend } from './trend';

/** When a measure will cross a line, as far as its trend tells. The range holds four times in five. */
export type Forecast =
  | { readonly state: 'not-enough'; readonly count: number; readonly wanted: number }
  | { readonly state: 'crossed'; readonly at: Instant }
  /** It is not moving towards the line, or so slowly that the line lies beyond what anybody should plan for. */
  | { readonly state: 'not-in-sight' }
  | {
      readonly state: 'range';
      readonly earliest: Instant;
      readonly expected: Instant;
      /** Null when the slope may as well be none: it may never cross. */
      readonly latest: Instant | null;
      /** How likely it has crossed already, unseen; absent where the method cannot tell. */
      readonly alreadyShare?: number;
    };

export type Direction = 'rising' | 'falling';

/** Beyond five years no battery forecast is worth a date. */
const HORIZON_DAYS = 5 * 365;
/** Scatter is a median distance; a normal distribution's standard deviation is this many of them. */
const SIGMA_OF_MEDIAN_DISTANCE = 1.4826;
/**
 * The slope's and the level's errors seldom point the same way, so their sum overstates the range: of two equal ones by
 * this much. On simulated packs of known ageing the range then holds four times in five (docs/bench.md).
 */
const LEVEL_SHARE = Math.SQRT1_2;

/** A trend's slopes towards a line, positive when it moves that way, and how unsure its level is. */
function towards(trend: Trend, direction: Direction) {
  const sign = direction === 'rising' ? 1 : -1;
  const [low, high] =
    sign === 1 ? [trend.perDayLow, trend.perDayHigh] : [-trend.perDayHigh, -trend.perDayLow];
  const sigma = SIGMA_OF_MEDIAN_DISTANCE * trend.scatter;
  return {
    sign,
    slope: trend.perDay * sign,
    fastest: high,
    slowest: low,
    level: (LEVEL_SHARE * Z80 * sigma) / Math.sqrt(trend.used),
  };
}

/** The forecast of a trend crossing a limit. The range joins the slope's and the level's uncertainty. */
export function forecast(
  trend: Trend | NotEnough,
  limit: number,
  direction: Direction,
  now: Instant,
): Forecast {
  if (!trend.enough) return { state: 'not-enough', count: trend.count, wanted: trend.wanted };
  const { sign, slope, fastest, slowest, level } = towards(trend, direction);
  const toGo = (limit - trend.midValue) * sign;
  const after = (days: number) => trend.midAt + days * DAY_MS;
  const leftNow = toGo - slope * ((now - trend.midAt) / DAY_MS);
  // Only what is over its line beyond the level's own uncertainty has crossed it.
  if (leftNow + level <= 0) {
    return { state: 'crossed', at: slope > 0 ? Math.min(now, after(toGo / slope)) : now };
  }
  if (leftNow > 0 && slope <= 0) return { state: 'not-in-sight' };
  if (slope > 0 && toGo / slope > HORIZON_DAYS) return { state: 'not-in-sight' };
  return {
    state: 'range',
    earliest: fastest > 0 ? Math.max(now, after(Math.max(0, toGo - level) / fastest)) : now,
    expected: slope > 0 ? Math.max(now, after(toGo / slope)) : now,
    latest: slowest > 0 ? Math.max(now, after((toGo + level) / slowest)) : null,
  };
}

/** Where the trend lies at a moment: the line, and the band the forecasts are read from. */
export function trendBand(
  trend: Trend,
  direction: Direction,
  at: Instant,
): { readonly line: number; readonly low: number; readonly high: number } {
  const { sign, fastest, slowest, level } = towards(trend, direction);
  const days = (at - trend.midAt) / DAY_MS;
  const ends = [fastest, slowest].map((slope) => trend.midValue + sign * slope * days);
  return {
    line: trend.midValue + trend.perDay * days,
    low: Math.min(...ends) - level,
    high: Math.max(...ends) + level,
  };
}
