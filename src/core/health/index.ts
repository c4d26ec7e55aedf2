export type { CapacityPoint } from './capacity';
export { AGREEING, healthShare } from './capacity';
export type { Outlook, Siblings, SiblingWear, WearShown } from './outlook';
export {
  alarmsOf,
  BY_TIME,
  below,
  daysToRetire,
  daysToRetireNew,
  outlooks,
  quantile,
  siblingsOf,
  wearShown,
  outlooksKept,
} from './outlook';
export type { Measured } from './measured';
export { measure } from './measured';
export type { OddCharge } from './oddCharges';
export type { Direction, Forecast } from './forecast';
export { forecast, trendBand } from './forecast';
export type { Point } from './points';
export { median, currentValue } from './points';
export type { CellStanding, Course, HealthReport, Measure, MeasureId } from './report';
export { cellsCompared, healthReport } from './report';
export type { CellFactor } from './resistance';
export { comparable } from './likeWithLike';
export {
  BASELINE_READINGS,
  apartIn,
  apartOf,
  growthOf,
  lastJump,
  meanResistance,
  mostApart,
  mostGrown,
  resistanceAt25,
} from './resistance';
export { runTimeLoss, runTimes } from './runTime';
export type { Spread } from './spread';
export { certainSocSpreadPercent, socSpreadPercent, spread } from './spread';
export type { NotEnough, Trend } from './trend';
export { trendOf } from './trend';
export type { Recurrence, WeakCell } from './weakCell';
export { cellDrift, recurrence, weakAfterUse } from './weakCell';
export { ageYears, cycles } from './wear';
