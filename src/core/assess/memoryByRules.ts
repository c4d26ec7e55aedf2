import type { LithiumChemistry } from '../chemistry';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { allowance } from '../storage';

/** How the rules want a smart pack set. */
export interface MemoryByRules {
  /** The longest wait before it stores itself, hours. */
  readonly afterHours: number;
  /** Where its own storage stops, and the band it must lie in; millivolts a cell. */
  readonly storageMv: number;
  readonly bandLowMv: number;
  readonly bandHighMv: number;
  readonly topMv: number;
  /** The highest charge current. */
  readonly chargeA: number;
}

/** The house's rate at home, the label's highest where that is lower, its top, its band and its allowance. A label that states no rate counts as 1C. */
export function memoryByRules(
  pack: Pick<PackFacts, 'capacityMah' | 'chargeC' | 'fieldPack'> & { readonly chemistry: LithiumChemistry },
  rules: HouseRules,
): MemoryByRules {
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  return {
    afterHours: allowance(pack, 'high', rules),
    storageMv: targetMv,
    bandLowMv,
    bandHighMv,
    topMv: rules.topMv[pack.chemistry],
    chargeA: Math.min(rules.charge.homeC, pack.chargeC ?? 1) * (pack.capacityMah / 1000),
  };
}
