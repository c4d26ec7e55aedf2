import { isLithium } from '../../chemistry';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { belowDamage } from './damageFloor';

/**
 * What should become of a lithium pack that went below its damage floor. One practice retires it: copper may have gone
 * into solution, and such packs have burnt on a later charge. The other lets a custodian try a supervised recovery when
 * the cause is known, nothing is swollen and every cell stayed above the recovery's own floor. That floor lies at or above
 * the damage floor of Li-ion and LiFePO4, so for these there is nothing to try. Either way the pack is out of use until a person
 * decides.
 */
export function overDischarged(file: CaseFile): readonly Finding[] {
  if (!isLithium(file.history.pack.chemistry)) return [];
  const { overDischarged: school, recovery } = file.rules;
  return belowDamage(file, 'over-discharged').map((breach) => {
    const recoverable = school === 'supervised recovery' && breach.low.mv > recovery.floorMv;
    return {
      rule: 'over-discharged',
      severity: recoverable ? 'hold' : 'retire',
      school,
      recoveryFromMv: school === 'retire' ? null : recovery.floorMv,
      ...breach,
    };
  });
}
