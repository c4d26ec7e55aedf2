import type { Instant, PersonId, PlaceId, RecordId } from '../measure';
import type { PackFacts } from '../pack';
import type { ReadingCondition } from '../reading';
import { effectiveRecords } from './effective';
import type { PackRecord, ReadVolts } from './record';

/** One reading that counts. */
export interface ReadingEvent {
  readonly at: Instant;
  readonly by: PersonId;
  readonly volts: ReadVolts;
  readonly condition: ReadingCondition;
  readonly meterErrorMv: number;
  readonly records: readonly RecordId[];
}

/** Everything the records tell about one pack, before any house rule has judged it. */
export interface PackHistory {
  readonly pack: PackFacts;
  readonly receivedAt: Instant | null;
  readonly readings: readonly ReadingEvent[];
  readonly placeId: PlaceId | null;
  readonly holderId: PersonId | null;
  readonly lastRecordAt: Instant | null;
}

/** What a pack's records add up to. Records may come in any order; the result is the same. */
export function fold(pack: PackFacts, records: readonly PackRecord[]): PackHistory {
  const readings: ReadingEvent[] = [];
  let receivedAt: Instant | null = null;
  let placeId: PlaceId | null = null;
  let holderId: PersonId | null = null;
  let lastRecordAt: Instant | null = null;
  for (const record of effectiveRecords(records)) {
    lastRecordAt = record.at;
    switch (record.kind) {
      case 'received':
        receivedAt = record.at;
        placeId = record.payload.placeId;
        break;
      case 'reading':
        readings.push({
          at: record.at,
          by: record.by,
          volts: record.payload.volts,
          condition: record.payload.condition,
          meterErrorMv: record.payload.meterErrorMv,
          records: record.records,
        });
        break;
      case 'moved':
        placeId = record.payload.placeId;
        holderId = record.payload.holderId;
        break;
      case 'note':
        break;
      default:
        record satisfies never;
    }
  }
  return { pack, receivedAt, readings, placeId, holderId, lastRecordAt };
}
