export type { FloorRule, HouseRules, PresetName, StorageRule } from './houseRules';
export { PRESETS } from './houseRules';
export { DEFAULT_PRESET, PRESET_RULES, PRESET_TITLES } from './presets';
