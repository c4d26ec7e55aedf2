export type { Alarm, ChargeCourseNow, ChargePhase, ChargerSays, Expected, SaidSetting } from './course';
export { chargeNow, endingOfCurve, lastWorking } from './course';
export type { LogFault, LogField, LogForm, LogMatching, LogRead, TimeUnit } from './log';
export {
  guessedLog,
  LOG_DECIMALS,
  LOG_FIELDS,
  logDecimalsOf,
  LogReader,
  MOST_POINTS,
  TIME_UNITS,
  timeUnitOf,
} from './log';
export type { Measured } from './measured';
export { capacityFromCurve, resistanceFromCurve } from './measured';
export { packedCurve, unpackedCurve } from './packed';
export type { CurvePoint, KeptCurve } from './point';
export { curveWith, EMPTY_CURVE, pointsOf } from './point';
