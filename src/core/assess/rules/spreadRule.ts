import { isLithium } from '../../chemistry';
import { certainSocSpreadPercent, spread } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The cells rest further apart than the house tolerates: balance; and watch, when the volts or the charge they stand
 * for say that balancing alone may not close it. Limits are inclusive: 20 mV is within 0.02 V.
 */
export function spreadRule({ history, rules, latest }: CaseFile): readonly Finding[] {
  const { chemistry } = history.pack;
  if (!latest?.byCell || !isLithium(chemistry)) return [];
  const { mv, lowestCell, ...ends } = spread(latest.cellsMv);
  const limits = rules.spread;
  if (mv <= limits.toleranceMv) return [];
  const socPercent = certainSocSpreadPercent(chemistry, ends, latest.meterErrorMv);
  const severity = mv > limits.watchMv || socPercent > limits.watchSocPercent ? 'watch' : 'note';
  return [{ rule: 'spread', severity, mv, lowestCell, socPercent, limits, records: latest.records }];
}
