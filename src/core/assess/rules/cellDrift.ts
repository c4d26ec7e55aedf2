import { isLithium } from '../../chemistry';
import { cellDrift as driftOf } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** One cell comes back from each use with less and less beside its siblings: it is wearing away before the others. */
export function cellDrift({ history, rules, rested }: CaseFile): readonly Finding[] {
  const { pack, flights, charges } = history;
  if (!isLithium(pack.chemistry)) return [];
  const drift = driftOf(rested, flights, charges, pack.chemistry);
  const limitPercent = rules.spread.watchSocPercent;
  return drift && drift.percent > limitPercent
    ? [{ rule: 'cell-drift', severity: 'watch', ...drift, limitPercent }]
    : [];
}
