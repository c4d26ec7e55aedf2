import { MINUTE_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Brought to storage, by a job or by its own bleed, and not read since: volts under load rebound, so it is only pending. */
export function storagePending({ storage, rules }: CaseFile): readonly Finding[] {
  if (storage.state !== 'pending') return [];
  const { by, since, records } = storage;
  const restedFrom = since + rules.restMinutes * MINUTE_MS;
  return [{ rule: 'storage-pending', severity: 'note', by, since, restedFrom, records }];
}
