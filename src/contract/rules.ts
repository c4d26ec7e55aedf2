import { z } from 'zod';
import { MEANINGS, OCCASIONS, PHOTO_NEEDS } from '../core/inspection';
import type { ChecklistItem, Occasion } from '../core/inspection';
import { PRESET_RULES, PRESETS, RULE_FIELDS, withRuleValue } from '../core/rules';
import type { HouseRules } from '../core/rules';
import { itemKey, line, text } from './fields';

const PATHS = RULE_FIELDS.map(({ path }) => path) as [string, ...string[]];

const checklists = z.strictObject(
  Object.fromEntries(
    OCCASIONS.map((occasion) => [
      occasion,
      z.array(
        z.strictObject({
          key: itemKey,
          asks: line(80, 'The item'),
          failMeans: z.enum(MEANINGS, 'Choose what a failure means.'),
          photo: z.enum(PHOTO_NEEDS, 'Choose when a photo is needed.'),
        }),
      ),
    ]),
  ) as unknown as Record<Occasion, z.ZodType<ChecklistItem[]>>,
);

/** New house rules: a preset and what differs from it. `basedOn` is the version they were made from. */
export const adoptRules = z.strictObject({
  basedOn: z.int('The version is missing.').min(1),
  preset: z.enum(PRESETS, 'Choose a preset to start from.'),
  changes: z
    .array(
      z.strictObject({
        path: z.enum(PATHS, 'This rule is not known here.'),
        value: z.union([z.number(), z.string().max(60)], 'A value is a figure or a choice.'),
      }),
    )
    .max(PATHS.length, 'More changes than there are rules.'),
  /** The checklists, whole; left out, they stay as they are. */
  checklists: checklists.optional(),
  reason: text(1_000, 'The reason'),
});

/** The rule set a request asks for; checklists it does not name stay as they are. */
export function rulesAsked(
  {
    preset,
    changes,
    checklists: lists,
  }: Pick<z.output<typeof adoptRules>, 'preset' | 'changes' | 'checklists'>,
  inForce: Pick<HouseRules, 'checklists'>,
): HouseRules {
  return changes.reduce<HouseRules>((rules, { path, value }) => withRuleValue(rules, { path }, value), {
    ...PRESET_RULES[preset],
    checklists: lists ?? inForce.checklists,
  });
}
