import { asSet } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** What was written into a memory counts once it was read back, and an update may have put every setting back. */
export function memoryUnread({ history: { pack, memories } }: CaseFile): readonly Finding[] {
  if (!pack.smart) return [];
  const { notReadBack } = asSet(pack.smart, memories);
  if (!notReadBack || notReadBack.did === 'read') return [];
  const { did, at, records } = notReadBack;
  return [{ rule: 'memory-unread', severity: 'note', did, at, records }];
}
