import { CHEMISTRIES, LITHIUM_CHEMISTRIES } from '../chemistry';
import { RULE_FIELDS, ruleValue } from './fields';
import type { RuleField } from './fields';
import type { HouseRules } from './houseRules';

/** Why a rule set cannot be adopted, and at which field. */
export type RuleRefusal =
  | {
      readonly code: 'out-of-range';
      readonly path: string;
      readonly field: Extract<RuleField, { kind: 'figure' }>;
    }
  | { readonly code: 'not-whole'; readonly path: string }
  | { readonly code: 'not-a-choice'; readonly path: string; readonly options: readonly string[] }
  /** Two values stand in the wrong order; `than` names the field the other belongs to. */
  | { readonly code: 'not-below'; readonly path: string; readonly than: string };

/**
 * What is wrong with a rule set, field by field; nothing when it may be adopted. Every figure has limits that no school
 * would pass (a storage target outside its chemistry's safe range, a floor under the practice's), and pairs stand in order.
 */
export function ruleRefusals(rules: HouseRules): readonly RuleRefusal[] {
  const single = RULE_FIELDS.flatMap((field) => refusedValue(rules, field));
  const wrong = new Set(single.map(({ path }) => path));
  return [...single, ...refusedOrder(rules).filter(({ path }) => !wrong.has(path))];
}

function refusedValue(rules: HouseRules, field: RuleField): RuleRefusal[] {
  const value = ruleValue(rules, field);
  const { path } = field;
  if (field.kind === 'choice')
    return typeof value === 'string' && field.options.includes(value)
      ? []
      : [{ code: 'not-a-choice', path, options: field.options }];
  if (typeof value !== 'number' || !(value >= field.low && value <= field.high))
    return [{ code: 'out-of-range', path, field }];
  return field.whole && !Number.isInteger(value) ? [{ code: 'not-whole', path }] : [];
}

/** Pairs of which the first must be smaller. */
const RISING: readonly (readonly [string, string])[] = [
  ...LITHIUM_CHEMISTRIES.flatMap(
    (of) =>
      [
        [`storage.${of}.bandLowMv`, `storage.${of}.targetMv`],
        [`storage.${of}.targetMv`, `storage.${of}.bandHighMv`],
        [`storage.${of}.bandHighMv`, `topMv.${of}`],
        [`floors.${of}.damageMv`, `floors.${of}.overDischargeMv`],
        [`floors.${of}.overDischargeMv`, `floors.${of}.rechargeSoonMv`],
      ] as const,
  ),
  ...CHEMISTRIES.map((of) => [`floors.${of}.damageMv`, `floors.${of}.rechargeSoonMv`] as const),
  ...LITHIUM_CHEMISTRIES.map((of) => [`floors.${of}.rechargeSoonMv`, `storage.${of}.bandLowMv`] as const),
  ['spread.toleranceMv', 'spread.watchMv'],
  ['spread.watchMv', 'spread.retireMv'],
  ['health.weakCellMv.watch', 'health.weakCellMv.retire'],
  ['health.recurrence.times', 'health.recurrence.inCharges'],
  ['health.irGrowth.watch', 'health.irGrowth.retire'],
  ['health.irSiblings.watch', 'health.irSiblings.retire'],
  ['health.capacityPercent.retire', 'health.capacityPercent.watch'],
  ['health.runTimeLossPercent.watch', 'health.runTimeLossPercent.retire'],
  ['heat.useWatchC', 'heat.useHoldC'],
  ['heat.chargeWatchC', 'heat.chargeHoldC'],
  ['swelling.watchPercent', 'swelling.holdPercent'],
];
/** A band may begin or end at its target, and a house may watch for every one of so many charges. */
const MAY_BE_EQUAL = /targetMv|recurrence/;

function refusedOrder(rules: HouseRules): RuleRefusal[] {
  return RISING.flatMap(([lower, upper]) => {
    const low = ruleValue(rules, { path: lower }) as number;
    const high = ruleValue(rules, { path: upper }) as number;
    const equal = MAY_BE_EQUAL.test(lower) || MAY_BE_EQUAL.test(upper);
    return low < high || (equal && low === high)
      ? []
      : [{ code: 'not-below' as const, path: lower, than: upper }];
  });
}
