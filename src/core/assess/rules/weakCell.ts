import { weakAfterUse } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { risenTo } from './lines';

/** One cell came back from the latest use well below its siblings: it holds less than they do. */
export function weakCell({ history, rules, rested }: CaseFile): readonly Finding[] {
  const weak = weakAfterUse(rested, history.flights, history.charges);
  const lines = rules.health.weakCellMv;
  const severity = weak && risenTo(weak.belowMv, lines);
  return weak && severity ? [{ rule: 'weak-cell', severity, ...weak, lines }] : [];
}
