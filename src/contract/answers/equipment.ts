import { z } from 'zod';
import { EQUIPMENT_KINDS } from '../../core/charging';
import type { EquipmentFacts } from '../../core/charging';
import type { EquipmentId } from '../../core/measure';
import { idOf, outline, version } from './schema';

export const equipmentId = idOf<EquipmentId>();

export const equipmentAnswer = z
  .strictObject({
    id: equipmentId,
    version,
    name: z.string(),
    inUse: z.boolean().describe('Out of the cupboard: a plan counts on it.'),
    facts: outline<EquipmentFacts>({ kind: z.enum(EQUIPMENT_KINDS) }),
  })
  .describe('A charger, load, board, adapter or supply of the bench.')
  .meta({ id: 'Equipment' });
