import type { RecordId } from '../../measure';
import { lastEndedClock } from '../../storage';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * A storage clock that had run out by all that was written down was ended by a record of an earlier moment. Told until a reading that was
 * written in good time shows where the pack is. Where the start of the clock was written later, too, nobody had known of it.
 */
export function writtenLate({
  history: { pack, writtenLater },
  rules,
  measured: { evidence },
}: CaseFile): readonly Finding[] {
  if (writtenLater.size === 0) return [];
  const clock = lastEndedClock(pack, evidence, rules);
  if (!clock) return [];
  const isLate = (id: RecordId) => writtenLater.has(id);
  const { dueAt, endedBy } = clock;
  const recordedAt = Math.max(...endedBy.records.map((id) => writtenLater.get(id) ?? -Infinity));
  if (recordedAt <= dueAt || clock.records.some(isLate)) return [];
  const seen = evidence.some(
    ({ kind, at, records }) => kind === 'read' && at > endedBy.at && !records.some(isLate),
  );
  if (seen) return [];
  const { at } = endedBy;
  const records = [...clock.records, ...endedBy.records];
  return [{ rule: 'written-late', severity: 'note', at, recordedAt, dueAt, records }];
}
