import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';

/** Clock days from one moment to a later one. */
export type WearClock = (from: Instant, to: Instant) => number;

/** The calendar's own days. */
export const calendarClock: WearClock = (from, to) => (to - from) / DAY_MS;

/** So much of ageing is time's own; the rest comes with use. */
export const BY_TIME = 0.3;
/** Of a future month, so much is taken from the same month a year earlier, the rest from the mean. */
const LIKE_LAST_YEAR = 0.85;
/** Use that differs less than this from month to month says nothing the calendar does not. */
const LEAST_VARIED = 0.35;
const MONTH_MS = 30 * DAY_MS;
const YEAR_MS = 365 * DAY_MS;

/**
 * A clock that runs with use: a winter in the cabinet ages a pack less than a month of flying. Null where use hardly varies, or too
 * little is known of it.
 * @param uses when the pack was used, oldest first
 * @param until up to when uses are known; later ones are expected as a year before
 */
export function useClock(uses: readonly Instant[], until: Instant): WearClock | null {
  const first = uses[0];
  if (first === undefined || until - first < 3 * MONTH_MS || uses.length < 10) return null;
  const months = Math.floor((until - first) / MONTH_MS);
  const perMonth = Array.from({ length: months }, () => 0);
  for (const at of uses) {
    const month = Math.floor((at - first) / MONTH_MS);
    if (month < months) perMonth[month]! += 1;
  }
  const mean = perMonth.reduce((sum, one) => sum + one, 0) / months;
  const sd = Math.sqrt(perMonth.reduce((sum, one) => sum + (one - mean) ** 2, 0) / months);
  if (mean === 0 || sd / mean <= LEAST_VARIED) return null;
  const perDay = mean / 30;
  const known = (from: Instant, to: Instant) => countUpTo(uses, to) - countUpTo(uses, from);
  const expected = (from: Instant, to: Instant): number => {
    const days = (to - from) / DAY_MS;
    const before =
      to - YEAR_MS <= until && from - YEAR_MS >= first ? known(from - YEAR_MS, to - YEAR_MS) : days * perDay;
    return LIKE_LAST_YEAR * before + (1 - LIKE_LAST_YEAR) * days * perDay;
  };
  return (from, to) => {
    const past = known(from, Math.min(to, Math.max(from, until)));
    const ahead = to > until ? expected(Math.max(from, until), to) : 0;
    return (BY_TIME * (to - from)) / DAY_MS + ((1 - BY_TIME) * (past + ahead)) / perDay;
  };
}

function countUpTo(uses: readonly Instant[], at: Instant): number {
  let [low, high] = [0, uses.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (uses[middle]! <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}
