import { MEANINGS, meaningOf } from '../../inspection';
import type { AnsweredItem, Meaning } from '../../inspection';
import type { RecordId } from '../../measure';
import type { InspectionEvent } from '../../record';
import { byAnswer } from '../answered';
import type { CaseFile } from '../caseFile';
import type { FailedItem, Finding, Severity } from '../finding';
import { isJustWarm, warmth } from './cooling';

const SEVERITY: Readonly<Record<Meaning, Severity>> = { advise: 'note', watch: 'watch', hold: 'hold' };

type Failure = FailedItem & { readonly records: readonly RecordId[] };

/**
 * What the looks found wrong, the gravest first. A watch or an advice is over once the same item is found in order;
 * a hold is not: only a person ends one. What a release answered is told apart from what was found since. Swelling is told by its
 * own rule, and warmth right after a use is no failure.
 */
export function inspectionFailed(file: CaseFile): readonly Finding[] {
  const holds: Failure[] = [];
  const open = new Map<string, Failure>();
  for (const look of file.history.inspections) {
    for (const item of answersOf(look)) {
      const { key, asks, note, answer } = item;
      if (key === 'swelling' || (key === 'warm' && isJustWarm(file, look))) continue;
      const means = meaning(file, look, item);
      const { occasion, at, records } = look;
      const failure = { key, occasion, at, asks, note, means, records };
      if (answer === 'fail' && means === 'hold') holds.push(failure);
      else if (answer === 'fail') open.set(key, failure);
      if (answer === 'ok' || (answer === 'fail' && means === 'hold')) open.delete(key);
    }
  }
  const { fresh, old } = byAnswer(file, 'inspection-failed', holds);
  const held = new Set(fresh.map(({ key }) => key));
  const milder = [...open.values()].filter(({ key }) => !held.has(key));
  return [
    ...told([...latestByItem(fresh), ...(fresh.length > 0 ? milder : [])]),
    ...told(latestByItem(old)),
    ...(fresh.length > 0 ? [] : told(milder)),
  ];
}

/** The answers of a look; a pack said to be warm where the list does not ask has failed that all the same. */
function answersOf(look: InspectionEvent): readonly AnsweredItem[] {
  const asked = look.items.some(({ key }) => key === 'warm');
  const found = warmth(look);
  const answer = found === 'sound' ? 'ok' : 'fail';
  const items = look.items.map((item) =>
    item.key === 'warm' && found !== null && item.answer !== 'note' ? ({ ...item, answer } as const) : item,
  );
  if (asked || found === null || found === 'sound') return items;
  return [
    ...items,
    { key: 'warm', asks: 'Warmth at rest', failMeans: 'hold', answer, note: null, photoIds: [] },
  ];
}

function meaning(
  { history, rules }: CaseFile,
  look: InspectionEvent,
  { key, failMeans }: AnsweredItem,
): Meaning {
  // A nickel pack's wrap shrinks or splits when it was cooked.
  if (history.pack.chemistry === 'nimh' && key === 'case') return 'hold';
  const said = rules.checklists[look.occasion].find((item) => item.key === key)?.failMeans ?? failMeans;
  return meaningOf(key, said);
}

function latestByItem(failures: readonly Failure[]): readonly Failure[] {
  const latest = new Map<string, Failure>();
  for (const failure of failures) {
    const before = latest.get(failure.key);
    // Every look that found it is evidence the release must answer.
    latest.set(
      failure.key,
      before ? { ...failure, records: [...before.records, ...failure.records] } : failure,
    );
  }
  return [...latest.values()];
}

function told(failures: readonly Failure[]): Finding[] {
  if (failures.length === 0) return [];
  const gravest = [...failures].sort(
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
