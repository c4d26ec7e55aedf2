import { z } from 'zod';
import {
  CHARGED,
  MAY_FLY,
  RULE_FACTS,
  SEVERITIES,
  STEP_KINDS,
  TASK_KINDS,
  VERDICTS,
} from '../../core/assess';
import type { DueTask, Finding, ReleaseNeed, RuleId } from '../../core/assess';
import type { Siblings } from '../../core/health';
import { LIFE_STATES } from '../../core/lifecycle';
import type { DeliveryId, PackId, RecordId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import { recordAnswer } from '../record';
import { craftId } from './craft';
import { personId } from './people';
import { packTypeId, placeId, placeTemperature, typeFacts } from './register';
import { basis, count, idOf, list, moment, outline, storageState, version } from './schema';

export const packId = idOf<PackId>();
const deliveryId = idOf<DeliveryId>();
export const rule = z.enum(Object.keys(RULE_FACTS) as [RuleId, ...RuleId[]]);
export const lifeState = z.enum(LIFE_STATES);

export const nextStep = z
  .strictObject({ do: z.enum(STEP_KINDS), dueAt: moment.nullable() })
  .meta({ id: 'NextStep' });

export const finding = outline<Finding>({
  rule,
  severity: z.enum(SEVERITIES),
  records: z.array(idOf<RecordId>()).describe('The records it rests on.'),
}).meta({ id: 'Finding' });

export const releaseNeed = outline<ReleaseNeed>({ because: rule, met: z.boolean(), need: z.string() }).meta({
  id: 'ReleaseNeed',
});

const dueTask: z.ZodType<DueTask> = z
  .strictObject({ do: z.enum(TASK_KINDS), dueAt: moment, because: rule })
  .meta({ id: 'DueTask' });

export const packRowShape = {
  id: packId,
  tag: z.string(),
  typeId: packTypeId,
  owner: z.string().nullable(),
  homePlaceId: placeId.nullable(),
  fieldPack: z.boolean(),
  placeId: placeId.nullable(),
  slot: z.int().nullable(),
  holderId: personId.nullable(),
  receivedAt: moment.nullable(),
  usedAt: moment.nullable().describe('When it was last charged or flown.'),
  tasks: list(dueTask).describe('What the calendar will ask of it, soonest first.'),
  verdict: z.enum(VERDICTS),
  mayFly: z.enum(MAY_FLY),
  charged: z.enum(CHARGED),
  basis: basis
    .nullable()
    .describe(
      'What its cells and charge are told from: a reading, or the last thing that happened since; null when nobody knows.',
    ),
  cellsMv: list(z.number())
    .nullable()
    .describe('Per cell, as read or as carried since; one figure for a pack read by its total.'),
  byCell: z.boolean(),
  readAt: moment.nullable(),
  socPercent: z.number().nullable(),
  storage: storageState,
  since: moment.nullable(),
  dueAt: moment.nullable(),
  allowanceHours: z.number().nullable(),
  next: nextStep.nullable(),
  life: lifeState,
  outSince: moment.nullable().describe('Since when it waits for a decision; null when it does not.'),
  watchFrom: moment
    .nullable()
    .describe('From when until when it is a caution from a distance; null when it is not.'),
  watchUntil: moment.nullable(),
  deliveryId: deliveryId.nullable(),
  smart: z.boolean().describe('Whether it has a memory of its own.'),
  cycles: z.number().describe('Full cycles it has gone through.'),
  capacityMah: z.number().describe('As last measured, never more than the label.'),
  out: z
    .strictObject({
      holder: personId,
      since: moment,
      recordId: idOf<RecordId>().nullable(),
      dueBackAt: moment.nullable(),
      wantedBackAt: moment.describe('When it is due back, or after as long as the house lets a pack be out.'),
      craftId: craftId.nullable(),
      flights: count.describe('Written down since it was taken.'),
      alsoWith: z
        .strictObject({ person: personId, since: moment })
        .nullable()
        .describe('Somebody else who says that they have it.'),
    })
    .nullable()
    .describe('Who has it, since when and for what.'),
  owed: z
    .strictObject({
      by: personId,
      flownAt: moment,
      craftId: craftId.nullable(),
      coolAt: moment,
      readFrom: moment,
    })
    .nullable()
    .describe('Flown and not read since: who flew it, and from when on its cells can be read.'),
  seq: count.describe('The number of its latest record, so that a list knows which of two rows is newer.'),
  version: version.describe('Of its facts, the tag among them.'),
};

export const packRow = z
  .strictObject(packRowShape)
  .describe('A pack as lists show it: its projected state, no records.')
  .meta({ id: 'PackRow' });

const smart = z.strictObject({ autoStorage: z.boolean(), autoStorageAfterHours: z.number() }).nullable();

const siblingWear = z.strictObject({
  pace: z.strictObject({ mean: z.number(), sd: z.number() }),
  kneeHazard: z.number(),
  packs: count,
});

export const packDetails = z
  .strictObject({
    id: packId,
    version,
    tag: z.string(),
    formerTags: list(z.string()),
    typeId: packTypeId,
    owner: z.string().nullable(),
    homePlaceId: placeId.nullable(),
    inServiceAt: moment.nullable(),
    fieldPack: z.boolean(),
    smart,
    deliveryId: deliveryId.nullable(),
    records: list(recordAnswer),
    siblings: z
      .strictObject({ capacity: siblingWear.optional(), resistance: siblingWear.optional() })
      .describe('What other packs of its type taught about how they wear.') as z.ZodType<Siblings>,
  })
  .meta({ id: 'PackDetails' });

export const historiesAnswer = z
  .strictObject({
    placeTemperatures: list(placeTemperature).describe('The same for every pack, so it is sent once.'),
    packs: list(
      z.strictObject({
        facts: z.strictObject({
          id: packId,
          ...typeFacts,
          fieldPack: z.boolean(),
          smart,
          inServiceAt: moment.nullable(),
        }) satisfies z.ZodType<Omit<PackFacts, 'placeTemperatures'>>,
        standing: z
          .strictObject({
            verdict: z.enum(VERDICTS),
            dueAt: moment.nullable(),
            found: z
              .partialRecord(rule, z.enum(SEVERITIES))
              .describe('Of each rule that found anything, the gravest.'),
          })
          .nullable()
          .describe('How it stands now under the newest house rules; null until it is judged under those.'),
        packed: z
          .string()
          .nullable()
          .describe('Its first records, where the caller unpacks them: a list in JSON, raw deflate, base64.'),
        records: list(recordAnswer).describe('Its records, or those after the packed ones.'),
        count: count.describe('How many records there are in all.'),
      }),
    ),
    rulesVersion: version.describe('The newest house rules.'),
    next: packId.nullable().describe('The id to ask on from; null after the last.'),
    total: count,
  })
  .describe('Some packs’ facts and records, for judging them elsewhere.')
  .meta({ id: 'Histories' });

/** A pack’s details compressed, for a device that keeps every pack: JSON, raw deflate, base64. Siblings are left out: each of a type has the same. */
export const offlinePack = z
  .strictObject({
    id: packId,
    version: version.describe('Of its facts.'),
    seq: count.describe('The number of its latest record.'),
    packed: z.string().describe('Its details without its siblings: JSON, raw deflate, base64.'),
  })
  .meta({ id: 'OfflinePack' });

export const laterRow = z
  .strictObject({ from: moment, row: packRow })
  .describe('What lists show of a pack from a moment on, if nothing more is recorded.')
  .meta({ id: 'LaterRow' });

export const appendAnswer = z
  .strictObject({
    packId,
    records: list(recordAnswer).describe(
      'The records as they now stand in the ledger, those that had arrived before included.',
    ),
  })
  .meta({ id: 'Appended' });
