import { z } from 'zod';
import { CHEMISTRIES, DEFAULT_METER_ERROR_MV } from '../core/chemistry';
import { ANSWERS, MEANINGS, OCCASIONS, SWELLINGS } from '../core/inspection';
import { CAUSES, INCIDENT_KINDS } from '../core/incident';
import { DRAIN_PLACES } from '../core/lifecycle';
import { FELT, READING_CONDITIONS } from '../core/reading';
import { CHARGE_ENDINGS, CHARGE_MODES, MEMORY_WORK, RECORD_KINDS, RECOVERY_ENDINGS } from '../core/record';
import type { Correctable, PackRecord, PayloadOf, RecordDraft, RecordKind } from '../core/record';
import { ROW_OUTCOMES } from '../core/rounds';
import { lifeBefore } from './register';
import {
  consignmentId,
  craftId,
  curveId,
  deviceId,
  deviceReadingId,
  equipmentId,
  figure,
  flyingDayId,
  incidentId,
  instant,
  itemKey,
  jobId,
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
const felt = z.enum(FELT, 'It felt cool, lukewarm, warm or too hot to touch.').nullish();
/** Two days: longer than any job a charger or craft does in one go. */
const minutes = figure(0, 2_880, 'The time taken', 'minutes').nullable();

function degrees(what: string) {
  return figure(-60, 200, what, '°C');
}

const received = z.strictObject({
  source: optional(line(120, 'The source')),
  placeId: placeId.nullable(),
  before: lifeBefore
    .nullish()
    .describe('What a pack that was in use before this register knew it had behind it.'),
});

const reading = z.strictObject({
  volts,
  condition: z.enum(READING_CONDITIONS, 'The condition is rested, settling or loaded.'),
  instrument,
  meterErrorMv: wholeFigure(0, 500, 'The meter’s error', 'mV').default(DEFAULT_METER_ERROR_MV),
  temperatureC: degrees('The temperature').nullable(),
  remarks,
  measured: z
    .strictObject({ deviceId, readingId: deviceReadingId })
    .nullish()
    .describe('The device that measured it and its reading; only volts that it said are taken.'),
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
  felt,
  balanced: z.boolean('Balanced is yes, no or not looked at.').nullable(),
  ending: z.enum(CHARGE_ENDINGS, 'Choose how it ended.'),
  remarks,
  bench: z
    .strictObject({
      equipmentId,
      channel: line(12, 'The channel').nullable(),
      jobId: jobId.nullable(),
      shareMah: figure(0, 1_000_000, 'The share of the charge', 'mAh').nullable(),
    })
    .nullish(),
  curveId: curveId.nullish().describe('How it went, as the charger told it.'),
});

const flight = z.strictObject({
  pilotId: personId.nullable(),
  flownBy: line(80, 'The pilot').nullish(),
  craft: optional(line(60, 'The craft')),
  craftId: craftId
    .nullish()
    .describe('The craft of the register it was flown on; `craft` holds the same in words.'),
  craftSetup: wholeFigure(0, 10_000, 'The set-up', '')
    .nullish()
    .describe('Which of its set-ups the craft had then: a change of propellers or weight begins another.'),
  minutes,
  landing: z
    .strictObject({ volts, condition: z.enum(['settling', 'loaded'], 'Volts on landing are never rested.') })
    .nullable(),
  usedMah: figure(0, 1_000_000, 'The charge used', 'mAh').nullable(),
  hottestC: degrees('The hottest temperature').nullable(),
  felt,
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
  felt,
  remarks,
});

const moved = z.strictObject({
  placeId: placeId.nullable(),
  slot: wholeFigure(1, 200, 'The slot', '').nullable().optional(),
  holderId: personId.nullable(),
});
const counters = z
  .strictObject({
    cycles: wholeFigure(0, 100_000, 'The pack’s own count of cycles', '').nullable(),
    faults: wholeFigure(0, 100_000, 'The pack’s own count of faults', '').nullable(),
  })
  .nullable();
const takenOut = z.strictObject({
  holderId: personId.nullable(),
  fromId: personId.nullable(),
  craftId: craftId.nullable(),
  dayId: flyingDayId.nullable(),
  dueBackAt: instant.nullable(),
  shortFlight: z.boolean('Say whether a short flight is meant.'),
  counters,
  remarks,
});
const returned = z.strictObject({
  placeId: placeId.nullable(),
  slot: wholeFigure(1, 200, 'The slot', '').nullable().optional(),
  used: z.boolean('Say whether it was used.'),
  unplugged: z.boolean('Say whether it is unplugged.').nullable(),
  counters,
  remarks,
});
/** The figures of a smart pack's settings, as records and readers say them. */
export const memoryFigures = {
  afterHours: wholeFigure(12, 240, 'The delay before it stores itself', 'h'),
  storageMv: wholeFigure(2_000, 4_500, 'Its storage voltage', 'mV a cell'),
  topMv: wholeFigure(3_000, 5_000, 'Its top voltage', 'mV a cell'),
  chargeA: figure(0.01, 500, 'Its charge current', 'A'),
};
const isOn = z.boolean('Say whether it stores itself.');
const fault = (what: string) => wholeFigure(0, 100_000, what, '').nullable();
/** What a reader shows of a smart pack's memory. */
const ownMemory = z.strictObject({
  number: optional(line(40, 'The pack’s own number')),
  storage: z
    .strictObject({
      isOn,
      afterHours: memoryFigures.afterHours.nullable(),
      mv: memoryFigures.storageMv.nullable(),
    })
    .nullable(),
  topMv: memoryFigures.topMv.nullable(),
  chargeA: memoryFigures.chargeA.nullable(),
  cycles: fault('The pack’s own count of cycles'),
  overCharges: fault('Its count of over-charges'),
  overDischarges: fault('Its count of over-discharges'),
  overTemperatures: fault('Its count of over-temperatures'),
  firmware: optional(line(40, 'The version of its program')),
  firmwareDate: optional(line(20, 'The date of its program')),
});
const memory = z.strictObject({
  did: z.enum(MEMORY_WORK, 'Say whether it was read, set or updated.'),
  memory: ownMemory.nullable().describe('Null where it could not be read.'),
  adapterId: equipmentId.nullable(),
  remarks,
  measured: z
    .strictObject({ deviceId, readingId: deviceReadingId })
    .nullish()
    .describe('The reader that read it; only what it said is taken.'),
});
const note = z.strictObject({ text: text(4_000, 'The note') });

const basedOnSeq = z.int('Say what the decision was based on.').min(1);
const reason = text(2_000, 'The reason');
const attendant = line(80, 'Who stays with it');

const incident = z.strictObject({
  incidentId,
  kind: z.enum(INCIDENT_KINDS, 'Choose what happened.'),
  holds: z.boolean(),
});
const watchEnded = z.strictObject({ incidentId, reason });
const inspectionAsked = z.strictObject({ reason, incidentId: incidentId.nullable() });

const rule = z.string().max(60);
const decision = z.strictObject({
  basedOnSeq,
  reason,
  what: z.discriminatedUnion('to', [
    z.strictObject({ to: z.literal('hold') }),
    z.strictObject({
      to: z.literal('release'),
      answers: z
        .array(
          z.strictObject({
            rule,
            records: z.array(recordId).max(500),
            cell: z.int().min(1).max(MOST_CELLS).nullish(),
            value: z.number().nullish(),
          }),
        )
        .max(50, 'At most 50 findings.'),
      watch: z.union([z.enum(['for-good', 'none']), z.strictObject({ until: instant })], {
        error: 'Say how long it stays on caution.',
      }),
    }),
    z.strictObject({
      to: z.literal('retire'),
      because: z.array(rule).max(50),
      secondWanted: z.boolean(),
    }),
  ]),
});
const confirmation = z.strictObject({
  basedOnSeq,
  decisionId: recordId,
  reason: optional(text(2_000, 'The reason')),
});

const recovery = z.discriminatedUnion('step', [
  z.strictObject({
    step: z.literal('begun'),
    basedOnSeq,
    cause: z.enum(CAUSES, 'Choose the cause.'),
    causeText: text(1_000, 'How the cause is known'),
    charger: line(60, 'The charger'),
    currentA: figure(0.01, 100, 'The current', 'A'),
    attendant,
  }),
  z.strictObject({
    step: z.literal('looked'),
    feels: z.enum(['cool', 'warm'], 'Say how it feels.'),
    cellsMv: cellsMv.nullable(),
  }),
  z.strictObject({
    step: z.literal('ended'),
    how: z.enum(RECOVERY_ENDINGS, 'Say how it ended.'),
    cellsMv: cellsMv.nullable(),
    remarks,
  }),
]);

const disposal = z.discriminatedUnion('step', [
  z.strictObject({ step: z.literal('marked') }),
  z.strictObject({
    step: z.literal('discharging'),
    load: z.discriminatedUnion('by', [
      z.strictObject({
        by: z.literal('lamp'),
        ratedV: figure(1, 500, 'The lamp’s volts', 'V'),
        ratedW: figure(0.1, 5_000, 'The lamp’s watts', 'W'),
      }),
      z.strictObject({
        by: z.literal('resistor'),
        ohms: figure(0.01, 100_000, 'The resistance', 'Ω'),
        ratedW: figure(0.1, 5_000, 'The resistor’s watts', 'W'),
      }),
      z.strictObject({ by: z.literal('charger'), charger: line(60, 'The charger') }),
    ]),
    where: z.enum(DRAIN_PLACES, 'Say where: outdoors, or where nothing can catch fire.'),
    attendant,
  }),
  z.strictObject({ step: z.literal('verified'), cellsMv }),
  z.strictObject({ step: z.literal('unsafe'), why: text(1_000, 'Why it is unsafe') }),
  z.strictObject({ step: z.literal('insulated'), how: text(300, 'How its contacts are covered') }),
  z.strictObject({ step: z.literal('insulated-charged'), how: text(300, 'How its contacts are covered') }),
  z.strictObject({ step: z.literal('binned'), placeId }),
  z.strictObject({ step: z.literal('consigned'), consignmentId }),
  z.strictObject({ step: z.literal('recycled'), consignmentId }),
  z.strictObject({ step: z.literal('taken-back'), consignmentId, reason }),
  z.strictObject({ step: z.literal('reinstated'), reason }),
]);

/** One schema a kind; what goes into the ledger unknown to it is refused. */
const PAYLOADS: { readonly [Kind in CorrectedKind]: z.ZodType<PayloadOf<Kind>> } = {
  received,
  reading,
  resistance,
  charge,
  flight,
  inspection,
  moved,
  'taken-out': takenOut,
  returned,
  memory,
  note,
  incident,
  'watch-ended': watchEnded,
  'inspection-asked': inspectionAsked,
  decision,
  confirmation,
  recovery,
  disposal,
};
/** Every kind but the correction, which is about another record. */
type CorrectedKind = Exclude<RecordKind, 'correction'>;
const KINDS = Object.keys(PAYLOADS) as CorrectedKind[];

/** Zod wants its options one by one; the registry has them as a list. */
type Options = [z.core.$ZodTypeDiscriminable, ...z.core.$ZodTypeDiscriminable[]];

const correctable = z.discriminatedUnion(
  'kind',
  KINDS.filter((kind) => RECORD_KINDS[kind].correctable).map((kind) =>
    z.strictObject({ kind: z.literal(kind), payload: PAYLOADS[kind] }),
  ) as unknown as Options,
) as unknown as z.ZodType<Correctable>;

const correction = z.strictObject({
  reason: text(1_000, 'The reason'),
  replacement: correctable.nullable(),
});

const envelope = { id: recordId, at: instant };

/** A record as its writer sends it. */
export const recordDraft = z.discriminatedUnion(
  'kind',
  [
    ...KINDS.map((kind) =>
      z.strictObject({ ...envelope, kind: z.literal(kind), payload: PAYLOADS[kind], supersedes: z.null() }),
    ),
    z.strictObject({ ...envelope, kind: z.literal('correction'), payload: correction, supersedes: recordId }),
  ] as unknown as Options,
  'The kind of record is not known here.',
) as unknown as z.ZodType<RecordDraft>;

const stamped = {
  ...envelope,
  packId,
  seq: z.int().min(1).describe('1, 2, 3 … in the order of arrival at the ledger.'),
  recordedAt: instant,
  by: personId,
  rulesVersion: z.int().min(1).describe('The version of the house rules in force when it was written.'),
};

/** A record as the ledger holds it: what its writer sent, and the ledger's stamp. */
export const recordAnswer = z
  .discriminatedUnion('kind', [
    ...KINDS.map((kind) =>
      z.strictObject({ ...stamped, kind: z.literal(kind), payload: PAYLOADS[kind], supersedes: z.null() }),
    ),
    z.strictObject({ ...stamped, kind: z.literal('correction'), payload: correction, supersedes: recordId }),
  ] as unknown as Options)
  .meta({ id: 'Record' }) as unknown as z.ZodType<PackRecord>;

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
