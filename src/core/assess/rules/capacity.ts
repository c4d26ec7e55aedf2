import { AGREEING, alarmsOf, median, outlooksKept } from '../../health';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';
import { ROUNDING } from './lines';

/** From so many measurements on a pack's course is followed well enough to be asked. */
const FOLLOWED = 8;

/**
 * What the pack still holds against its label. Three measurements in a row at the line for retiring advise it, two of the
 * latest three at the line for watching watch the pack; a single one asks to be measured again. One measurement condemns
 * nothing. Source: the practice's health table.
 */
export function capacity({ history, rules, measured }: CaseFile): readonly Finding[] {
  const latest = measured.capacity.slice(-AGREEING);
  const newest = latest.at(-1);
  const lines = rules.health.capacityPercent;
  if (!newest) return [];
  const below = (line: number) => latest.filter(({ value }) => value <= line + ROUNDING);
  const [toWatch, toRetire] = [below(lines.watch), below(lines.retire)];
  if (toWatch.length === 0) return [];
  const outlook = outlooksKept(history, measured, rules).find((one) => one.measure === 'capacity');
  const past = outlook ? alarmsOf(outlook).past : null;
  // Once there are enough values to follow, the filter must be sure as well: three noisy ones in a row are not rare by then.
  const sure = past === 'retire' || measured.capacity.length < FOLLOWED;
  const severity: Severity | null =
    toRetire.length >= AGREEING && sure
      ? 'retire'
      : toWatch.length >= 2 || (past === 'watch' && toWatch.length > 0)
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
