import { restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';

/** The arithmetic of a flight, as done at the bench. Source of every formula: the practice's flying sums. */

/**
 * How long a timer may run: minutes = share × Ah × 60 ÷ average amps.
 * @param share the part of the capacity a use may take, 0 to 1
 * @example timerMinutes(5, 0.8, 20) // => 12
 */
export function timerMinutes(capacityAh: number, share: number, averageA: number): number {
  return (share * capacityAh * 60) / averageA;
}

/**
 * Rested millivolts a cell should show after a use that took this share of a full pack.
 * @example landingRestMv('lipo', 0.8) // => 3730
 */
export function landingRestMv(chemistry: LithiumChemistry, share: number): number {
  return restMv(chemistry, (1 - share) * 100);
}

/**
 * Sag of one cell under load: I × R, millivolts.
 * @example sagMv(40, 4) // => 160
 */
export function sagMv(amps: number, cellMilliohm: number): number {
  return amps * cellMilliohm;
}

/**
 * The lowest charge, percent, at which a punch of so many amps keeps the cell at or above a voltage: from the rest curve,
 * where OCV − I·R reaches it. 100 when even a full cell would dip below.
 * @example lowestPunchPercent('lipo', 100, 4, 3200) // => 4.85
 */
export function lowestPunchPercent(
  chemistry: LithiumChemistry,
  amps: number,
  cellMilliohm: number,
  floorMv: number,
): number {
  return Math.round(socPercent(chemistry, floorMv + sagMv(amps, cellMilliohm)) * 100) / 100;
}

/** How a load stands against the label's rating. */
export interface LoadCheck {
  readonly ratedA: number;
  /** Sustained load as a share of the rating, 0 to 1 and more. */
  readonly share: number;
  /** `gentle` up to half the rating, `hard` up to all of it, `over` beyond. */
  readonly effort: 'gentle' | 'hard' | 'over';
}

/**
 * Rated load: continuous amps = C × Ah; for long life sustained load stays within half of it.
 * @example loadCheck(5, 20, 50) // => { ratedA: 100, share: 0.5, effort: 'gentle' }
 * @example loadCheck(5, 20, 101).effort // => 'over'
 */
export function loadCheck(capacityAh: number, continuousC: number, sustainedA: number): LoadCheck {
  const ratedA = continuousC * capacityAh;
  const share = sustainedA / ratedA;
  return { ratedA, share, effort: share <= 0.5 ? 'gentle' : share <= 1 ? 'hard' : 'over' };
}

/**
 * Hovering a pack down to storage: minutes = (charge now − storage charge) × Ah × 60 ÷ hover amps. 0 when there is nothing
 * to take out.
 * @example hoverOffMinutes(90, 40, 4, 20) // => 6
 */
export function hoverOffMinutes(
  fromPercent: number,
  storagePercent: number,
  capacityAh: number,
  hoverA: number,
): number {
  return (Math.max(0, fromPercent - storagePercent) / 100) * capacityAh * (60 / hoverA);
}

/**
 * What is left of the label's C rating: label C × R0 ÷ R, resistances at one temperature.
 * @example effectiveC(20, 4, 5) // => 16
 */
export function effectiveC(labelC: number, baselineMilliohm: number, nowMilliohm: number): number {
  return (labelC * baselineMilliohm) / nowMilliohm;
}
