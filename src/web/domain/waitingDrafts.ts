import type { PackId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import type { Outgoing } from '../app/outbox';

/** What an item in the outbox says of this pack: its own records, or that an incident names it. */
export function draftsFor({ packId, drafts, incident }: Outgoing, id: PackId): readonly RecordDraft[] {
  if (packId === id) return drafts;
  if (!incident) return [];
  const { id: incidentId, kind, at, entries, packRecords } = incident;
  const recordId = packRecords.find((named) => named.packId === id)?.recordId;
  if (!recordId) return [];
  return entries.flatMap((entry): RecordDraft[] => {
    if (entry.kind !== 'reported' && entry.kind !== 'named') return [];
    if (!entry.payload.packIds.includes(id)) return [];
    const payload = { incidentId, kind, holds: entry.payload.holds };
    return [{ kind: 'incident', id: recordId, at, payload, supersedes: null }];
  });
}
