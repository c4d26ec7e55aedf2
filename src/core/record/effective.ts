import type { Instant, PersonId, RecordId } from '../measure';
import type { Correctable, PackRecord, Uncorrectable } from './record';

/** A record as it counts once its corrections are applied. */
export type EffectiveRecord = (Correctable | Uncorrectable) & {
  readonly id: RecordId;
  readonly at: Instant;
  readonly by: PersonId;
  /** When it was first written down: a correction stands for never having made the mistake. */
  readonly recordedAt: Instant;
  /** The records this statement rests on: itself, and the correction that put it right. */
  readonly records: readonly RecordId[];
};

/**
 * The records that count, in the order things happened: withdrawn ones left out, corrected ones as corrected.
 * The order of arrival plays no part, so a record that was written offline and lands late takes its own place.
 */
export function effectiveRecords(records: readonly PackRecord[]): readonly EffectiveRecord[] {
  const corrections = latestCorrections(records);
  const counting: EffectiveRecord[] = [];
  for (const record of records) {
    if (record.kind === 'correction') continue;
    const correction = corrections.get(record.id);
    const said = correction ? correction.payload.replacement : record;
    if (said === null) continue;
    counting.push({
      kind: said.kind,
      payload: said.payload,
      id: record.id,
      at: record.at,
      by: record.by,
      recordedAt: record.recordedAt,
      records: correction ? [record.id, correction.id] : [record.id],
    } as EffectiveRecord);
  }
  return counting.sort(byTime);
}

export type CorrectionRecord = Extract<PackRecord, { kind: 'correction' }>;

/** The correction in force for each corrected record: the one made last. */
export function latestCorrections(records: readonly PackRecord[]): ReadonlyMap<RecordId, CorrectionRecord> {
  const latest = new Map<RecordId, CorrectionRecord>();
  for (const record of records) {
    if (record.kind !== 'correction') continue;
    const other = latest.get(record.supersedes);
    if (!other || byTime(other, record) < 0) latest.set(record.supersedes, record);
  }
  return latest;
}

/** By when it happened; records of one instant by id, which clients make in rising order. */
function byTime(a: Pick<PackRecord, 'at' | 'id'>, b: Pick<PackRecord, 'at' | 'id'>): number {
  return a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}
