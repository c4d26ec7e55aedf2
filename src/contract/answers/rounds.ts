import { z } from 'zod';
import { ROUND_KINDS, ROW_OUTCOMES } from '../../core/rounds';
import type { RoundId } from '../../core/measure';
import { appendAnswer, packId } from './packs';
import { personId } from './people';
import { placeId } from './register';
import { count, idOf, list, moment } from './schema';

export const roundId = idOf<RoundId>();

const roundShape = {
  id: roundId,
  kind: z.enum(ROUND_KINDS),
  title: z.string(),
  checklist: z.boolean(),
  placeId: placeId.nullable(),
  fliesAt: moment.nullable(),
  startedBy: personId,
  startedAt: moment,
  closedAt: moment.nullable(),
  packs: count,
  worked: count,
};

export const roundAnswer = z
  .strictObject(roundShape)
  .describe('A round through many packs, and how far it has come.')
  .meta({ id: 'Round' });

export const roundRow = z
  .strictObject({
    packId,
    outcome: z.enum(ROW_OUTCOMES).nullable().describe('Null while it is open.'),
    by: personId.nullable(),
    at: moment.nullable(),
    reason: z.string().nullable(),
  })
  .meta({ id: 'RoundRow' });

export const roundDetails = z
  .strictObject({
    ...roundShape,
    rows: list(roundRow).describe('In the order they are worked through.'),
  })
  .meta({ id: 'RoundDetails' });

export const roundRowAnswer = z
  .strictObject({ ...appendAnswer.shape, row: roundRow })
  .meta({ id: 'RoundRowKept' });
