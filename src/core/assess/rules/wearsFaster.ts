import { alarmsOf, outlooksKept } from '../../health';
import { DAY_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** A change of pace stays news for so long after the last measurement that tells of it. */
const NEWS_DAYS = 120;

/**
 * The pack's wear changed its course: a knee, from which on it wears faster, or a step. Told as soon as several measurements agree on
 * it, long before a line is reached: this is how packs begin to fail.
 */
export function wearsFaster({ history, rules, measured, now }: CaseFile): readonly Finding[] {
  return outlooksKept(history, measured, rules).flatMap((outlook): Finding[] => {
    const { changed } = alarmsOf(outlook);
    const { lastAt } = outlook.wear;
    if (!changed || now - lastAt > NEWS_DAYS * DAY_MS) return [];
    const { at: since, how, seen: values } = changed;
    const records =
      outlook.measure === 'capacity'
        ? measured.capacity.slice(-values).flatMap((point) => point.records)
        : history.resistances.slice(-values).flatMap((reading) => reading.records);
    return [
      {
        rule: 'wears-faster',
        severity: 'watch',
        measure: outlook.measure,
        how,
        since,
        values,
        lastAt,
        records: [...new Set(records)],
      },
    ];
  });
}
