import { z } from 'zod';
import { PRESET_RULES, PRESETS, RULE_FIELDS, withRuleValue } from '../core/rules';
import type { HouseRules } from '../core/rules';
import { text } from './fields';

const PATHS = RULE_FIELDS.map(({ path }) => path) as [string, ...string[]];

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
  reason: text(1_000, 'The reason'),
});

/** The rule set a request asks for. */
export function rulesAsked({
  preset,
  changes,
}: Pick<z.output<typeof adoptRules>, 'preset' | 'changes'>): HouseRules {
  return changes.reduce<HouseRules>(
    (rules, { path, value }) => withRuleValue(rules, { path }, value),
    PRESET_RULES[preset],
  );
}
