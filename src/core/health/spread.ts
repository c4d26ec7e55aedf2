import { soc, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';

/** How far the cells of one pack lie apart, and which one is lowest. */
export interface Spread {
  readonly mv: number;
  /** 1 for the cell at the negative end. */
  readonly lowestCell: number;
  readonly lowestMv: number;
  readonly highestMv: number;
}

/**
 * Highest minus lowest rested cell voltage, in whole millivolts, so that 4.20 − 4.18 is exactly 0.02 V.
 * @param cellsMv at least one cell
 * @example spread([4200, 4180]).mv // => 20
 */
export function spread(cellsMv: readonly number[]): Spread {
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  return { mv: highestMv - lowestMv, lowestCell: cellsMv.indexOf(lowestMv) + 1, lowestMv, highestMv };
}

/**
 * The difference in charge, percent, that this spread stands for by the curve. Near empty and near full the curve is steep and
 * the same millivolts are little charge.
 * @example socSpreadPercent('lipo', { lowestMv: 3780, highestMv: 3850 }) // => 22.5
 */
export function socSpreadPercent(
  chemistry: LithiumChemistry,
  { lowestMv, highestMv }: Pick<Spread, 'lowestMv' | 'highestMv'>,
): number {
  return socPercent(chemistry, highestMv) - socPercent(chemistry, lowestMv);
}

/**
 * The smallest difference in charge, in percent, that this spread can stand for once the meter's error is granted on
 * both cells; 0 when the error alone can explain it. On a flat curve a few millivolts look like much charge and are none.
 * @example certainSocSpreadPercent('lipo', { lowestMv: 3840, highestMv: 3850 }, 5) // => 0
 */
export function certainSocSpreadPercent(
  chemistry: LithiumChemistry,
  cells: Pick<Spread, 'lowestMv' | 'highestMv'>,
  meterErrorMv: number,
): number {
  const top = soc(chemistry, cells.highestMv, meterErrorMv).lowPercent;
  const bottom = soc(chemistry, cells.lowestMv, meterErrorMv).highPercent;
  return Math.max(0, top - bottom);
}
