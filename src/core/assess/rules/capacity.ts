import { AGREEING, median } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';
import { ROUNDING } from './lines';

/**
 * What the pack still holds against its label. Three measurements in a row at the line for retiring advise it, two of the
 * latest three at the line for watching watch the pack; a single one asks to be measured again. One measurement condemns
 * nothing. Source: the practice's health table.
 */
export function capacity({ rules, measured }: CaseFile): readonly Finding[] {
  const latest = measured.capacity.slice(-AGREEING);
  const newest = latest.at(-1);
  const lines = rules.health.capacityPercent;
  if (!newest) return [];
  const below = (line: number) => latest.filter(({ value }) => value <= line + ROUNDING);
  const [toWatch, toRetire] = [below(lines.watch), below(lines.retire)];
  const severity: Severity | null =
    toRetire.length >= AGREEING
      ? 'retire'
      : toWatch.length >= 2
        ? 'watch'
        : toWatch.includes(newest)
          ? 'note'
          : null;
  if (!severity) return [];
  const percent = severity === 'note' ? newest.value : median(latest.map(({ value }) => value));
  const agreeing = severity === 'retire' ? toRetire.length : toWatch.length;
  const records = latest.flatMap((point) => point.records);
  return [{ rule: 'capacity', severity, percent, lines, agreeing, records: [...new Set(records)] }];
}
