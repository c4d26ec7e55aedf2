import { isLithium } from '../../chemistry';
import { certainSocSpreadPercent, spread } from '../../health';
import type { PackHistory } from '../../record';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/**
 * The cells rest further apart than the house tolerates: balance; and watch, when the volts or the charge they stand
 * for say that balancing alone may not close it. Limits are inclusive: 20 mV is within 0.02 V.
 */
export function spreadRule({ history, rules, rested, latest }: CaseFile): readonly Finding[] {
  const { chemistry } = history.pack;
  if (!latest?.byCell || !isLithium(chemistry)) return [];
  const { mv, lowestCell, ...ends } = spread(latest.cellsMv);
  const limits = rules.spread;
  if (mv <= limits.toleranceMv) return [];
  const socPercent = certainSocSpreadPercent(chemistry, ends, latest.meterErrorMv);
  const balanced = balancedBefore(history, rested);
  const watched = mv > limits.watchMv || socPercent > limits.watchSocPercent;
  const severity = balanced && mv > limits.retireMv ? 'retire' : watched ? 'watch' : 'note';
  return [
    {
      rule: 'spread',
      severity,
      mv,
      lowestCell,
      socPercent,
      limits,
      balancedAt: balanced?.at ?? null,
      records: balanced ? [...balanced.records, ...latest.records] : latest.records,
    },
  ];
}

/** The finished balance charge after which the latest reading is the first; nothing else may have come between. */
function balancedBefore({ charges, flights }: PackHistory, rested: readonly RestedReading[]) {
  const [before, latest] = [rested.at(-2), rested.at(-1)!];
  const charge = charges.findLast(({ at }) => at <= latest.at);
  if (charge?.mode !== 'balance' || charge.ending !== 'complete') return null;
  if (before && before.at > charge.at) return null;
  return flights.some(({ at }) => at > charge.at && at <= latest.at) ? null : charge;
}
