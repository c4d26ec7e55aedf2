import { capacityPoints, standing } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { fallenTo } from './lines';

/** What the pack still holds against its label, by the median of the latest three measurements. */
export function capacity({ history, rules, rested }: CaseFile): readonly Finding[] {
  const now = standing(capacityPoints(history, rested));
  const lines = rules.health.capacityPercent;
  const severity = now && fallenTo(now.value, lines);
  return now && severity
    ? [{ rule: 'capacity', severity, percent: now.value, lines, records: now.records }]
    : [];
}
