import { z } from 'zod';
import type { Alarm, ChargePhase, CurvePoint, LogForm, SaidSetting } from '../../core/charging';
import type { CurveId, DeviceId, DeviceReadingId, InstrumentId, JobId } from '../../core/measure';
import type { OwnMemory } from '../../core/record';
import { DEVICE_KINDS } from '../devices';
import { equipmentId } from './equipment';
import { packId } from './packs';
import { personId } from './people';
import { idOf, list, moment, outline, version } from './schema';

const deviceId = idOf<DeviceId>();

/** What a meter shows; null cells and null sum where nothing is plugged in. */
const meterShows = z
  .strictObject({
    readingId: idOf<DeviceReadingId>().nullable().describe('Named by the record that this reading becomes.'),
    at: moment,
    cellsMv: list(z.int()).nullable(),
    packMv: z.int().nullable(),
    celsius: z.number().nullable(),
  })
  .meta({ id: 'MeterShows' });

const memoryShows = z
  .strictObject({
    readingId: idOf<DeviceReadingId>(),
    at: moment,
    memory: outline<OwnMemory>({}),
    updating: z.number().nullable().describe('While its program is being updated, percent.'),
  })
  .meta({ id: 'MemoryShows' });

const channelShows = z
  .strictObject({
    channel: z.string(),
    at: moment,
    state: z.enum(['idle', 'running', 'ended']),
    jobId: idOf<JobId>()
      .nullable()
      .describe('The running job of this channel; null where Malle knows of none.'),
    setting: outline<SaidSetting>({}).nullable(),
    point: outline<CurvePoint>({ seconds: z.number() }).nullable(),
    phase: z.string() as unknown as z.ZodType<ChargePhase>,
    alarms: list(outline<Alarm>({ code: z.string(), asks: z.enum(['stop', 'look']) })),
    milliohm: list(z.number()).nullable(),
    stopped: z.boolean().describe('Whether the register told the charger to stop.'),
  })
  .meta({ id: 'ChannelShows' });

export const deviceAnswer = z
  .strictObject({
    id: deviceId,
    version,
    name: z.string(),
    kind: z.enum(DEVICE_KINDS),
    instrumentId: idOf<InstrumentId>().nullable(),
    equipmentId: equipmentId.nullable(),
    patterns: list(z.string()),
    madeBy: personId,
    madeAt: moment,
    endedAt: moment.nullable(),
    hasKey: z.boolean().describe('False where it came from an archive; it gets a new key then.'),
    isOpen: z.boolean().describe('Whether it is connected.'),
    canStop: z.boolean(),
    canWrite: z.boolean(),
    seenAt: moment.nullable(),
    software: z.string().nullable(),
    takenBy: personId.nullable().describe('Whose page its readings go to.'),
    takenPage: z.uuid().nullable(),
    meter: meterShows.nullable(),
    memory: memoryShows.nullable().describe('What the pack on a reader remembers.'),
    channels: list(channelShows),
    problem: z.string().nullable().describe('Why its last line that was not taken was not.'),
  })
  .describe('An instrument that speaks for itself.')
  .meta({ id: 'Device' });

export const newDeviceAnswer = z
  .strictObject({ device: deviceAnswer, secret: z.string().describe('Its key, told this once.') })
  .meta({ id: 'NewDevice' });

export const deviceLinesAnswer = z
  .strictObject({ lines: list(z.string()).describe('What it printed last, the oldest first.') })
  .meta({ id: 'DeviceLines' });

export const logReadingAnswer = z
  .strictObject({ reading: outline<LogForm>({}).nullable() })
  .describe('How the last log with these columns was read; null where there was none.')
  .meta({ id: 'LogReading' });

const measured = z.strictObject({ value: z.number(), error: z.number() });

export const curveAnswer = z
  .strictObject({
    id: idOf<CurveId>(),
    jobId: idOf<JobId>().nullable(),
    packIds: list(packId),
    deviceId: deviceId.nullable().describe('Null where the curve came from a file.'),
    name: z.string().nullable().describe('Of the file it came from.'),
    points: list(outline<CurvePoint>({ seconds: z.number(), mv: list(z.number()) })),
    bytes: z.int().describe('What it takes up as it is kept.'),
    capacityMah: measured.nullable().describe('What a charge from low to full measured, with its error.'),
    milliohm: list(measured).nullable().describe('Cell by cell, from where the current began or ended.'),
  })
  .describe('A charge as its charger told it.')
  .meta({ id: 'Curve' });
