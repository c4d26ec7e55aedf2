/** A moment: milliseconds since 1970-01-01T00:00Z. Differences are elapsed time, so a clock change cannot bend them. */
export type Instant = number;

export const MINUTE_MS = 60_000;
export const HOUR_MS = 60 * MINUTE_MS;
export const DAY_MS = 24 * HOUR_MS;

/**
 * How many of a list's entries lie at or before a moment. The list is in the order of time.
 * @example countUpTo([{ at: 1 }, { at: 3 }, { at: 3 }, { at: 8 }], 3) // => 3
 * @example countUpTo([], 3) // => 0
 */
export function countUpTo(list: readonly { readonly at: Instant }[], at: Instant): number {
  return countWhile(list, (one) => one.at <= at);
}

/**
 * How many entries at the head of a list answer yes, where no entry does after one that does not.
 * @example countWhile([1, 2, 5, 9], (one) => one < 5) // => 2
 */
export function countWhile<One>(list: readonly One[], holds: (one: One) => boolean): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(list[middle]!)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Elapsed hours from one instant to a later one; 0 when the second is not later.
 * @example hoursBetween(0, 5_400_000) // => 1.5
 */
export function hoursBetween(from: Instant, to: Instant): number {
  return Math.max(0, to - from) / HOUR_MS;
}
