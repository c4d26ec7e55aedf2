export type { InstrumentId, PackId, PackTypeId, PersonId, PlaceId, RecordId } from './ids';
export type { Instant } from './instant';
export { DAY_MS, HOUR_MS, MINUTE_MS, hoursBetween } from './instant';
