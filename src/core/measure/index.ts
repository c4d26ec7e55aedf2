export type {
  DeliveryId,
  InstrumentId,
  PackId,
  PackTypeId,
  PersonId,
  PhotoId,
  PlaceId,
  RecordId,
  RoundId,
} from './ids';
export type { Instant } from './instant';
export { DAY_MS, HOUR_MS, MINUTE_MS, hoursBetween } from './instant';
