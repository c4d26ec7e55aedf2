import { z } from 'zod';
import type { CraftFacts } from '../../core/flying';
import type { CraftId } from '../../core/measure';
import { personId } from './people';
import { idOf, list, moment, outline, version } from './schema';

export const craftId = idOf<CraftId>();

export const craftAnswer = z
  .strictObject({
    id: craftId,
    version,
    name: z.string(),
    inUse: z.boolean().describe('False once it is sold or broken up.'),
    facts: outline<CraftFacts>({ costly: z.boolean() }),
    changes: list(
      z.strictObject({ at: moment, by: personId, what: z.string(), newBaseline: z.boolean() }),
    ).describe('What was done to it, oldest first; each new baseline begins another set-up.'),
  })
  .describe('A craft that packs are flown on.')
  .meta({ id: 'Craft' });
