import { CHEMISTRY } from '../../chemistry';
import { highestCell } from '../caseFile';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/**
 * A cell resting above its chemistry's full voltage. Beyond the meter's own error the charger's setting is in doubt
 * (watch); by the house's hold margin it was charged as something it is not, and stays on hold until a person decides.
 */
export function overfull({ history, rules, rested, latest }: CaseFile): readonly Finding[] {
  const { fullMv } = CHEMISTRY[history.pack.chemistry];
  if (fullMv === null || !latest) return [];
  const holdFromMv = fullMv + rules.overfullHoldMv;
  const finding = (reading: RestedReading, severity: 'watch' | 'hold'): readonly Finding[] => [
    {
      rule: 'overfull',
      severity,
      ...highestCell(reading),
      at: reading.at,
      fullMv,
      holdFromMv,
      records: reading.records,
    },
  ];
  const wrongCharge = rested.findLast((reading) => highestCell(reading).mv >= holdFromMv);
  if (wrongCharge) return finding(wrongCharge, 'hold');
  return highestCell(latest).mv > fullMv + latest.meterErrorMv ? finding(latest, 'watch') : [];
}
