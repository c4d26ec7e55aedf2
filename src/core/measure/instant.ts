/** A moment: milliseconds since 1970-01-01T00:00Z. Differences are elapsed time, so a clock change cannot bend them. */
export type Instant = number;

export const MINUTE_MS = 60_000;
export const HOUR_MS = 60 * MINUTE_MS;
export const DAY_MS = 24 * HOUR_MS;

/** Elapsed hours from one instant to a later one; 0 when the second is not later.
 * @example hoursBetween(0, 5_400_000) // => 1.5
 */
export function hoursBetween(from: Instant, to: Instant): number {
  return Math.max(0, to - from) / HOUR_MS;
}
