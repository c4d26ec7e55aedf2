import { ageYears, cycles } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Full cycles against what the chemistry is good for. Reaching it asks for a review, not for retirement. */
export function cycleCount({ history, rules }: CaseFile): readonly Finding[] {
  const { count, guessed, records } = cycles(history, rules.flight.maxDodPercent);
  const limit = rules.health.cycles[history.pack.chemistry];
  return count >= limit ? [{ rule: 'cycles', severity: 'watch', count, guessed, limit, records }] : [];
}

/** Years in service against what its duty leaves of it. Reaching it asks for a review, not for retirement. */
export function age({ history, rules, now }: CaseFile): readonly Finding[] {
  const years = ageYears(history, now);
  const { dutyClass } = history.pack;
  const limit = rules.health.ageYears[dutyClass];
  return years !== null && years >= limit
    ? [{ rule: 'age', severity: 'watch', years, limit, dutyClass, records: [] }]
    : [];
}
