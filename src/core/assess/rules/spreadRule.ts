import { isLithium } from '../../chemistry';
import { certainSocSpreadPercent, socSpreadPercent, spread } from '../../health';
import type { PackHistory } from '../../record';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/** Volts past the watch line that stand for less than this share of the line in charge are a steep curve, not a cell. */
const LITTLE = 0.2;

/**
 * The cells rest further apart than the house tolerates: balance; and watch, when the volts or the charge they stand
 * for say that balancing alone may not close it. Limits are inclusive: 20 mV is within 0.02 V.
 */
export function spreadRule({ history, rules, rested, current }: CaseFile): readonly Finding[] {
  const { chemistry } = history.pack;
  // What a charge or a use has moved since is not what the cells are now.
  if (!current?.byCell || !isLithium(chemistry)) return [];
  const { mv, lowestCell, ...ends } = spread(current.cellsMv);
  const limits = rules.spread;
  if (mv <= limits.toleranceMv) return [];
  const socPercent = certainSocSpreadPercent(chemistry, ends, current.meterErrorMv);
  const balanced = balancedBefore(history, rested);
  // Where the curve is steep the same volts are little charge: near empty and near full 50 mV say less than in the middle.
  const inCharge = socSpreadPercent(chemistry, ends);
  const much = inCharge > limits.watchSocPercent * LITTLE;
  const watched = (mv > limits.watchMv && much) || socPercent > limits.watchSocPercent;
  const gone = balanced && mv > limits.retireMv && inCharge > limits.watchSocPercent;
  const severity = gone ? 'retire' : watched ? 'watch' : 'note';
  return [
    {
      rule: 'spread',
      severity,
      mv,
      lowestCell,
      socPercent: Math.max(socPercent, 0),
      limits,
      balancedAt: balanced?.at ?? null,
      records: balanced ? [...balanced.records, ...current.records] : current.records,
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
