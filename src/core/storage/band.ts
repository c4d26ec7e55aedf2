import type { StorageRule } from '../rules';

/** Where a pack's cells lie against its storage band. */
export type BandSide = 'in-band' | 'high' | 'low';

/**
 * The side of the band a rested pack is on: every cell must lie inside, ends included. With cells out on both
 * sides the pack counts as low, because low is the urgent one.
 * @param cellsMv one millivolt figure per cell, at least one
 * @example bandSide([3840, 3850], { targetMv: 3800, bandLowMv: 3700, bandHighMv: 3850 }) // => "in-band"
 * @example bandSide([3840, 3851], { targetMv: 3800, bandLowMv: 3700, bandHighMv: 3850 }) // => "high"
 */
export function bandSide(cellsMv: readonly number[], rule: StorageRule): BandSide {
  if (Math.min(...cellsMv) < rule.bandLowMv) return 'low';
  if (Math.max(...cellsMv) > rule.bandHighMv) return 'high';
  return 'in-band';
}
