import { MINUTE_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The newest reading was taken under load or too soon after: it decides nothing, and says from when one would. */
export function notRested({ undecided, rules }: CaseFile): readonly Finding[] {
  if (!undecided) return [];
  const { condition, at, records } = undecided;
  const restedFrom = at + rules.restMinutes * MINUTE_MS;
  return [{ rule: 'not-rested', severity: 'note', condition, at, restedFrom, records }];
}
