import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';
import type { HouseRules } from '../rules';

/** So long after the question nobody has answered, the charge counts as one that nobody watches. */
const PATIENCE_MINUTES = 10;
/** An estimate is a few minutes off; nobody is called for that. */
const GRACE_MINUTES = 5;

export interface RunningFacts {
  readonly start: Instant;
  /** When it was expected to end as it started. */
  readonly end: Instant;
  readonly seenAt: Instant | null;
}

/**
 * What a running job asks of people, the gravest first: `stop-now` where it has run longer than the house's share of what was expected,
 * `unwatched` where the question "still here?" was not answered, `ends` where its expected end is over, `ask` where the question is due.
 */
export type Watch = 'stop-now' | 'unwatched' | 'ends' | 'ask' | 'well';

export function watchOf(
  { start, end, seenAt }: RunningFacts,
  now: Instant,
  { charge }: Pick<HouseRules, 'charge'>,
): Watch {
  const longest = ((end - start) * charge.tooLongPercent) / 100;
  if (now > end + GRACE_MINUTES * MINUTE_MS && now - start > longest) return 'stop-now';
  const quiet = now - (seenAt ?? start);
  if (quiet > (charge.stillHereMinutes + PATIENCE_MINUTES) * MINUTE_MS) return 'unwatched';
  if (now > end) return 'ends';
  return quiet >= charge.stillHereMinutes * MINUTE_MS ? 'ask' : 'well';
}
