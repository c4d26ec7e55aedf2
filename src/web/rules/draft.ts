import { parseFigure } from '../../core/reading';
import { changedChecklists, checklistRefusals } from '../../core/inspection';
import type { Checklists, Occasion } from '../../core/inspection';
import {
  changedFields,
  PRESET_RULES,
  RULE_FIELDS,
  ruleRefusals,
  ruleValue,
  withRuleValue,
} from '../../core/rules';
import type { HouseRules, PresetName, RuleField, RuleValue } from '../../core/rules';
import { checklistRefusalSentence, ruleRefusalSentence, volts } from '../../core/wording';

/** What has been typed into the house rules: a preset to start from, and the fields typed over. */
export interface RulesDraft {
  /** The version it was made from: a newer one must not be overwritten unseen. */
  readonly basedOn: number;
  readonly preset: PresetName;
  readonly typed: Readonly<Record<string, string>>;
  /** The checklists as they are to be; absent while nobody changed them. */
  readonly checklists?: Checklists | undefined;
}

/** What a draft comes to: the rules, or null with what is wrong at each field. */
export interface DraftedRules {
  readonly rules: HouseRules | null;
  readonly errors: Readonly<Record<string, string>>;
  readonly changed: readonly RuleField[];
  /** The occasions whose checklists were changed. */
  readonly changedLists: readonly Occasion[];
}

/** A draft that says what the rules in force say. */
export function draftOf(rules: HouseRules, version: number): RulesDraft {
  return { basedOn: version, preset: rules.preset, typed: typedOver(PRESET_RULES[rules.preset], rules) };
}

/** A draft started from a preset, with nothing typed over it. */
export function startedFrom({ basedOn, checklists }: RulesDraft, preset: PresetName): RulesDraft {
  return { basedOn, preset, typed: {}, checklists };
}

function typedOver(preset: HouseRules, rules: HouseRules): Record<string, string> {
  return Object.fromEntries(
    changedFields(preset, rules).map((field) => [field.path, shown(field, ruleValue(rules, field))]),
  );
}

/** A value as its field shows it, without its unit. */
export function shown(field: RuleField, value: RuleValue): string {
  return field.kind === 'figure' && field.unit === 'V' && typeof value === 'number'
    ? volts(value)
    : String(value);
}

/** The text a field of the form shows: typed over, or the preset's. */
export function fieldText(draft: RulesDraft, field: RuleField): string {
  return draft.typed[field.path] ?? shown(field, ruleValue(PRESET_RULES[draft.preset], field));
}

export function drafted(draft: RulesDraft, inForce: HouseRules): DraftedRules {
  const errors: Record<string, string> = {};
  const checklists = draft.checklists ?? inForce.checklists;
  let rules: HouseRules = { ...PRESET_RULES[draft.preset], checklists };
  for (const field of RULE_FIELDS) {
    const text = draft.typed[field.path];
    if (text === undefined) continue;
    const value = understood(field, text);
    if (value === null) errors[field.path] = `“${text}” is no figure.`;
    else rules = withRuleValue(rules, field, value);
  }
  for (const why of ruleRefusals(rules)) errors[why.path] ??= ruleRefusalSentence(why);
  for (const why of checklistRefusals(checklists)) {
    const at = 'at' in why ? `.${why.at}` : '';
    errors[`checklists.${why.occasion}${at}`] ??= checklistRefusalSentence(why);
  }
  return {
    rules: Object.keys(errors).length === 0 ? rules : null,
    errors,
    changed: changedFields(inForce, rules),
    changedLists: changedChecklists(inForce.checklists, checklists),
  };
}

/** Volts are typed as on a meter: 3.80, 3,80, 380 or 3800. */
function understood(field: RuleField, text: string): RuleValue | null {
  if (field.kind === 'choice') return text;
  const typed = parseFigure(text);
  if (typed.outcome !== 'figure') return null;
  const { value } = typed;
  if (field.unit !== 'V') return value;
  if (value < 20) return Math.round(value * 1000);
  return Math.round(value < 1000 ? value * 10 : value);
}

/** What to send: the preset and where the rules differ from it. */
export function changesFromPreset(rules: HouseRules): { path: string; value: RuleValue }[] {
  return changedFields(PRESET_RULES[rules.preset], rules).map((field) => ({
    path: field.path,
    value: ruleValue(rules, field),
  }));
}
