import { isLithium, socPercent } from '../../chemistry';
import type { Chemistry } from '../../chemistry';
import { weakAfterUse } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { risenTo } from './lines';

/**
 * One cell came back from the latest use well below its siblings: it holds less than they do. Judged in volts and in charge,
 * since near empty the curve is so steep that 0.2 V may be three percent.
 */
export function weakCell({ history, rules, rested }: CaseFile): readonly Finding[] {
  const weak = weakAfterUse(rested, history.flights, history.charges);
  const lines = rules.health.weakCellMv;
  const reached = weak && risenTo(weak.belowMv, lines);
  const severity =
    reached && chargeBelow(history.pack.chemistry, weak) <= rules.spread.watchSocPercent ? 'note' : reached;
  if (!weak || !severity) return [];
  const { mv: _mv, ...told } = weak;
  return [{ rule: 'weak-cell', severity, ...told, lines }];
}

/** How much less charge the cell holds than its siblings, percent; everything for a chemistry without a curve. */
function chargeBelow(
  chemistry: Chemistry,
  { mv, belowMv }: { readonly mv: number; readonly belowMv: number },
): number {
  if (!isLithium(chemistry)) return 100;
  return socPercent(chemistry, mv + belowMv) - socPercent(chemistry, mv);
}
