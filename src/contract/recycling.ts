import { z } from 'zod';
import {
  consignmentId,
  instant,
  line,
  optional,
  packId,
  photoId,
  recordId,
  recyclerId,
  text,
} from './fields';

/** A consignment begun: for whom. */
export const consignmentForm = z.strictObject({ id: consignmentId, recyclerId });

/** Packs to put on a consignment or to take off it, with the ids of the records that say so. */
export const consignmentPacks = z.strictObject({
  add: z.array(z.strictObject({ packId, recordId })).max(200, 'At most 200 packs at once.'),
  remove: z.array(z.strictObject({ packId, recordId })).max(200, 'At most 200 packs at once.'),
  reason: optional(text(1_000, 'The reason')),
});

/** A consignment handed over and closed: every pack on it is recycled. */
export const handOver = z.strictObject({
  at: instant,
  handedBy: line(80, 'Who handed it over'),
  receivedBy: optional(line(80, 'Who took it')),
  receiptNumber: line(60, 'The receipt number'),
  receiptPhotoId: photoId.nullable(),
  /** Those who sign have checked the recycler's and the carrier's rules. */
  rulesChecked: z.literal(true, 'Check what the recycler and the carriage rules ask for first.'),
  /** What was on the list when it was signed: nothing may have changed since. */
  packs: z.array(z.strictObject({ packId, recordId })).min(1, 'There is no pack on it.').max(500),
});

/** What was wrong on a closed consignment; the consignment itself stays as it was signed. */
export const consignmentCorrection = z.strictObject({ id: recordId, text: text(2_000, 'The correction') });
