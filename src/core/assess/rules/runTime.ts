import { runTimeLoss, runTimes } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { risenTo } from './lines';

/** Minutes for the same charge on the same craft against the pack's first flights on it. */
export function runTime({ history, rules }: CaseFile): readonly Finding[] {
  const times = runTimes(history.flights);
  const loss = times && runTimeLoss(times);
  const lines = rules.health.runTimeLossPercent;
  const severity = loss && risenTo(loss.percent, lines);
  if (!times || !loss || !severity) return [];
  const records = loss.latest.flatMap((point) => point.records);
  return [{ rule: 'run-time', severity, percent: loss.percent, craft: times.craft, lines, records }];
}
