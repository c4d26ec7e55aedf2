export type {
  AttendanceId,
  ConsignmentId,
  CraftId,
  CurveId,
  DeliveryId,
  DeviceId,
  DeviceReadingId,
  EntryId,
  EquipmentId,
  FlyingDayId,
  ImportId,
  IncidentId,
  InstrumentId,
  JobId,
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
export { DAY_MS, HOUR_MS, MINUTE_MS, countUpTo, countWhile, hoursBetween } from './instant';
export { formatByZone } from './zoneFormat';
