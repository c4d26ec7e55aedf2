import type { FlightEvent } from '../record';
import { median } from './points';
import type { Point } from './points';
import type { Instant } from '../measure';

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

/**
 * How long a pack flies on a charge, on the craft it flew most in one set-up, warm flights with minutes and charge noted only: like is
 * compared with like. Null when there is no such flight.
 * @param coldC colder than this outside a pack gives less whatever its health, and the flight is not compared
 */
export function runTimes(flights: readonly FlightEvent[], coldC: number): RunTimes | null {
  const bySetup = new Map<string, { craft: string; points: Point[] }>();
  for (const { at, craft, craftId, craftSetup, minutes, usedMah, ambientC, records } of flights) {
    if (craft === null || !minutes || !usedMah || (ambientC !== null && ambientC < coldC)) continue;
    // A craft that was renamed is the same one; with other propellers or another weight it is not.
    const key = `${craftId ?? craft} ${craftSetup ?? 0}`;
    const flown = bySetup.get(key) ?? { craft, points: [] };
    flown.points.push({ at, value: minutes / (usedMah / 1000), records });
    bySetup.set(key, flown);
  }
  const most = [...bySetup.values()].sort((a, b) => b.points.length - a.points.length)[0];
  if (!most) return null;
  const { craft, points } = most;
  const first = points.slice(0, BASELINE_FLIGHTS).map(({ value }) => value);
  return { craft, points, baseline: first.length < BASELINE_FLIGHTS ? null : median(first) };
}

/** How much shorter a pack flies now than at its baseline. */
export interface RunTimeLoss {
  /** Percent, by the median of its latest flights. */
  readonly percent: number;
  readonly latest: readonly Point[];
  /** The loss of each of the latest flights by itself, percent. */
  readonly each: readonly number[];
  /** The first flight after the loss came all at once; null for one that grew. A pack wears by and by, a craft is changed in an evening. */
  readonly stepAt: Instant | null;
}

/** Null without enough flights. */
export function runTimeLoss({ points, baseline }: RunTimes): RunTimeLoss | null {
  if (baseline === null || points.length < BASELINE_FLIGHTS * 2) return null;
  const latest = points.slice(-BASELINE_FLIGHTS);
  const lossOf = (value: number) => (1 - value / baseline) * 100;
  const percent = lossOf(median(latest.map(({ value }) => value)));
  const each = latest.map(({ value }) => lossOf(value));
  return { percent, latest, each, stepAt: stepIn(points, (percent / 100) * baseline) };
}

/** So much of a loss between one flight and the next is a step. */
const STEP_SHARE = 0.7;
/** A step is seen between the medians of so many flights before and after it. */
const STEP_FLIGHTS = 3;

function stepIn(points: readonly Point[], loss: number): Instant | null {
  if (loss <= 0) return null;
  let [most, at]: [number, Instant | null] = [0, null];
  for (let i = STEP_FLIGHTS; i + STEP_FLIGHTS <= points.length; i++) {
    const before = median(points.slice(i - STEP_FLIGHTS, i).map(({ value }) => value));
    const after = median(points.slice(i, i + STEP_FLIGHTS).map(({ value }) => value));
    if (before - after > most) [most, at] = [before - after, points[i]!.at];
  }
  return most >= STEP_SHARE * loss ? at : null;
}
