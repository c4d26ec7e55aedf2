export type { BandSide } from './band';
export { bandSide } from './band';
export type { RestedCells, RunningClock, StorageState } from './clock';
export { hoursOut, isCompliant, isOverdue, storageState } from './clock';
export type { StorageJob } from './job';
export { storageJob } from './job';
