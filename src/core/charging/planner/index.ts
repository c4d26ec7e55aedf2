export { proveBound } from './bound';
export { READY_MINUTES } from './build';
export type { Bound, Solve } from './bound';
export { demandOf } from './demand';
export type { BenchPack, Demand, FlyingDay, LeftCharged } from './demand';
export { BARS, JOB_KINDS } from './input';
export type {
  Attended,
  Bar,
  Berth,
  JobKind,
  LastSetting,
  Need,
  PlanInput,
  PlanPack,
  RunningJob,
} from './input';
export { boundFor, Planning } from './plan';
export type { LeftOut, Plan, PlannedJob } from './plan';
export type { Elsewhere, Lift, Reason } from './explain';
export type { Wishes } from './wishes';
