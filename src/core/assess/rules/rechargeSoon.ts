import { storageJob } from '../../storage';
import { lowestCell } from '../caseFile';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The lowest cell rests under the recharge-soon floor: bring the pack up now, whatever its clock still allows. */
export function rechargeSoon({ history, rules, latest }: CaseFile): readonly Finding[] {
  const { rechargeSoonMv } = rules.floors[history.pack.chemistry];
  if (!latest) return [];
  const low = lowestCell(latest);
  if (low.mv >= rechargeSoonMv) return [];
  const job = storageJob(history.pack, latest.cellsMv, rules);
  return [
    { rule: 'recharge-soon', severity: 'note', low, limitMv: rechargeSoonMv, job, records: latest.records },
  ];
}
