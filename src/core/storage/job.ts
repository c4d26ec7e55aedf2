import { isLithium, socPercent } from '../chemistry';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';

/** What must go in or come out to bring a pack to its storage voltage. */
export interface StorageJob {
  readonly direction: 'charge' | 'discharge';
  /** Charge to move, ampere-hours, always positive. */
  readonly chargeAh: number;
  readonly targetMv: number;
  readonly packTargetMv: number;
  /** The highest current the house and the label both allow for charging this pack at home; amps. */
  readonly chargeAmps: number;
  /** Cells stand on both sides of the band: charge through the whole pack would overfill the highest. Balance first. */
  readonly apart: boolean;
}

/**
 * The job that brings a rested pack to storage. How much may come out follows its highest cell, how much may go in its
 * lowest. Null when the chemistry has no storage voltage.
 * ΔAh = capacity × (charge now − charge at target), both from the rest-voltage curve.
 */
export function storageJob(
  pack: PackFacts,
  cellsMv: readonly number[],
  rules: HouseRules,
): StorageJob | null {
  if (!isLithium(pack.chemistry)) return null;
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  const direction = lowestMv < targetMv ? 'charge' : 'discharge';
  const decidingMv = direction === 'charge' ? lowestMv : highestMv;
  const percent = Math.abs(socPercent(pack.chemistry, decidingMv) - socPercent(pack.chemistry, targetMv));
  return {
    direction,
    chargeAh: (percent / 100) * (pack.capacityMah / 1000),
    targetMv,
    packTargetMv: targetMv * pack.series,
    chargeAmps: Math.min(rules.charge.homeC, pack.chargeC ?? 1) * (pack.capacityMah / 1000),
    apart: lowestMv < bandLowMv && highestMv > bandHighMv,
  };
}
