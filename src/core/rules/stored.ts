import { DEFAULT_CHECKLISTS, MEANINGS, PHOTO_NEEDS, checklistRefusals } from '../inspection';
import type { ChecklistItem, Checklists, Occasion } from '../inspection';
import { RULE_FIELDS, ruleValue, withRuleValue } from './fields';
import type { RuleValue } from './fields';
import { PRESETS } from './houseRules';
import type { HouseRules, PresetName } from './houseRules';
import { DEFAULT_PRESET, PRESET_RULES } from './presets';
import { ruleRefusals } from './refusals';

/** House rules as they were read from where they are kept, and which of them could not be read. */
export interface StoredRules {
  readonly rules: HouseRules;
  /** Where a value was no rule (`heat.useHoldC`, `checklists.crash`, `preset`) and the preset's stands in its place. */
  readonly mended: readonly string[];
}

/**
 * The gate through which every stored rule set comes back, whatever it holds. A rule that was written before another existed takes the
 * missing one from its preset; so does a value that is no rule, lies beyond what any school would choose, or stands in
 * the wrong order: a pack is never judged by a figure nobody could have adopted. What is not known here is left out.
 */
export function readRules(stored: unknown): StoredRules {
  const mended: string[] = [];
  const preset = presetOf(stored);
  if (preset === null) mended.push('preset');
  const base = PRESET_RULES[preset ?? DEFAULT_PRESET];
  let rules = { ...base, checklists: checklistsOf(stored, mended) };
  for (const { path } of RULE_FIELDS) {
    const value = valueAt(stored, path);
    if (value === undefined) continue;
    // A word for a figure and the like: {@link ruleRefusals} says so below.
    rules = withRuleValue(rules, { path }, value as RuleValue);
  }
  for (let wrong = wrongPaths(rules); wrong.length > 0; wrong = wrongPaths(rules)) {
    for (const path of wrong) rules = withRuleValue(rules, { path }, ruleValue(base, { path }));
    mended.push(...wrong.filter((path) => !mended.includes(path)));
  }
  return { rules, mended };
}

/**
 * Where a rule set cannot stand as it is: values by themselves first, since what is no figure has no order. The presets can stand, so
 * putting their values in comes to an end.
 */
function wrongPaths(rules: HouseRules): readonly string[] {
  const refusals = ruleRefusals(rules);
  const single = refusals.filter(({ code }) => code !== 'not-below');
  if (single.length > 0) return single.map(({ path }) => path);
  return refusals.flatMap((why) => (why.code === 'not-below' ? [why.path, why.than] : []));
}

function presetOf(stored: unknown): PresetName | null {
  const named = valueAt(stored, 'preset');
  return PRESETS.find((preset) => preset === named) ?? null;
}

/** What lies at a path of names, or undefined where it leads nowhere. Null stands for a value that is there and is none. */
function valueAt(stored: unknown, path: string): unknown {
  return path.split('.').reduce<unknown>((at, name) => {
    if (typeof at !== 'object' || at === null || Array.isArray(at)) return at === undefined ? at : null;
    return Object.hasOwn(at, name) ? (at as Readonly<Record<string, unknown>>)[name] : undefined;
  }, stored ?? null);
}

/** Occasion by occasion: a list that cannot stand is the practice's. */
function checklistsOf(stored: unknown, mended: string[]): Checklists {
  const told = Object.entries(DEFAULT_CHECKLISTS) as [Occasion, readonly ChecklistItem[]][];
  return Object.fromEntries(
    told.map(([occasion, practice]) => {
      const list = valueAt(stored, `checklists.${occasion}`);
      if (list === undefined) return [occasion, practice];
      if (isChecklist(list) && stands(occasion, list)) return [occasion, list];
      mended.push(`checklists.${occasion}`);
      return [occasion, practice];
    }),
  ) as unknown as Checklists;
}

function stands(occasion: Occasion, list: readonly ChecklistItem[]): boolean {
  return checklistRefusals({ ...DEFAULT_CHECKLISTS, [occasion]: list }).length === 0;
}

function isChecklist(list: unknown): list is readonly ChecklistItem[] {
  return Array.isArray(list) && list.every(isItem);
}

function isItem(item: unknown): item is ChecklistItem {
  if (typeof item !== 'object' || item === null) return false;
  const { key, asks, failMeans, photo } = item as Readonly<Record<string, unknown>>;
  return (
    typeof key === 'string' &&
    typeof asks === 'string' &&
    asks !== '' &&
    MEANINGS.some((meaning) => meaning === failMeans) &&
    PHOTO_NEEDS.some((need) => need === photo)
  );
}
