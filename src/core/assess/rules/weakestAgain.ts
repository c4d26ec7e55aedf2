import { isLithium } from '../../chemistry';
import { recurrence } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The same cell keeps coming to the charger weakest: once is chance, three times in five a cell that is going. */
export function weakestAgain({ history, rules, rested }: CaseFile): readonly Finding[] {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return [];
  const limits = rules.health.recurrence;
  const again = recurrence(rested, history.charges, chemistry, rules.spread, limits);
  if (!again) return [];
  const severity = again.timesAgain >= limits.times ? 'retire' : 'watch';
  return [{ rule: 'weakest-again', severity, ...again, limits }];
}
