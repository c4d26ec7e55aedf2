import { z } from 'zod';
import type { FlyingDayId, RecordId } from '../../core/measure';
import { craftId } from './craft';
import { packId } from './packs';
import { personId } from './people';
import { chemistry, packTypeId } from './register';
import { count, idOf, list, moment, version } from './schema';

export const flyingDayAnswer = z
  .strictObject({
    id: idOf<FlyingDayId>(),
    version,
    at: moment,
    place: z.string(),
    craft: z.string().nullable(),
    wants: list(z.strictObject({ typeId: packTypeId, packs: count, craftId: craftId.nullish() })),
    personIds: list(personId),
    handOut: list(
      z.strictObject({
        packId,
        craftId: craftId.nullable(),
        personId: personId.nullable(),
        spare: z.boolean(),
        byHand: z.boolean(),
      }),
    ).describe('The packs to be taken along, once somebody has settled that.'),
    cancelled: z.boolean(),
  })
  .describe('A day on which packs are wanted charged.')
  .meta({ id: 'FlyingDay' });

const landing = z
  .strictObject({
    packId,
    tag: z.string(),
    typeId: packTypeId,
    chemistry,
    at: moment,
    recordId: idOf<RecordId>(),
    pilot: personId.nullable(),
    flownBy: z.string().nullable(),
    craftId: craftId.nullable(),
    craft: z.string().nullable(),
    setup: count,
    minutes: z.number().nullable(),
    usedMah: z.number().nullable(),
    depthPercent: z.number().nullable(),
    loadedMv: z.number().nullable(),
    restedMv: z.number().nullable(),
    ambientC: z.number().nullable(),
  })
  .describe('A flight and what its landing showed.')
  .meta({ id: 'Landing' });

export const flyingAnswer = z
  .strictObject({
    days: list(flyingDayAnswer).describe('Flying days to come, and those of today.'),
    steps: list(
      z.strictObject({
        craftId,
        stepMv: z.number(),
        plusMinusMv: z.number(),
        returns: count,
        leftOut: count,
      }),
    ).describe(
      'How much higher packs rest than they read at a hover, as each craft’s own returns have shown.',
    ),
    landings: list(landing).describe('The landings of the last 120 days, the latest first.'),
  })
  .describe('What flies next, and how landings went.')
  .meta({ id: 'Flying' });
