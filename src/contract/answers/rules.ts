import { z } from 'zod';
import { VERDICTS } from '../../core/assess';
import { PRESET_RULES, PRESETS } from '../../core/rules';
import type { HouseRules } from '../../core/rules';
import { personId } from './people';
import { count, list, moment, version } from './schema';

/** House rules as the presets are built: the same branches; at a leaf a figure, a choice, or none. */
const houseRules = branch({ ...PRESET_RULES['even-keel'], preset: '' })
  .safeExtend({ preset: z.enum(PRESETS) })
  .meta({ id: 'HouseRules' }) as unknown as z.ZodType<HouseRules>;

function branch(like: object): z.ZodObject {
  return z.strictObject(Object.fromEntries(Object.entries(like).map(([key, value]) => [key, node(value)])));
}

function node(like: unknown): z.ZodType {
  if (Array.isArray(like)) return z.array(z.looseObject({}));
  if (typeof like === 'object' && like !== null) return branch(like);
  return z.union([z.number(), z.string(), z.boolean(), z.null()]);
}

export const rulesAnswer = z
  .strictObject({ version, rules: houseRules, adoptedAt: moment })
  .meta({ id: 'Rules' });

export const rulesVersion = z
  .strictObject({
    ...rulesAnswer.shape,
    adoptedBy: personId.nullable(),
    reason: z.string(),
    mended: list(z.string()).describe(
      'What of it could not be read, by path, and stands as its preset has it.',
    ),
    moved: list(z.strictObject({ was: z.enum(VERDICTS), became: z.enum(VERDICTS), packs: count })).describe(
      'How many packs it moved from one verdict to another when the register was judged anew under it.',
    ),
  })
  .describe('One adopted rule set, with who adopted it and why; the register’s first has nobody.')
  .meta({ id: 'RulesVersion' });

export const rulesHistoryAnswer = z
  .strictObject({
    versions: list(rulesVersion).describe('Newest first.'),
    judged: count.describe('How many of the packs have been judged under the newest.'),
    packs: count,
  })
  .meta({ id: 'RulesHistory' });
