export type { RecordRefusal } from './admit';
export { isCorrectable, refusalsOf } from './admit';
export type { Circumstances, PlaceUse } from './circumstances';
export { CLOCK_SLACK_MS } from './clockSlack';
export { answersTo, watchWanted } from './decisions';
export type { RecoveryLack } from './recovery';
export { RECOVERY_LACKS, recoveryLacks } from './recovery';
export { takesOutOfUse } from './use';
