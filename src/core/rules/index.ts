export type { FloorRule, HouseRules, Lines, PresetName, StorageRule } from './houseRules';
export { PRESETS } from './houseRules';
export { DEFAULT_PRESET, PRESET_RULES, PRESET_TITLES } from './presets';
export type { StoredRules } from './stored';
export { readRules } from './stored';
export type { RuleField, RuleTopic, RuleUnit, RuleValue } from './fields';
export { RULE_FIELDS, RULE_TOPICS, changedFields, ruleValue, withRuleValue } from './fields';
export type { RuleRefusal } from './refusals';
export { ruleRefusals } from './refusals';
