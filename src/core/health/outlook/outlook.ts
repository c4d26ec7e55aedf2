import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { PackHistory } from '../../record';
import type { Lines } from '../../rules';
import type { Forecast } from '../forecast';
import { calendarClock, useClock } from './clock';
import type { WearClock } from './clock';
import { crossingOf, daysToLine, futuresOf, passesBy } from './crossing';
import type { Futures } from './crossing';
import { followWear, pastLine, recentChange, unworn, USUAL_DAYS } from './filter';
import type { Wear, WearPrior } from './filter';
import type { WearSeries } from './values';

/** How a measure of wear stands and where it is going. */
export interface Outlook {
  readonly measure: 'capacity' | 'resistance';
  readonly wear: Wear;
  readonly clock: WearClock;
  readonly toWatch: number;
  readonly toRetire: number;
}

/** What packs of one type and duty taught about each other; absent, a pack is judged by all packs there are. */
export interface SiblingWear {
  /** Paces in ways a day: their geometric mean, and how far they differ. */
  readonly pace: { readonly mean: number; readonly sd: number };
  readonly kneeHazard: number;
  /** How many packs it was learnt from. */
  readonly packs: number;
}

/** Knees come to a pack of which nothing is known once in so many clock days. */
export const KNEE_HAZARD = 1 / 900;

/** The watch and the retire line as wear that rises. */
function linesOf(measure: Outlook['measure'], lines: Lines): readonly [number, number] {
  return measure === 'capacity'
    ? [100 - lines.watch, 100 - lines.retire]
    : [100 * (lines.watch - 1), 100 * (lines.retire - 1)];
}

function priorOf(
  measure: Outlook['measure'],
  way: number,
  sharedSd: number,
  siblings: SiblingWear | null,
): WearPrior {
  return {
    way,
    startMean: measure === 'capacity' ? 1 : 0,
    startSd: measure === 'capacity' ? 3 : 0.5,
    sharedSd,
    sharedScales: measure === 'resistance',
    pace: siblings?.pace ?? { mean: 1 / USUAL_DAYS, sd: 1 / USUAL_DAYS },
    kneeHazard: siblings?.kneeHazard ?? KNEE_HAZARD,
  };
}

/** Follows one measure by the calendar and by use, and believes the clock that foretells its values better. Null without a value. */
export function outlookOf(
  measure: Outlook['measure'],
  series: WearSeries,
  lines: Lines,
  { flights }: Pick<PackHistory, 'flights'>,
  siblings: SiblingWear | null = null,
): Outlook | null {
  const [toWatch, toRetire] = linesOf(measure, lines);
  const prior = priorOf(measure, toWatch, series.sharedSd, siblings);
  const byCalendar = followWear(series.values, prior, calendarClock);
  const last = series.values.at(-1);
  if (!byCalendar || !last) return null;
  const use = useClock(
    flights.map(({ at }) => at),
    Math.max(last.at, flights.at(-1)?.at ?? 0),
  );
  const byUse = use && followWear(series.values, prior, use);
  return byUse && byUse.likelihood > byCalendar.likelihood
    ? { measure, wear: byUse, clock: use, toWatch, toRetire }
    : { measure, wear: byCalendar, clock: calendarClock, toWatch, toRetire };
}

/**
 * In how many days its retire line is passed, one figure a future, rising: nought where it has been, endless where not within five years.
 */
export function daysToRetire({ wear, clock, toRetire }: Outlook, now: Instant): Float64Array {
  return daysToLine(futuresOf(wear, clock), toRetire, now);
}

/** {@link daysToRetire} of a pack that is bought today, by what its siblings taught. */
export function daysToRetireNew(
  measure: Outlook['measure'],
  lines: Lines,
  siblings: SiblingWear | null,
): Float64Array {
  const [toWatch, toRetire] = linesOf(measure, lines);
  const wear = unworn(priorOf(measure, toWatch, 0, siblings), 0);
  return daysToLine(futuresOf(wear, calendarClock), toRetire, 0);
}

/** When it passes its lines, with the futures that tell so. Heavier than the filter: for a page, not a list. */
export function foretold(
  { wear, clock, toWatch, toRetire }: Outlook,
  now: Instant,
): {
  readonly futures: Futures;
  readonly toWatch: Forecast;
  readonly toRetire: Forecast;
  readonly soon: number;
} {
  const futures = futuresOf(wear, clock);
  return {
    futures,
    toWatch: crossingOf(wear, futures, toWatch, now),
    toRetire: crossingOf(wear, futures, toRetire, now),
    soon: passesBy(futures, toWatch, now + 30 * DAY_MS),
  };
}

/** So sure the filter must be before it condemns, and before it warns. */
const CONDEMNS = 0.9;
const WARNS = 0.5;
/** A change of pace this young is news, and told when this likely. */
const NEWS_DAYS = 120;
const NEWS_SHARE = 0.8;

/** What a measure's filter says of the pack now: it is past a line, or its pace has changed. */
export function alarmsOf({ wear, toWatch, toRetire }: Outlook): {
  readonly past: 'retire' | 'watch' | null;
  readonly changed: { readonly at: Instant; readonly how: 'knee' | 'step'; readonly seen: number } | null;
} {
  const past =
    wear.count >= 3 && pastLine(wear, toRetire, true) >= CONDEMNS
      ? 'retire'
      : pastLine(wear, toWatch, false) >= WARNS
        ? 'watch'
        : null;
  const change = recentChange(wear, NEWS_DAYS);
  return { past, changed: change && change.share >= NEWS_SHARE && change.seen >= 3 ? change : null };
}
