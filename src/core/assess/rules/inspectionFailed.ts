import { MEANINGS, meaningOf } from '../../inspection';
import type { Meaning } from '../../inspection';
import type { RecordId } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { FailedItem, Finding, Severity } from '../finding';

const SEVERITY: Readonly<Record<Meaning, Severity>> = { advise: 'note', watch: 'watch', hold: 'hold' };

/**
 * What the latest looks found wrong, the gravest first. A watch or an advice is over once the same item is found in order;
 * a hold is not: only a person ends one. Swelling is told by its own rule.
 */
export function inspectionFailed({ history, rules }: CaseFile): readonly Finding[] {
  const standing = new Map<string, FailedItem & { readonly records: readonly RecordId[] }>();
  for (const { occasion, at, items, records } of history.inspections) {
    for (const { key, asks, note, answer, failMeans } of items) {
      if (key === 'swelling') continue;
      const said = rules.checklists[occasion].find((item) => item.key === key)?.failMeans ?? failMeans;
      const means = meaningOf(key, said);
      if (standing.get(key)?.means === 'hold' && means !== 'hold') continue;
      if (answer === 'fail') standing.set(key, { key, occasion, at, asks, note, means, records });
      else if (answer === 'ok' && standing.get(key)?.means !== 'hold') standing.delete(key);
    }
  }
  if (standing.size === 0) return [];
  const gravest = [...standing.values()].sort(
    (a, b) => MEANINGS.indexOf(b.means) - MEANINGS.indexOf(a.means) || b.at - a.at,
  );
  return [
    {
      rule: 'inspection-failed',
      severity: SEVERITY[gravest[0]!.means],
      failures: gravest.map(({ records: _records, ...failure }) => failure),
      // A release answers what held; a milder failure found later is not new evidence for the hold.
      records: [
        ...new Set(
          gravest
            .filter(({ means }) => gravest[0]!.means !== 'hold' || means === 'hold')
            .flatMap(({ records }) => records),
        ),
      ],
    },
  ];
}
