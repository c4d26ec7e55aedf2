import { CHEMISTRY, restMv } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';

/**
 * Open-circuit volts of a cell on the charger. The rest curve ends where a full cell comes to rest; a charge goes on to
 * the chemistry's full voltage, which on LiFePO4 lies well above it, within a last percent that leaks away again.
 * @param percent 0 to 101
 * @example chargingMv('lipo', 40) // => 3800
 * @example chargingMv('lifepo4', 101) // => 3600
 */
export function chargingMv(chemistry: LithiumChemistry, percent: number): number {
  if (percent <= 100) return restMv(chemistry, percent);
  const restFull = restMv(chemistry, 100);
  const above = Math.min(1, percent - 100);
  return restFull + (CHEMISTRY[chemistry].fullMv! - restFull) * above;
}
