import { z } from 'zod';
import { CHEMISTRIES, DEFAULT_METER_ERROR_MV } from '../core/chemistry';
import { ANSWERS, MEANINGS, OCCASIONS, SWELLINGS } from '../core/inspection';
import { READING_CONDITIONS } from '../core/reading';
import { CHARGE_ENDINGS, CHARGE_MODES } from '../core/record';
import type { RecordDraft } from '../core/record';
import { ROW_OUTCOMES } from '../core/rounds';
import {
  figure,
  instant,
  itemKey,
  line,
  optional,
  packId,
  personId,
  photoId,
  placeId,
  recordId,
  text,
  wholeFigure,
} from './fields';

const cellMv = wholeFigure(0, 9_999, 'A cell voltage', 'mV');

const MOST_CELLS = 32;
const cellsMv = z.array(cellMv).min(1, 'No cell voltage came.').max(MOST_CELLS, 'At most 32 cells.');

const volts = z.discriminatedUnion('of', [
  z.strictObject({ of: z.literal('cells'), cellsMv }),
  z.strictObject({ of: z.literal('pack'), packMv: wholeFigure(0, 200_000, 'The pack voltage', 'mV') }),
]);

const instrument = optional(line(60, 'The instrument'));
const remarks = optional(text(2_000, 'The remark'));
/** Two days: longer than any job a charger or craft does in one go. */
const minutes = figure(0, 2_880, 'The time taken', 'minutes').nullable();

function degrees(what: string) {
  return figure(-60, 200, what, '°C');
}

const received = z.strictObject({
  source: optional(line(120, 'The source')),
  placeId: placeId.nullable(),
});

const reading = z.strictObject({
  volts,
  condition: z.enum(READING_CONDITIONS, 'The condition is rested, settling or loaded.'),
  instrument,
  meterErrorMv: wholeFigure(0, 500, 'The meter’s error', 'mV').default(DEFAULT_METER_ERROR_MV),
  temperatureC: degrees('The temperature').nullable(),
  remarks,
});

const resistance = z.strictObject({
  irMilliohm: z
    .array(figure(0.01, 5_000, 'A cell’s resistance', 'mΩ'))
    .min(1, 'No resistance came.')
    .max(MOST_CELLS, 'At most 32 cells.'),
  temperatureC: degrees('The temperature'),
  instrument,
  remarks,
});

const charge = z.strictObject({
  mode: z.enum(CHARGE_MODES, 'Choose what the charger was asked to do.'),
  charger: optional(line(60, 'The charger')),
  settings: z.strictObject({
    chemistry: z.enum(CHEMISTRIES, 'Choose a chemistry.').nullable(),
    cells: wholeFigure(1, MOST_CELLS, 'The cell count set', '').nullable(),
    topMv: wholeFigure(500, 6_000, 'The top voltage set', 'mV').nullable(),
    currentA: figure(0.01, 500, 'The current set', 'A').nullable(),
  }),
  startCellsMv: cellsMv.nullable(),
  endCellsMv: cellsMv.nullable(),
  movedMah: figure(0, 1_000_000, 'The charge moved', 'mAh').nullable(),
  minutes,
  temperatureC: degrees('The temperature').nullable(),
  balanced: z.boolean('Balanced is yes, no or not looked at.').nullable(),
  ending: z.enum(CHARGE_ENDINGS, 'Choose how it ended.'),
  remarks,
});

const flight = z.strictObject({
  pilotId: personId.nullable(),
  craft: optional(line(60, 'The craft')),
  minutes,
  landing: z
    .strictObject({ volts, condition: z.enum(['settling', 'loaded'], 'Volts on landing are never rested.') })
    .nullable(),
  usedMah: figure(0, 1_000_000, 'The charge used', 'mAh').nullable(),
  hottestC: degrees('The hottest temperature').nullable(),
  ambientC: degrees('The outside temperature').nullable(),
  remarks,
});

const photoIds = z.array(photoId).max(12, 'At most 12 photos at one item.');

const inspection = z.strictObject({
  occasion: z.enum(OCCASIONS, 'Choose the occasion.'),
  items: z
    .array(
      z.strictObject({
        key: itemKey,
        asks: line(80, 'The item'),
        failMeans: z.enum(MEANINGS, 'Say what a failure means.'),
        answer: z.enum(ANSWERS, 'Every item is ok, a note or a fail.'),
        note: optional(text(1_000, 'The note')),
        photoIds,
      }),
    )
    .min(1, 'An inspection looks at something.')
    .max(20, 'At most 20 items.'),
  swelling: z.enum(SWELLINGS, 'Swelling is none, soft or hard.').nullable(),
  thicknessMm: figure(0.5, 500, 'The thickness', 'mm').nullable(),
  massG: figure(0.5, 50_000, 'The mass', 'g').nullable(),
  remarks,
});

const moved = z.strictObject({
  placeId: placeId.nullable(),
  slot: wholeFigure(1, 200, 'The slot', '').nullable().optional(),
  holderId: personId.nullable(),
});
const note = z.strictObject({ text: text(4_000, 'The note') });

const correctable = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('received'), payload: received }),
  z.strictObject({ kind: z.literal('reading'), payload: reading }),
  z.strictObject({ kind: z.literal('resistance'), payload: resistance }),
  z.strictObject({ kind: z.literal('charge'), payload: charge }),
  z.strictObject({ kind: z.literal('flight'), payload: flight }),
  z.strictObject({ kind: z.literal('inspection'), payload: inspection }),
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
    z.strictObject({
      ...envelope,
      kind: z.literal('resistance'),
      payload: resistance,
      supersedes: z.null(),
    }),
    z.strictObject({ ...envelope, kind: z.literal('charge'), payload: charge, supersedes: z.null() }),
    z.strictObject({ ...envelope, kind: z.literal('flight'), payload: flight, supersedes: z.null() }),
    z.strictObject({
      ...envelope,
      kind: z.literal('inspection'),
      payload: inspection,
      supersedes: z.null(),
    }),
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

/** How one pack's row of a round ended, with the records that were written for it; all are kept or none. */
export const roundRow = z
  .strictObject({
    packId,
    records: z.array(recordDraft).max(20, 'At most 20 records for one row.'),
    /** Null while the row is still being worked on: a first charge is under way, say. */
    outcome: z.enum(ROW_OUTCOMES, 'Say how the row ended.').nullable(),
    reason: optional(text(300, 'The reason')),
    at: instant,
  })
  .refine(({ outcome, reason }) => outcome !== 'skipped' || reason !== null, {
    path: ['reason'],
    message: 'Say why it is left out.',
  });
