import type { Instant, RecordId } from '../measure';

/** One value of a measure at one moment, and the records it was taken from. */
export interface Point {
  readonly at: Instant;
  readonly value: number;
  readonly records: readonly RecordId[];
}

/**
 * The middle value; the mean of the two middle ones for an even count.
 * @throws for no values at all: ask only where there are some
 * @example median([3, 1, 2]) // => 2
 * @example median([4, 1, 2, 3]) // => 2.5
 */
export function median(values: readonly number[]): number {
  if (values.length === 0) throw new Error('There is no median of nothing.');
  const sorted = values.slice().sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** How many of the latest values a measure is judged by: one bad contact or cold evening must not condemn a pack. */
const JUDGED_BY = 3;

/**
 * What a measure says now: the median of its latest values, and their records. Null when there are none.
 * @example currentValue([{ at: 1, value: 9, records: [] }, { at: 2, value: 3, records: [] }, { at: 3, value: 4, records: [] }, { at: 4, value: 5, records: [] }]).value // => 4
 * @example currentValue([]) // => null
 */
export function currentValue(points: readonly Point[], judgedBy = JUDGED_BY): Point | null {
  const latest = points.slice(-judgedBy);
  const last = latest.at(-1);
  if (!last) return null;
  return {
    at: last.at,
    value: median(latest.map(({ value }) => value)),
    records: latest.flatMap(({ records }) => records),
  };
}
