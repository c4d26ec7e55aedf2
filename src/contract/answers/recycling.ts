import { z } from 'zod';
import type { ConsignmentId, PhotoId } from '../../core/measure';
import { lifeState, nextStep, packId } from './packs';
import { personId } from './people';
import { chemistry, packTypeId, placeId, recyclerId } from './register';
import { count, idOf, list, moment } from './schema';
import { todayItem } from './today';

export const consignmentId = idOf<ConsignmentId>();

export const boardPack = z
  .strictObject({
    id: packId,
    tag: z.string(),
    typeId: packTypeId,
    life: lifeState,
    since: moment.nullable(),
    next: nextStep.nullable(),
    placeId: placeId.nullable(),
    massG: z.number(),
    wh: z.number(),
    chemistry,
    apart: z.boolean().describe('It may not be discharged: harmed in its body, or declared so.'),
    charged: z.boolean().describe('It leaves at storage charge, contacts covered, without a last discharge.'),
    consignmentId: consignmentId.nullable(),
    seq: count,
  })
  .describe('A retired pack as the board shows it.')
  .meta({ id: 'BoardPack' });

export const containerFill = z
  .strictObject({ placeId, packs: count, massG: z.number(), wh: z.number() })
  .describe('How full a recycling container is.')
  .meta({ id: 'ContainerFill' });

const consignmentShape = {
  id: consignmentId,
  recyclerId,
  openedBy: personId,
  openedAt: moment,
  closedAt: moment.nullable(),
  packs: count,
  massG: z.number(),
};

export const consignmentAnswer = z.strictObject(consignmentShape).meta({ id: 'Consignment' });

export const consignmentPack = z
  .strictObject({
    packId,
    tag: z.string(),
    typeName: z.string(),
    chemistry,
    series: z.int(),
    massG: z.number(),
    wh: z.number(),
    apart: z.boolean(),
    charged: z
      .boolean()
      .optional()
      .describe('At storage charge; absent on lists signed before that was possible.'),
  })
  .describe('One line of a manifest. Mass and energy are as they were when it was signed.')
  .meta({ id: 'ConsignmentPack' });

export const consignmentDetails = z
  .strictObject({
    ...consignmentShape,
    lines: list(consignmentPack),
    closedBy: personId.nullable(),
    handedBy: z.string().nullable(),
    receivedBy: z.string().nullable(),
    receiptNumber: z.string().nullable(),
    receiptPhotoId: idOf<PhotoId>().nullable(),
    corrections: list(z.strictObject({ id: z.uuid(), at: moment, by: personId, text: z.string() })),
  })
  .meta({ id: 'ConsignmentDetails' });

export const endOfLifeAnswer = z
  .strictObject({
    waiting: list(todayItem).describe('Packs that wait for a decision, the oldest first.'),
    board: list(boardPack),
    containers: list(containerFill),
    consignments: list(consignmentAnswer),
  })
  .meta({ id: 'EndOfLife' });
