import { z } from 'zod';
import {
  EQUIPMENT_KINDS,
  JOB_KINDS,
  SETTING_FIELDS,
  STORAGE_DIRECTIONS,
  SUPPLY_KINDS,
} from '../core/charging';
import { CHEMISTRIES } from '../core/chemistry';
import { FELT } from '../core/reading';
import { CHARGE_ENDINGS, CHARGE_MODES } from '../core/record';
import {
  equipmentId,
  figure,
  instant,
  jobId,
  line,
  optional,
  packId,
  personId,
  recordId,
  text,
  wholeFigure,
} from './fields';

const connector = line(40, 'The connector');
const amps = (what: string) => figure(0.01, 500, what, 'A');
const watts = (what: string) => figure(0.1, 20_000, what, 'W');
const chemistry = z.enum(CHEMISTRIES, 'Choose a chemistry.');
const mode = z.enum(CHARGE_MODES, 'Choose a mode.');

const channel = z.strictObject({
  key: line(12, 'What the channel is called'),
  chargeA: amps('The charging current'),
  chargeW: watts('The charging power'),
  dischargeA: amps('The discharging current').nullable(),
  dischargeW: watts('The discharging power').nullable(),
  outOfOrder: z.boolean(),
});

const cellRange = z
  .strictObject({
    least: wholeFigure(1, 24, 'The fewest cells', ''),
    most: wholeFigure(1, 24, 'The most cells', ''),
  })
  .refine(({ least, most }) => least <= most, {
    path: ['most'],
    message: 'The most cells cannot be fewer than the fewest.',
  });

const shared = z.strictObject({
  supply: z.enum(SUPPLY_KINDS, 'Choose a supply.'),
  watts: watts('The shared power').nullable(),
  amps: amps('The shared current').nullable(),
  split: z.enum(['pool', 'shares'], 'Say how it is shared.'),
  aloneW: watts('The power of one channel alone').nullable(),
});

const charger = z
  .strictObject({
    kind: z.literal('charger'),
    channels: z.array(channel).min(1, 'A charger has at least one channel.').max(16, 'At most 16 channels.'),
    cells: z
      .partialRecord(chemistry, cellRange)
      .refine((cells) => Object.keys(cells).length > 0, 'Choose at least one chemistry it charges.'),
    modes: z.array(mode).min(1, 'Choose at least one mode.'),
    shared: z.array(shared).max(3, 'One limit for each kind of supply.'),
    supplyId: equipmentId.nullable(),
    stepA: figure(0.001, 10, 'The step of the current', 'A'),
    leastA: figure(0.001, 50, 'The least current', 'A'),
    balanceA: figure(0.01, 20, 'The balancing current', 'A').nullable(),
    floorMv: wholeFigure(100, 4_000, 'The least cell voltage it starts on', 'mV').nullable(),
    storage: z.enum(STORAGE_DIRECTIONS, 'Say which way its storage mode goes.'),
    storageA: amps('The current of its storage mode').nullable(),
    connectors: z.array(connector).max(12, 'At most 12 connectors.'),
    connectOrder: z.array(line(120, 'The step')).max(8, 'At most 8 steps.'),
    words: z.partialRecord(z.enum(SETTING_FIELDS), line(30, 'The word')),
    errors: z
      .array(
        z.strictObject({
          text: line(60, 'The text on the display'),
          means: line(200, 'What it means'),
          next: line(200, 'The next step'),
        }),
      )
      .max(40, 'At most 40 messages.'),
  })
  .refine(({ channels }) => new Set(channels.map(({ key }) => key.toLowerCase())).size === channels.length, {
    path: ['channels'],
    message: 'Two channels have the same name.',
  })
  .refine(({ shared: limits }) => new Set(limits.map(({ supply }) => supply)).size === limits.length, {
    path: ['shared'],
    message: 'One limit for each kind of supply.',
  })
  .refine(({ modes, balanceA }) => !modes.includes('balance') || balanceA !== null, {
    path: ['balanceA'],
    message: 'A charger that balances has a balancing current.',
  });

const load = z.strictObject({
  kind: z.literal('load'),
  amps: amps('The current'),
  watts: watts('The power'),
  connectors: z.array(connector).max(12, 'At most 12 connectors.'),
});

const board = z
  .strictObject({
    kind: z.literal('board'),
    wiring: z.enum(['parallel', 'series'], 'Say how it is wired.'),
    ports: wholeFigure(2, 24, 'The number of ports', ''),
    connector: optional(connector).describe('The plug its ports take; null where they take any.'),
    lead: optional(connector).describe('The plug of its lead to the charger; null where it fits.'),
    slotCells: z.array(wholeFigure(1, 24, 'The cell', '')),
    toleranceMv: wholeFigure(1, 1_000, 'The tolerance', 'mV'),
  })
  .refine(
    ({ wiring, ports, slotCells }) =>
      wiring === 'parallel' ||
      (slotCells.length === ports && [...slotCells].sort((a, b) => a - b).every((cell, i) => cell === i + 1)),
    { path: ['slotCells'], message: 'Name each cell once: as many as there are ports.' },
  );

const adapter = z.strictObject({
  kind: z.literal('adapter'),
  from: connector,
  to: connector,
  data: z.boolean(),
});

const supply = z.strictObject({
  kind: z.literal('supply'),
  supply: z.enum(SUPPLY_KINDS, 'Choose a kind of supply.'),
  watts: watts('The power').nullable(),
  energyWh: figure(1, 100_000, 'The energy', 'Wh').nullable(),
  takesBackW: watts('The power it takes back').nullable(),
});

export const equipmentFacts = z.discriminatedUnion('kind', [charger, load, board, adapter, supply], {
  error: `Choose what it is: ${EQUIPMENT_KINDS.join(', ')}.`,
});

/** A thing on the bench: what it is called there, whether it is out of the cupboard, and what it can do. */
export const equipmentForm = z.strictObject({
  name: line(60, 'The name'),
  inUse: z.boolean(),
  facts: equipmentFacts,
});

/** Somebody watches the bench for so long. Whoever hands over ends there. */
export const attendanceForm = z
  .strictObject({ personId, from: instant, to: instant })
  .refine(({ from, to }) => to > from, { path: ['to'], message: 'It ends before it begins.' })
  .refine(({ from, to }) => to - from <= 24 * 3_600_000, {
    path: ['to'],
    message: 'Nobody watches a bench for more than a day.',
  });

export const chargerSetting = z.strictObject({
  chemistry,
  mode,
  cells: wholeFigure(1, 24, 'The number of cells', ''),
  topMv: wholeFigure(500, 5_000, 'The volts of a cell at the end', 'mV').nullable(),
  amps: amps('The current'),
});

const reason = z.looseObject({ because: z.string() });

/** A job as a plan has it; its id is made where it was planned. */
export const plannedJob = z.strictObject({
  id: jobId,
  do: z.enum(JOB_KINDS),
  packIds: z.array(packId).min(1).max(24),
  equipmentId,
  channel: line(12, 'The channel').nullable(),
  boardId: equipmentId.nullable(),
  adapterId: equipmentId.nullable(),
  setting: chargerSetting,
  start: instant,
  end: instant,
  peakW: figure(0, 20_000, 'The power', 'W'),
  locked: z.boolean(),
  reason,
  flightAt: instant.nullable(),
});

/** A plan to be kept in place of the one whose version it names; 0 where there was none. */
export const planForm = z.strictObject({
  version: z.int().min(0),
  jobs: z.array(plannedJob).max(400, 'At most 400 jobs.'),
  leftOutIds: z.array(packId).max(1_000, 'At most 1,000 packs.'),
});

/** A job that is not in the plan, put on a channel by hand. */
export const jobForm = plannedJob.omit({ locked: true, reason: true, flightAt: true, peakW: true });

const yes = z.boolean();

/** What the gate asks at a start; what is not asked for a job is left out. */
export const gateAnswers = z.strictObject({
  detectedCells: wholeFigure(0, 24, 'The cells the charger detects', '').nullable(),
  setChemistry: chemistry.nullable(),
  confirmed: z.array(z.enum(SETTING_FIELDS)),
  looked: yes,
  balanceLead: yes,
  polarity: yes,
  leadsFirst: yes,
  surface: yes,
  wayOut: yes,
  attendantId: personId.nullable(),
});

export const startJob = z.strictObject({ gate: gateAnswers });

/** The person who watches now: oneself, or whoever takes over. */
export const watchJob = z.strictObject({ attendantId: personId });

/** How a job ended, for all its packs; each has a record of its own. */
export const endJob = z.strictObject({
  at: instant,
  ending: z.enum(CHARGE_ENDINGS, 'Say how it ended.'),
  records: z
    .array(
      z.strictObject({
        packId,
        id: recordId,
        endCellsMv: z
          .array(wholeFigure(0, 5_500, 'A cell', 'mV'))
          .min(1)
          .max(24)
          .nullable(),
      }),
    )
    .min(1, 'No pack came.')
    .max(24),
  movedMah: figure(0, 200_000, 'The charge', 'mAh').nullable(),
  minutes: figure(0, 10_000, 'The minutes', 'min').nullable(),
  temperatureC: figure(-40, 150, 'The temperature', '°C').nullable(),
  felt: z.enum(FELT, 'Say how it felt.').nullable(),
  balanced: z.boolean().nullable(),
  remarks: optional(text(500, 'The remarks')),
  fieldPack: z
    .strictObject({ packId, recordId })
    .nullish()
    .describe(
      'The field pack that fed the charger, or that took the charge back; it gets a record of its own.',
    ),
});
