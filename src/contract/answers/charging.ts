import { z } from 'zod';
import { CHARGED } from '../../core/assess';
import { BARS, JOB_KINDS } from '../../core/charging';
import type { BenchPack, ChargerSetting, GateAnswers, Reason } from '../../core/charging';
import type { AttendanceId, JobId } from '../../core/measure';
import { equipmentId } from './equipment';
import { flyingDayAnswer } from './flying';
import { packId } from './packs';
import { personId } from './people';
import { chemistry, packTypeId } from './register';
import { count, idOf, list, moment, outline, storageState, version } from './schema';

export const attendanceAnswer = z
  .strictObject({ id: idOf<AttendanceId>(), version, personId, from: moment, to: moment })
  .describe('Who watches the bench from when to when.')
  .meta({ id: 'Attendance' });

const setting = outline<ChargerSetting>({ mode: z.string() });

export const jobAnswer = z
  .strictObject({
    id: idOf<JobId>(),
    state: z.enum(['planned', 'running', 'ended']),
    do: z.enum(JOB_KINDS),
    packIds: list(packId),
    equipmentId,
    channel: z.string().nullable(),
    boardId: equipmentId.nullable(),
    adapterId: equipmentId.nullable(),
    setting,
    start: moment.describe('As planned; of one that has begun, when it began.'),
    end: moment.describe('As planned or expected; of one that is over, when it ended.'),
    peakW: z.number(),
    locked: z.boolean(),
    reason: outline<Reason>({ because: z.string() }),
    flightAt: moment.nullable(),
    startedBy: personId.nullable(),
    attendantId: personId.nullable(),
    seenAt: moment.nullable().describe('When somebody last said that they watch it.'),
    gate: outline<GateAnswers>({}).nullable(),
  })
  .describe('A job on a channel: planned, under way, or over this evening.')
  .meta({ id: 'ChargingJob' });

const bar = z.enum(BARS);

const benchPack = z
  .strictObject({
    id: packId,
    tag: z.string(),
    typeId: packTypeId,
    chemistry,
    series: count,
    labelAh: z.number(),
    capacityAh: z.number(),
    chargeC: z.number().nullable(),
    connector: z.string().nullable(),
    cellsMv: list(z.number()).nullable(),
    cellMilliohm: z.number(),
    freeFrom: moment,
    gently: z.boolean(),
    balanceDue: z.boolean(),
    bar: bar.exclude(['chosen']).nullable().describe('Why nothing may be planned for it.'),
    fieldPack: z.boolean(),
    charged: z.enum(CHARGED),
    storage: storageState,
    dueAt: moment.nullable(),
    onWatch: z.boolean(),
    underFloor: z.boolean(),
    cycle: z.boolean(),
  })
  .describe('A pack as the bench sees it.')
  .meta({ id: 'BenchPack' }) satisfies z.ZodType<BenchPack>;

export const chargingAnswer = z
  .strictObject({
    version: count.describe('Of the plan that is kept; 0 before the first.'),
    keptAt: moment.nullable(),
    keptBy: personId.nullable(),
    leftOutIds: list(packId).describe('Packs somebody has left out of it.'),
    jobs: list(jobAnswer),
    days: list(flyingDayAnswer).describe('Flying days to come, and those of today.'),
    attended: list(attendanceAnswer),
    lastSettings: list(z.strictObject({ equipmentId, channel: z.string(), setting })).describe(
      'What each channel was last set to, as far as Malle knows.',
    ),
    packs: list(benchPack),
  })
  .describe('Everything tonight’s plan is made from, and the plan that is kept.')
  .meta({ id: 'Charging' });
