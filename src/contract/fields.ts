import { z } from 'zod';
import type {
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
} from '../core/measure';

/** An id of one kind of thing; a UUID on the wire. */
function id<Id extends string>() {
  return z.uuid('This is not an id.').transform((value) => value.toLowerCase() as Id);
}

export const packId = id<PackId>();
export const packTypeId = id<PackTypeId>();
export const personId = id<PersonId>();
export const placeId = id<PlaceId>();
export const recordId = id<RecordId>();
export const photoId = id<PhotoId>();
export const roundId = id<RoundId>();
export const deliveryId = id<DeliveryId>();
export const incidentId = id<IncidentId>();
export const entryId = id<EntryId>();
export const taskId = id<TaskId>();
export const recyclerId = id<RecyclerId>();
export const consignmentId = id<ConsignmentId>();
export const importId = id<ImportId>();
export const keyId = id<KeyId>();
export const equipmentId = id<EquipmentId>();
export const jobId = id<JobId>();
export const craftId = id<CraftId>();
export const flyingDayId = id<FlyingDayId>();
export const instrumentId = id<InstrumentId>();
export const deviceId = id<DeviceId>();
export const deviceReadingId = id<DeviceReadingId>();
export const curveId = id<CurveId>();

/** SHA-256 as 64 small hexadecimal figures. */
export const sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'This is no SHA-256.');

/** Before this nothing in a register can have happened. */
const EARLIEST = Date.UTC(2000, 0, 1);
const LATEST = Date.UTC(2200, 0, 1);

/** A moment on the wire: whole milliseconds since 1970-01-01T00:00Z. */
export const instant = z
  .int('Give the moment as whole milliseconds.')
  .min(EARLIEST, 'Dates before the year 2000 cannot be right.')
  .max(LATEST, 'Dates after the year 2200 cannot be right.');

/** A line of free text; blanks around it are dropped. PostgreSQL cannot hold a NUL, so it is refused here. */
export function line(longest: number, what: string) {
  return text(longest, what).refine((value) => !/[\r\n]/.test(value), `${what} is one line only.`);
}

export function text(longest: number, what: string) {
  return z
    .string(`${what} is missing.`)
    .trim()
    .min(1, `${what} is missing.`)
    .max(longest, `${what} may have ${longest} characters at most.`)
    .refine((value) => !value.includes('\u0000'), `${what} holds a character that cannot be kept.`);
}

/** Free text that may be left out: an empty field means none. */
export function optional<Schema extends z.ZodType>(schema: Schema) {
  return z.preprocess((value) => (value === '' || value === undefined ? null : value), schema.nullable());
}

/** What a checklist item is called in the records, whatever its words become. */
export const itemKey = z
  .string()
  .regex(/^[a-z][a-z0-9-]{1,39}$/, 'A key is small letters, figures and dashes.');

/** A number within limits that say themselves. */
export function figure(low: number, high: number, what: string, unit: string) {
  const range = `${what} lies between ${low} and ${high}${unit ? ` ${unit}` : ''}.`;
  return z.number(`${what} is missing or not a number.`).min(low, range).max(high, range);
}

export function wholeFigure(low: number, high: number, what: string, unit: string) {
  return figure(low, high, what, unit).refine(Number.isInteger, `${what} is a whole number.`);
}
