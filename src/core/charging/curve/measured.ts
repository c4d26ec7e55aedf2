import { socPercent } from '../../chemistry';
import type { LithiumChemistry } from '../../chemistry';
import { chargingMv } from '../ocv';
import type { CurvePoint } from './point';

/** A figure with how far it may be off either way. */
export interface Measured {
  readonly value: number;
  readonly error: number;
}

/** What a charger's display is off by where nobody measured it, millivolts. */
const DISPLAY_MV = 4;
/** Coulomb counting of a small charger, percent. */
const COUNTING_PERCENT = 1;
/** Of what goes into a lithium cell so much comes out again. */
const KEPT_SHARE = 0.995;
/** From a fuller pack than this the start's own uncertainty is too large a part of the capacity, percent. */
const EMPTY_ENOUGH_PERCENT = 40;
const NOTHING_AMPS = 0.03;

/**
 * The capacity a charge from low to full went into, mAh. Null where it did not begin low, was not seen before the current flowed, or did
 * not end at the top on a small current.
 * @param startCellsMv rested volts before the charge where they were read; without them the first point must be one without current
 */
export function capacityFromCurve(
  points: readonly CurvePoint[],
  chemistry: LithiumChemistry,
  topMv: number,
  startCellsMv: readonly number[] | null,
  meterErrorMv = DISPLAY_MV,
): Measured | null {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last) return null;
  const before = startCellsMv ?? (first.amps < NOTHING_AMPS ? first.mv : null);
  if (before?.length !== last.mv.length) return null;
  const most = Math.max(...points.map(({ amps }) => amps));
  const working = points.findLast(({ amps }) => amps >= NOTHING_AMPS);
  if (!working || Math.max(...working.mv) < topMv - 15) return null;
  const isResting = last.amps < NOTHING_AMPS;
  if (!isResting && working.amps > most * 0.25) return null;
  const percentAt = (mv: number) => socPercent(chemistry, mv);
  // What was put in went into every cell alike, so that the mean cell is the one to be counted.
  const percents = before.map(percentAt);
  const start = mean(percents);
  if (start > EMPTY_ENOUGH_PERCENT) return null;
  // The last current stands between what the terminals show and what the cells hold.
  const ends = isResting ? last.mv : working.mv;
  const end = Math.min(100, mean(ends.map(percentAt)));
  const share = (end - start) / 100;
  if (share < 0.5) return null;
  const unsure = (mv: readonly number[]) =>
    mean(mv.map((one) => (percentAt(one + meterErrorMv) - percentAt(one - meterErrorMv)) / 2));
  const sharePercent = Math.hypot(unsure(before), unsure(ends) / 2) / share / 100;
  const value = (last.movedMah * KEPT_SHARE) / share;
  return { value, error: value * Math.hypot(sharePercent, COUNTING_PERCENT / 100) };
}

/** Points this near a step of the current belong to it, seconds. */
const NEAR_SECONDS = 30;
/** A step smaller than this tells less than the display's own noise, amps. */
const LEAST_STEP_AMPS = 0.1;
/** However often a step was seen, a charger's own scale and the chemistry's curve are off by a share of this. */
const LEAST_ERROR = 0.02;

/**
 * Resistance cell by cell, milliohm, from where the current begins or ends at once: volts change by it times the resistance. While it
 * flows a cell moves on along its chemistry's curve, which is taken off first. Null where no current began or ended.
 * @param capacityMah about what the pack holds: it says how far along the curve a charge moves the cells
 */
export function resistanceFromCurve(
  points: readonly CurvePoint[],
  chemistry: LithiumChemistry,
  capacityMah: number,
): readonly Measured[] | null {
  const steps = stepsOf(points);
  if (steps.length === 0) return null;
  return points[0]!.mv.map((_, cell) => {
    let weighted = 0;
    let weights = 0;
    for (const { resting, working, at } of steps) {
      const restMvHere = mean(resting.map(({ mv }) => mv[cell]!));
      const percent = socPercent(chemistry, restMvHere);
      const lifts = working.map(({ mv, movedMah, amps }) => {
        const along = percent + ((movedMah - at.movedMah) / capacityMah) * 100;
        return { mv: mv[cell]! - chargingMv(chemistry, Math.max(0, along)), amps };
      });
      const noise = (DISPLAY_MV / 2) * Math.sqrt(1 / resting.length + 1 / working.length);
      const amps = mean(lifts.map((lift) => lift.amps));
      const weight = (amps / noise) ** 2;
      weighted += (mean(lifts.map((lift) => lift.mv)) / amps) * weight;
      weights += weight;
    }
    const value = weighted / weights;
    return { value, error: 2 * Math.hypot(1 / Math.sqrt(weights), LEAST_ERROR * value) };
  });
}

/** Where the current begins or ends: the points without it, those with it, and the last or first one at rest. */
interface Step {
  readonly resting: readonly CurvePoint[];
  readonly working: readonly CurvePoint[];
  readonly at: CurvePoint;
}

function stepsOf(points: readonly CurvePoint[]): Step[] {
  const steps: Step[] = [];
  for (let i = 1; i < points.length; i += 1) {
    const [one, next] = [points[i - 1]!, points[i]!];
    const begins = one.amps < NOTHING_AMPS && next.amps >= LEAST_STEP_AMPS;
    const ends = next.amps < NOTHING_AMPS && one.amps >= LEAST_STEP_AMPS;
    if ((!begins && !ends) || next.seconds - one.seconds > NEAR_SECONDS) continue;
    const before = alike(points.slice(0, i), one).filter(
      ({ seconds }) => one.seconds - seconds <= NEAR_SECONDS,
    );
    const after = alike(points.slice(i), next).filter(
      ({ seconds }) => seconds - next.seconds <= NEAR_SECONDS,
    );
    steps.push(
      begins ? { resting: before, working: after, at: one } : { resting: after, working: before, at: next },
    );
  }
  return steps;
}

/** The points that run at about this one's current. */
function alike(points: readonly CurvePoint[], like: CurvePoint): CurvePoint[] {
  return points.filter(({ amps }) => Math.abs(amps - like.amps) <= Math.max(NOTHING_AMPS, like.amps * 0.03));
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
