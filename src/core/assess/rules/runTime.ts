import { AGREEING, runTimeLoss, runTimes } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';
import { capacity } from './capacity';
import { resistanceGrowth } from './resistance';
import { ROUNDING, risenTo } from './lines';

/**
 * Minutes for the same charge on the same craft against the pack's first flights on it. A loss that came all at once is a change to
 * the craft more often than one in the pack: it advises nothing unless capacity or resistance say the same.
 */
export function runTime(file: CaseFile): readonly Finding[] {
  const { history, rules } = file;
  const times = runTimes(history.flights, rules.flight.coldC);
  const loss = times && runTimeLoss(times);
  const lines = rules.health.runTimeLossPercent;
  const reached = loss && risenTo(loss.percent, lines);
  if (!times || !loss || !reached) return [];
  const agree = loss.each.filter((percent) => percent >= lines.retire - ROUNDING).length >= AGREEING;
  const confirmed = loss.stepAt === null || [...capacity(file), ...resistanceGrowth(file)].length > 0;
  const severity: Severity = reached === 'retire' && !(agree && confirmed) ? 'watch' : reached;
  const { percent, stepAt, latest } = loss;
  const records = latest.flatMap((point) => point.records);
  return [{ rule: 'run-time', severity, percent, craft: times.craft, lines, stepAt, records }];
}
