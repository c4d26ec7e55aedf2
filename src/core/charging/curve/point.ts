/** One line of a charger while it works. */
export interface CurvePoint {
  /** Seconds since the charge began. */
  readonly seconds: number;
  /** Millivolts cell by cell; of a charge without the balance lead one figure, the whole pack's. */
  readonly mv: readonly number[];
  /** What flows, in or out, always positive. */
  readonly amps: number;
  readonly movedMah: number;
  readonly celsius: number | null;
}

/** A point is kept this often where nothing changes: a day of charging stays small, and a taper keeps its shape. */
const EVERY_SECONDS = 10;
/** A current that changes by more than this share of itself is a step, from which resistance is worked out. */
/** After a step every line is kept for so long: the more there are, the better a display's noise is averaged out. */
const DENSE_SECONDS = 60;
const STEP_SHARE = 0.08;
const STEP_AMPS = 0.05;

/** What is kept of a charge so far. `waiting` is the newest line where nothing asked to keep it. */
export interface KeptCurve {
  readonly points: readonly CurvePoint[];
  readonly waiting: CurvePoint | null;
  /** When the current last changed at once, in seconds of the charge; before its first step, its beginning. */
  readonly steppedAt: number;
}

export const EMPTY_CURVE: KeptCurve = { points: [], waiting: null, steppedAt: 0 };

/**
 * Takes one more line into what is kept: one every ten seconds, and both sides of a step of the current. A line no later than the one
 * before it is a repetition and changes nothing; a line with another number of cells is another pack's and is left out.
 */
export function curveWith(before: KeptCurve, point: CurvePoint): KeptCurve {
  const last = before.points.at(-1);
  if (!last) return { points: [point], waiting: null, steppedAt: point.seconds };
  const newest = before.waiting ?? last;
  if (point.seconds <= newest.seconds || point.mv.length !== last.mv.length) return before;
  const change = Math.abs(point.amps - newest.amps);
  const isStep = change > STEP_AMPS && change > STEP_SHARE * Math.max(point.amps, newest.amps);
  const waited = before.waiting && isStep ? [before.waiting] : [];
  const isWanted =
    isStep ||
    point.seconds - last.seconds >= EVERY_SECONDS ||
    point.seconds - before.steppedAt <= DENSE_SECONDS;
  if (!isWanted) return { ...before, waiting: point };
  return {
    points: [...before.points, ...waited, point],
    waiting: null,
    steppedAt: isStep ? point.seconds : before.steppedAt,
  };
}

/** All points there are, the newest with them. */
export function pointsOf({ points, waiting }: KeptCurve): readonly CurvePoint[] {
  return waiting ? [...points, waiting] : points;
}
