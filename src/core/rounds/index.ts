export type { Candidate, RoundKind, RowOutcome } from './kinds';
export { ROUND_KINDS, ROUND_OCCASION, ROW_OUTCOMES, belongs } from './kinds';
export type { LookStep, SeasonState } from './seasonStart';
export { lookSteps, seasonState, stopsLooking } from './seasonStart';
export type { Unusual } from './unusual';
export { unusual } from './unusual';
export type { Pressing } from './urgency';
export { byUrgency, isPressing } from './urgency';
