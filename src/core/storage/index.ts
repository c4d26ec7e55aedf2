export type { BandSide } from './band';
export { bandSide } from './band';
export type { Beginning, Carried, CarryingRules, Contents, ContentsBasis, Stretch } from './carried';
export { CONTENTS_BASES, carriedForward, carry, contentsMv, leakedPercent } from './carried';
export type { RunningClock, StorageState } from './clock';
export {
  STORAGE_STATES,
  hoursOut,
  isCompliant,
  isOverdue,
  lastEndedClock,
  selfStoredAt,
  storageChanges,
  storageState,
} from './clock';
export type { HeldHours, StorageHours } from './compliance';
export { NO_HOURS, addHours, complianceShare, storageHours } from './compliance';
export type { RestedCells, StorageEvidence } from './evidence';
export { storageEvidence } from './evidence';
export type { FullTime, HeldExposure } from './exposure';
export { allowance } from './clock';
export { clippedFrom, clippedTo, exposureByHolder, exposureDays, fullTimeBetween } from './exposure';
export type { StorageJob } from './job';
export { storageJob } from './job';
export type { NextUseAdvice } from './nextUse';
export { nextUse } from './nextUse';
