export type { Felt } from './felt';
export { FELT } from './felt';
export type { ReadingCondition } from './condition';
export { DECIDES, READING_CONDITIONS, conditionHeld } from './condition';
export type { TypedVolts, VoltsRefusal } from './parseVolts';
export { parseVolts } from './parseVolts';
export type { TypedFigure } from './parseFigures';
export { parseCelsius, parseFigure, parseFigures, parseMah, parseMinutes } from './parseFigures';
