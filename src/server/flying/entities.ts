import { defineEntity, p } from '../platform/orm';
import type { CraftFacts } from '../../core/flying';
import type { CraftId } from '../../core/measure';

export const Craft = defineEntity({
  name: 'Craft',
  tableName: 'craft',
  properties: {
    id: p.uuid().primary().$type<CraftId>(),
    name: p.text(),
    inUse: p.boolean(),
    facts: p.json().$type<CraftFacts>(),
    version: p.integer().version(),
  },
});
