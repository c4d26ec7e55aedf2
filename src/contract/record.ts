import { z } from 'zod';
import { DEFAULT_METER_ERROR_MV } from '../core/chemistry';
import { READING_CONDITIONS } from '../core/reading';
import type { RecordDraft } from '../core/record';
import {
  figure,
  instant,
  line,
  optional,
  packId,
  personId,
  placeId,
  recordId,
  text,
  wholeFigure,
} from './fields';

const cellMv = wholeFigure(0, 9_999, 'A cell voltage', 'mV');

const volts = z.discriminatedUnion('of', [
  z.strictObject({
    of: z.literal('cells'),
    cellsMv: z.array(cellMv).min(1, 'No cell voltage came.').max(32, 'At most 32 cells.'),
  }),
  z.strictObject({ of: z.literal('pack'), packMv: wholeFigure(0, 200_000, 'The pack voltage', 'mV') }),
]);

const received = z.strictObject({
  source: optional(line(120, 'The source')),
  placeId: placeId.nullable(),
});

const reading = z.strictObject({
  volts,
  condition: z.enum(READING_CONDITIONS, 'The condition is rested, settling or loaded.'),
  instrument: optional(line(60, 'The instrument')),
  meterErrorMv: wholeFigure(0, 500, 'The meter’s error', 'mV').default(DEFAULT_METER_ERROR_MV),
  temperatureC: figure(-60, 120, 'The temperature', '°C').nullable(),
  remarks: optional(text(2_000, 'The remark')),
});

const moved = z.strictObject({ placeId: placeId.nullable(), holderId: personId.nullable() });
const note = z.strictObject({ text: text(4_000, 'The note') });

const correctable = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('received'), payload: received }),
  z.strictObject({ kind: z.literal('reading'), payload: reading }),
  z.strictObject({ kind: z.literal('moved'), payload: moved }),
  z.strictObject({ kind: z.literal('note'), payload: note }),
]);

const correction = z.strictObject({
  reason: text(1_000, 'The reason'),
  replacement: correctable.nullable(),
});

const envelope = { id: recordId, at: instant };

/** A record as its writer sends it. */
const recordDraft: z.ZodType<RecordDraft> = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({ ...envelope, kind: z.literal('received'), payload: received, supersedes: z.null() }),
    z.strictObject({ ...envelope, kind: z.literal('reading'), payload: reading, supersedes: z.null() }),
    z.strictObject({ ...envelope, kind: z.literal('moved'), payload: moved, supersedes: z.null() }),
    z.strictObject({ ...envelope, kind: z.literal('note'), payload: note, supersedes: z.null() }),
    z.strictObject({ ...envelope, kind: z.literal('correction'), payload: correction, supersedes: recordId }),
  ],
  'The kind of record is not known here.',
);

/** Records for one pack, oldest first: all are kept or none. An offline evening arrives as one of these. */
export const appendRequest = z.strictObject({
  packId,
  records: z.array(recordDraft).min(1, 'No record came.').max(500, 'At most 500 records at once.'),
});
