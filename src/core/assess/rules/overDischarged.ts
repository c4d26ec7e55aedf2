import { isLithium } from '../../chemistry';
import { lowestCell } from '../caseFile';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { worstBelowDamage } from './damageFloor';

/**
 * What should become of a lithium pack that went below its damage floor. One school retires it: copper may have gone
 * into solution, and such packs have burnt on a later charge. The other lets a custodian try a supervised recovery when
 * the cause is known and nothing is swollen. Either way it is out of use until a person decides.
 */
export function overDischarged(file: CaseFile): readonly Finding[] {
  const worst = worstBelowDamage(file);
  if (!worst || !isLithium(file.history.pack.chemistry)) return [];
  const school = file.rules.overDischarged;
  const severity = school === 'retire' ? 'retire' : 'hold';
  return [{ rule: 'over-discharged', severity, low: lowestCell(worst), school, records: worst.records }];
}
