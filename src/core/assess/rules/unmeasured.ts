import { MINUTE_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * Unknown is not compliant: a lithium pack without one rested reading asks to be measured, and nobody vouches for it;
 * one that was used since its last reading asks for the next, and so does one whose last reading is so old that its leak may
 * have taken it out of its band.
 */
export function unmeasured({ storage, rules, latest }: CaseFile): readonly Finding[] {
  if (storage.state !== 'unmeasured') return [];
  const { why, since, records } = storage;
  const lastReadAt = latest?.at ?? null;
  if (since === null)
    return [{ rule: 'unmeasured', severity: 'watch', why, since, lastReadAt, restedFrom: null, records }];
  const restedFrom = why === 'used' ? since + rules.restMinutes * MINUTE_MS : since;
  return [{ rule: 'unmeasured', severity: 'note', why, since, lastReadAt, restedFrom, records }];
}
