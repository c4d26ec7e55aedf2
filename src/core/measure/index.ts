export type {
  ConsignmentId,
  DeliveryId,
  EntryId,
  ImportId,
  IncidentId,
  InstrumentId,
  KeyId,
  PackId,
  PackTypeId,
  PersonId,
  PhotoId,
  PlaceId,
  RecordId,
  RecyclerId,
  RoundId,
  TaskId,
} from './ids';
export type { Instant } from './instant';
export { DAY_MS, HOUR_MS, MINUTE_MS, hoursBetween } from './instant';
