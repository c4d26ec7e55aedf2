import { z } from 'zod';
import { LOG_DECIMALS, LOG_FIELDS, TIME_UNITS } from '../core/charging';
import { SLOTS } from '../core/instruments';
import { CHEMISTRIES } from '../core/chemistry';
import { CHARGE_MODES } from '../core/record';
import {
  curveId,
  deviceId,
  deviceReadingId,
  equipmentId,
  figure,
  instant,
  instrumentId,
  packId,
  line,
  wholeFigure,
} from './fields';
import { memoryFigures } from './record';
import { version } from './register';

/** The version of what instruments and the register say to each other. */
export const PROTOCOL_VERSION = 1;

export const DEVICE_KINDS = ['meter', 'charger', 'memory-reader'] as const;
/** What a device is: it says cells, it says what its channels do, or it says what a smart pack remembers. */
export type DeviceKind = (typeof DEVICE_KINDS)[number];

const MOST_CELLS = 24;
const number = wholeFigure(1, 2_000_000_000, 'The number of the line', '').describe(
  'Counted on by the device from 1 within a run; a line whose number was taken already changes nothing.',
);
const at = instant
  .optional()
  .describe(
    'By the device’s own clock; the hello’s `now` tells how far that is off. Without it the moment of arrival counts.',
  );
const cellsMv = z
  .array(wholeFigure(0, 9_999, 'A cell voltage', 'mV'))
  .min(1, 'No cell voltage came.')
  .max(MOST_CELLS, 'At most 24 cells.');
const packMv = wholeFigure(0, 200_000, 'The pack voltage', 'mV');
const milliohm = z.array(figure(0, 100_000, 'A resistance', 'mΩ')).max(MOST_CELLS, 'At most 24 cells.');
const celsius = figure(-60, 200, 'The temperature', '°C');
const channel = line(12, 'The channel');

export const DEVICE_CAN = ['stop', 'write'] as const;
/** What a device does when told to. */
export type DeviceCan = (typeof DEVICE_CAN)[number];

/** The first line of a connection. */
export const deviceHello = z
  .strictObject({
    type: z.literal('hello'),
    protocol: z.int('Say which version of the protocol this is.'),
    key: z.string('The key is missing.').min(1, 'The key is missing.').max(200, 'This is no key.'),
    run: z
      .uuid('Give a UUID made when the device was switched on.')
      .describe('Another run counts its lines from 1 again.'),
    software: line(60, 'The software').optional(),
    now: instant.optional().describe('The device’s own clock.'),
    can: z.array(z.enum(DEVICE_CAN)).max(4).optional().describe('What it does when told to.'),
  })
  .meta({ id: 'Hello' });

const reading = z
  .strictObject({
    type: z.literal('reading'),
    n: number,
    at,
    contact: wholeFigure(0, 2_000_000_000, 'The contact', '').describe(
      'Counted on by the device each time something is plugged in. One contact fills one reading.',
    ),
    cellsMv: cellsMv.optional(),
    packMv: packMv.optional(),
    celsius: celsius.optional(),
  })
  .describe('A meter reads the pack that is plugged in: cell by cell, or its sum alone.')
  .meta({ id: 'ReadingLine' });

const unplugged = z
  .strictObject({ type: z.literal('unplugged'), n: number, at })
  .describe('Nothing is plugged into the meter any more.')
  .meta({ id: 'UnpluggedLine' });

const chargeLine = z
  .strictObject({
    type: z.literal('charge'),
    n: number,
    at,
    channel,
    state: z.enum(['idle', 'running', 'ended'], 'The state is idle, running or ended.'),
    seconds: figure(0, 864_000, 'The time since it began', 's').describe('By the charger’s own count.'),
    setting: z
      .strictObject({
        chemistry: z.enum(CHEMISTRIES).optional(),
        mode: z.enum(CHARGE_MODES).optional(),
        cells: wholeFigure(1, MOST_CELLS, 'The cells set', '').optional(),
        topMv: wholeFigure(500, 6_000, 'The top voltage set', 'mV').optional(),
        amps: figure(0, 500, 'The current set', 'A').optional(),
      })
      .optional(),
    cellsMv: cellsMv.optional(),
    packMv: packMv.optional(),
    amps: figure(0, 500, 'The current', 'A'),
    movedMah: figure(0, 1_000_000, 'The charge', 'mAh'),
    milliohm: milliohm.optional(),
    celsius: celsius.optional(),
    error: line(120, 'The error').optional(),
  })
  .describe('What one channel of a charger does.')
  .meta({ id: 'ChargeLine' });

const count = (what: string) => wholeFigure(0, 100_000, what, '').optional();
/** How a smart pack may be set: what a reader reads of it, and what it is told to write. */
const memorySettings = {
  storage: z
    .strictObject({
      isOn: z.boolean('Say whether it stores itself.'),
      afterHours: memoryFigures.afterHours.optional(),
      mv: memoryFigures.storageMv.optional(),
    })
    .optional(),
  topMv: memoryFigures.topMv.optional(),
  amps: memoryFigures.chargeA.optional(),
};

/** How a smart pack is set, as the door says it. */
export type MemorySettings = z.output<z.ZodObject<typeof memorySettings>>;

const memory = z
  .strictObject({
    type: z.literal('memory'),
    n: number,
    at,
    contact: wholeFigure(0, 2_000_000_000, 'The contact', '').describe(
      'Counted on by the device each time something is plugged in.',
    ),
    number: line(40, 'The pack’s own number').optional(),
    ...memorySettings,
    cycles: count('The count of cycles'),
    overCharges: count('The count of over-charges'),
    overDischarges: count('The count of over-discharges'),
    overTemperatures: count('The count of over-temperatures'),
    firmware: line(40, 'The version of its program').optional(),
    firmwareDate: line(20, 'The date of its program').optional(),
    updating: figure(0, 100, 'How far the update is', '%')
      .optional()
      .describe('While its program is being updated, percent.'),
  })
  .describe(
    'What the memory of the pack says that is on the reader. What is left out is not shown, never nought.',
  )
  .meta({ id: 'MemoryLine' });

const text = z
  .strictObject({
    type: z.literal('text'),
    n: number,
    at,
    text: z.string('The text is missing.').max(400, 'A line of a display is shorter.'),
  })
  .describe('A line as the device printed it; the register picks out what the device’s patterns say.')
  .meta({ id: 'TextLine' });

/** What a device says after its hello; one JSON object a line. */
export const deviceLine = z.discriminatedUnion('type', [reading, unplugged, chargeLine, memory, text], {
  error: 'The type is reading, unplugged, charge, memory or text.',
});
export type DeviceLine = z.output<typeof deviceLine>;

/** What the register answers. */
export const deviceAnswerLine = z.discriminatedUnion('type', [
  z
    .strictObject({
      type: z.literal('welcome'),
      protocol: z.int(),
      name: z.string(),
      kind: z.enum(DEVICE_KINDS),
      taken: z.int().describe('The last line of this run that was taken; go on after it.'),
      now: z.int(),
    })
    .meta({ id: 'Welcome' }),
  z
    .strictObject({ type: z.literal('taken'), n: z.int() })
    .describe('All lines up to this one are kept; the device may forget them.')
    .meta({ id: 'Taken' }),
  z
    .strictObject({
      type: z.literal('refused'),
      n: z.int().nullable(),
      field: z.string().nullable(),
      message: z.string(),
    })
    .describe('A line was not understood or not believed. Sending it again changes nothing.')
    .meta({ id: 'RefusedLine' }),
  z
    .strictObject({ type: z.literal('stop'), channel: z.string(), why: z.string() })
    .describe('Stop this channel now; sent only to a device that said it can.')
    .meta({ id: 'Stop' }),
  z
    .strictObject({ type: z.literal('write'), ...memorySettings })
    .describe(
      'Write these settings into the pack that is on the reader, then read it again; sent only to a device that said it can.',
    )
    .meta({ id: 'Write' }),
  z
    .strictObject({ type: z.literal('end'), message: z.string() })
    .describe('The register closes the connection and wants none of the same kind again.')
    .meta({ id: 'End' }),
]);
export type DeviceAnswerLine = z.output<typeof deviceAnswerLine>;

const patterns = z
  .array(line(200, 'A pattern'))
  .max(8, 'At most eight patterns.')
  .describe(`Lines as the device prints them, with places to pick from: ${SLOTS.join(', ')}.`);

/** A new device, with what it measures for. */
export const deviceForm = z
  .strictObject({
    id: deviceId,
    name: line(60, 'The name'),
    kind: z.enum(DEVICE_KINDS, 'Say what it is.'),
    instrumentId: instrumentId.nullable(),
    equipmentId: equipmentId.nullable(),
    patterns,
  })
  .refine(({ kind, instrumentId: id }) => kind !== 'meter' || id !== null, {
    path: ['instrumentId'],
    message: 'Say which of your meters it is: its error comes from there.',
  })
  .refine(({ kind, equipmentId: id }) => kind !== 'charger' || id !== null, {
    path: ['equipmentId'],
    message: 'Say which charger of the bench it is.',
  });

export const deviceChange = z.strictObject({ version, name: line(60, 'The name'), patterns });

/** A page that wants a meter's readings from now on; another page that had it is told. */
export const takeDevice = z.strictObject({ page: z.uuid('Name the page by a UUID.') });

/** What a reader is to write into the pack that is on it. The reading names what was on it when the settings were chosen. */
export const writeMemory = z
  .strictObject({ readingId: deviceReadingId, ...memorySettings })
  .refine(({ storage, topMv, amps }) => storage ?? topMv ?? amps, {
    path: ['storage'],
    message: 'Say what is to be set.',
  });

/** A charge as its charger's own log told it, and how the log was read. */
export const curveForm = z.strictObject({
  id: curveId,
  packId,
  name: line(200, 'The file’s name'),
  /** The names of its columns, by which its reading is remembered. */
  columnsKey: z.string().max(4_000, 'The names of the columns are too long.'),
  reading: z.strictObject({
    matching: z.array(z.enum(LOG_FIELDS).nullable()).max(200, 'At most 200 columns.'),
    unit: z.enum(TIME_UNITS),
    decimals: z.enum(LOG_DECIMALS),
  }),
  packed: z
    .string('Send the curve packed, as base64.')
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'Send the curve packed, as base64.')
    .max(400_000, 'This curve is too large.')
    .describe('The points, packed as docs/formats.md says.'),
});

export const logColumns = z.strictObject({ columns: z.string().max(4_000) });

export const stopChannel = z.strictObject({ channel });
