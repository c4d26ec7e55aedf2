import { isLithium, socPercent } from '../chemistry';
import type { PackFacts } from '../pack';
import type { HouseRules } from '../rules';
import { bandSide, storageJob } from '../storage';
import type { StorageJob } from '../storage';
import { dischargeTime } from './dischargeTime';

/** What takes charge out of a pack: the amps it is set to, and the watts it can get rid of. */
export interface Load {
  readonly amps: number;
  readonly watts: number | null;
}

/** A storage job as it is set on a charger. */
export interface StoragePlan extends StorageJob {
  readonly amps: number;
  readonly minutes: number;
}

/**
 * How a pack that was just read is brought to storage: current, charge, minutes and target. Null when it rests inside its
 * band, or has no storage voltage. Charging runs at the house's and label's rate; discharging along the falling curve at
 * what the load takes, but never at more than 1C. Where a cell stands in the way there are no amps and no minutes.
 * @param pack `capacityMah` as last measured where it was measured
 */
export function storagePlan(
  pack: PackFacts,
  cellsMv: readonly number[],
  rules: HouseRules,
  load: Load,
): StoragePlan | null {
  const { chemistry, series } = pack;
  if (!isLithium(chemistry) || bandSide(cellsMv, rules.storage[chemistry]) === 'in-band') return null;
  const job = storageJob(pack, cellsMv, rules);
  if (!job) return null;
  if (job.inTheWay) return { ...job, amps: 0, minutes: 0 };
  const capacityAh = pack.capacityMah / 1000;
  if (job.direction === 'charge')
    return { ...job, amps: job.chargeAmps, minutes: (job.chargeAh / job.chargeAmps) * 60 };
  const toPercent = socPercent(chemistry, job.targetMv);
  const { minutes } = dischargeTime({
    chemistry,
    capacityAh,
    series,
    fromPercent: toPercent + (job.chargeAh / capacityAh) * 100,
    toPercent,
    amps: Math.min(load.amps, capacityAh),
    watts: load.watts,
  });
  return { ...job, amps: job.chargeAh / (minutes / 60), minutes };
}
