import { MINUTE_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * Unknown is not compliant: a lithium pack without one rested reading asks to be measured, and nobody vouches for it;
 * one that was used since its last reading asks for the next.
 */
export function unmeasured({ storage, rules }: CaseFile): readonly Finding[] {
  if (storage.state !== 'unmeasured') return [];
  const { since, records } = storage;
  if (since === null)
    return [{ rule: 'unmeasured', severity: 'watch', usedAt: null, restedFrom: null, records }];
  const restedFrom = since + rules.restMinutes * MINUTE_MS;
  return [{ rule: 'unmeasured', severity: 'note', usedAt: since, restedFrom, records }];
}
