declare const brand: unique symbol;
type Id<Of extends string> = string & { readonly [brand]: Of };

/** Ids know what they name: a pack's id cannot be passed where a place's is wanted. All are UUIDs. */
export type PackId = Id<'pack'>;
export type PackTypeId = Id<'pack type'>;
export type PersonId = Id<'person'>;
export type PlaceId = Id<'place'>;
export type InstrumentId = Id<'instrument'>;
export type RecordId = Id<'record'>;
export type PhotoId = Id<'photo'>;
export type RoundId = Id<'round'>;
export type DeliveryId = Id<'delivery'>;
export type IncidentId = Id<'incident'>;
export type EntryId = Id<'incident entry'>;
export type TaskId = Id<'task'>;
export type RecyclerId = Id<'recycler'>;
export type ConsignmentId = Id<'consignment'>;
export type ImportId = Id<'import'>;
export type KeyId = Id<'key of a script'>;
export type EquipmentId = Id<'equipment'>;
export type FlyingDayId = Id<'flying day'>;
export type AttendanceId = Id<'attendance'>;
export type JobId = Id<'charging job'>;
export type CraftId = Id<'craft'>;
/** An instrument that speaks for itself, and what it said while one pack was on it. */
export type DeviceId = Id<'device'>;
export type DeviceReadingId = Id<'reading of a device'>;
export type CurveId = Id<'charge curve'>;
