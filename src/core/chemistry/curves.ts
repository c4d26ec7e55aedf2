import type { LithiumChemistry } from './chemistry';

/** Rest volts per cell at 25 °C for 100, 95, … 0 % charge. Source: the practice's rest-voltage table. */
const REST_VOLTS: Readonly<Record<LithiumChemistry, readonly number[]>> = {
  lipo: [
    4.2, 4.15, 4.11, 4.08, 4.02, 3.98, 3.95, 3.91, 3.87, 3.85, 3.84, 3.82, 3.8, 3.79, 3.77, 3.75, 3.73, 3.71,
    3.69, 3.61, 3.27,
  ],
  lihv: [
    4.35, 4.27, 4.2, 4.15, 4.1, 4.06, 4.02, 3.98, 3.94, 3.9, 3.87, 3.85, 3.83, 3.8, 3.78, 3.76, 3.74, 3.72,
    3.69, 3.63, 3.3,
  ],
  liion: [
    4.2, 4.11, 4.06, 4.02, 3.97, 3.92, 3.87, 3.82, 3.77, 3.72, 3.68, 3.64, 3.61, 3.58, 3.54, 3.5, 3.45, 3.38,
    3.3, 3.16, 2.8,
  ],
  lifepo4: [
    3.4, 3.36, 3.34, 3.33, 3.32, 3.31, 3.3, 3.285, 3.27, 3.265, 3.26, 3.255, 3.25, 3.235, 3.22, 3.21, 3.2,
    3.12, 3.0, 2.8, 2.5,
  ],
};

/** The curve's points stand this far apart. */
export const CURVE_STEP_PERCENT = 5;

/** Each chemistry's rest-voltage curve, per-cell millivolts, rising: at 0, 5, … 100 % charge. */
export const REST_MV: Readonly<Record<LithiumChemistry, readonly number[]>> = {
  lipo: rising(REST_VOLTS.lipo),
  lihv: rising(REST_VOLTS.lihv),
  liion: rising(REST_VOLTS.liion),
  lifepo4: rising(REST_VOLTS.lifepo4),
};

function rising(volts: readonly number[]): readonly number[] {
  return volts.map((v) => Math.round(v * 1000)).reverse();
}
