import { isLithium, socPercent } from '../chemistry';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';

/** What must go in or come out to bring a pack to its storage voltage. */
export interface StorageJob {
  readonly direction: 'charge' | 'discharge';
  /** Charge to move, ampere-hours; 0 for a job that is not offered. */
  readonly chargeAh: number;
  readonly targetMv: number;
  readonly packTargetMv: number;
  /** The highest current the house and the label both allow for charging this pack at home; amps. */
  readonly chargeAmps: number;
  /**
   * The cell that stands in the way: a charge through the main lead moves every cell by the same amount, and this one would
   * leave its limits before the others are in the band. Such a pack is balanced first. Null where nothing stands in the way.
   */
  readonly inTheWay: { readonly cell: number; readonly would: 'overfill' | 'run flat' } | null;
}

/**
 * The job that brings a rested pack to storage. Every cell moves by the same ampere-hours, so what may go in follows the cell
 * that is full first and what may come out the cell that is empty first: the deciding cell goes to the target (the lowest
 * when charging, the highest when discharging) as far as all others end inside the band. Null when the chemistry has no
 * storage voltage. ΔAh = capacity × (charge now − charge at target), both from the rest-voltage curve.
 * @param pack `capacityMah` as last measured where it was measured
 * @param cellsMv rested millivolts, cell by cell, at least one
 */
export function storageJob(
  pack: Pick<PackFacts, 'chemistry' | 'capacityMah' | 'chargeC' | 'series'>,
  cellsMv: readonly number[],
  rules: HouseRules,
): StorageJob | null {
  const { chemistry, capacityMah, chargeC, series } = pack;
  if (!isLithium(chemistry)) return null;
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[chemistry];
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  const percent = (mv: number) => socPercent(chemistry, mv);
  const direction = directionOf(lowestMv, highestMv, rules.storage[chemistry]);
  // How far the whole pack may move, percent: no further up than the fullest cell's way to the top of the band, no
  // further down than the emptiest cell's way to its bottom.
  const most = percent(bandHighMv) - percent(highestMv);
  const least = percent(bandLowMv) - percent(lowestMv);
  const wanted = percent(targetMv) - percent(direction === 'charge' ? lowestMv : highestMv);
  const apart = least > most;
  const move = apart ? 0 : Math.min(most, Math.max(least, wanted));
  return {
    direction,
    chargeAh: (Math.abs(move) / 100) * (capacityMah / 1000),
    targetMv,
    packTargetMv: targetMv * series,
    chargeAmps: Math.min(rules.charge.homeC, chargeC ?? 1) * (capacityMah / 1000),
    inTheWay: apart ? cellInTheWay(cellsMv, direction) : null,
  };
}

function directionOf(
  lowestMv: number,
  highestMv: number,
  { targetMv, bandLowMv, bandHighMv }: { targetMv: number; bandLowMv: number; bandHighMv: number },
): StorageJob['direction'] {
  if (lowestMv < bandLowMv) return 'charge';
  if (highestMv > bandHighMv) return 'discharge';
  return lowestMv < targetMv ? 'charge' : 'discharge';
}

/** The cell that reaches its limit first on such a job. */
function cellInTheWay(
  cellsMv: readonly number[],
  direction: StorageJob['direction'],
): NonNullable<StorageJob['inTheWay']> {
  return direction === 'charge'
    ? { cell: cellsMv.indexOf(Math.max(...cellsMv)) + 1, would: 'overfill' }
    : { cell: cellsMv.indexOf(Math.min(...cellsMv)) + 1, would: 'run flat' };
}
