import type { LithiumChemistry } from './chemistry';
import { CURVE_STEP_PERCENT, REST_MV } from './curves';

/** A state of charge and what the meter's error makes of it, all in percent of the capacity the pack still has. */
export interface SocEstimate {
  readonly percent: number;
  readonly lowPercent: number;
  readonly highPercent: number;
}

/** A meter that states no error is taken to be this good, millivolts either way. */
export const DEFAULT_METER_ERROR_MV = 5;

/**
 * The state of charge that a rested cell voltage stands for: linear between the curve's points,
 * clamped to 0 and 100 outside them. Only rested volts may be asked about; under load they mean nothing.
 * @param mv per-cell millivolts
 * @example socPercent('lipo', 3800) // => 40
 * @example socPercent('liion', 3660) // => 47.5
 * @example socPercent('lipo', 4300) // => 100
 */
export function socPercent(chemistry: LithiumChemistry, mv: number): number {
  const known = tables[chemistry] ?? (tables[chemistry] = tableOf(REST_MV[chemistry]));
  return known[mv] ?? onCurve(REST_MV[chemistry], mv);
}

/** Every whole millivolt a cell can show, worked out once: this is asked for every cell of every reading of a register. */
const TABLE_MV = 5_000;
const tables: Partial<Record<LithiumChemistry, Float64Array>> = {};

function tableOf(curve: readonly number[]): Float64Array {
  return Float64Array.from({ length: TABLE_MV }, (_, mv) => onCurve(curve, mv));
}

function onCurve(curve: readonly number[], mv: number): number {
  if (mv <= curve[0]!) return 0;
  const last = curve.length - 1;
  if (mv >= curve[last]!) return 100;
  let i = 1;
  while (curve[i]! < mv) i += 1;
  const low = curve[i - 1]!;
  return CURVE_STEP_PERCENT * (i - 1 + (mv - low) / (curve[i]! - low));
}

/**
 * The rested cell voltage, in millivolts, at which a cell holds this share of its charge.
 * The inverse of {@link socPercent}; clamped at the ends of the curve.
 * @example restMv('lipo', 40) // => 3800
 */
export function restMv(chemistry: LithiumChemistry, percent: number): number {
  const curve = REST_MV[chemistry];
  const last = curve.length - 1;
  const steps = Math.min(last, Math.max(0, percent / CURVE_STEP_PERCENT));
  const i = Math.min(last - 1, Math.floor(steps));
  return curve[i]! + (steps - i) * (curve[i + 1]! - curve[i]!);
}

/**
 * The state of charge with its uncertainty: what the same cell could hold were the meter off by its error
 * in either direction. On a flat stretch of the curve (LiFePO4) that is tens of percent.
 * @param meterErrorMv the instrument's error, millivolts either way
 * @example soc('lipo', 3830, 5) // => { percent: 47.5, lowPercent: 46.25, highPercent: 48.75 }
 */
export function soc(chemistry: LithiumChemistry, mv: number, meterErrorMv: number): SocEstimate {
  return {
    percent: socPercent(chemistry, mv),
    lowPercent: socPercent(chemistry, mv - meterErrorMv),
    highPercent: socPercent(chemistry, mv + meterErrorMv),
  };
}
