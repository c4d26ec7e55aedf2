export type { ReadingCondition } from './condition';
export { DECIDES, READING_CONDITIONS, conditionHeld } from './condition';
export type { TypedVolts, VoltsRefusal } from './parseVolts';
export { parseVolts } from './parseVolts';
