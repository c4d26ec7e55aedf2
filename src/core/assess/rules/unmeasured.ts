import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Unknown is not compliant: a lithium pack without one rested reading asks to be measured, and nobody vouches for it. */
export function unmeasured({ storage }: CaseFile): readonly Finding[] {
  return storage.state === 'unmeasured' ? [{ rule: 'unmeasured', severity: 'watch', records: [] }] : [];
}
