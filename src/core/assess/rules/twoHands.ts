import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Two people took the pack and did not know of each other: both are told, and neither's word is put aside. Either of them answers. */
export function twoHands({ history: { custody } }: CaseFile): readonly Finding[] {
  if (!custody?.alsoWith) return [];
  const { holderId, since, recordId, alsoWith } = custody;
  return [
    {
      rule: 'two-hands',
      severity: 'note',
      first: alsoWith.person,
      firstAt: alsoWith.since,
      second: holderId,
      secondAt: since,
      records: [alsoWith.recordId, recordId].filter((id) => id !== null),
    },
  ];
}
