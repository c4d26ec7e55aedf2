import type { FlightEvent } from '../record';
import { median } from './points';
import type { Point } from './points';

/** Flight time for the same charge, with the craft it was flown on. */
export interface RunTimes {
  readonly craft: string;
  /** Minutes per ampere-hour used, flight by flight. */
  readonly points: readonly Point[];
  /** The median of the first flights; null until there are enough. */
  readonly baseline: number | null;
}

/** So many flights on one craft make a baseline, and so many more are judged against it. */
const BASELINE_FLIGHTS = 5;
/** Colder than this a pack gives less whatever its health; such flights are not compared. */
const COLD_C = 10;

/**
 * How long a pack flies on a charge, on the craft it flew most, warm flights with minutes and charge noted only: like is
 * compared with like. Null when there is no such flight.
 */
export function runTimes(flights: readonly FlightEvent[]): RunTimes | null {
  const byCraft = new Map<string, Point[]>();
  for (const { at, craft, minutes, usedMah, ambientC, records } of flights) {
    if (craft === null || !minutes || !usedMah || (ambientC !== null && ambientC < COLD_C)) continue;
    const points = byCraft.get(craft) ?? [];
    points.push({ at, value: minutes / (usedMah / 1000), records });
    byCraft.set(craft, points);
  }
  const most = [...byCraft].sort(([, a], [, b]) => b.length - a.length)[0];
  if (!most) return null;
  const [craft, points] = most;
  const first = points.slice(0, BASELINE_FLIGHTS).map(({ value }) => value);
  return { craft, points, baseline: first.length < BASELINE_FLIGHTS ? null : median(first) };
}

/** How much shorter it flies now than at its baseline, percent, by the median of its latest flights; null without enough. */
export function runTimeLoss({
  points,
  baseline,
}: RunTimes): { percent: number; latest: readonly Point[] } | null {
  if (baseline === null || points.length < BASELINE_FLIGHTS * 2) return null;
  const latest = points.slice(-BASELINE_FLIGHTS);
  return { percent: (1 - median(latest.map(({ value }) => value)) / baseline) * 100, latest };
}
