export type { CurrentLimit, CurrentLimits, DecidedCurrent } from './chargeCurrent';
export { chargeCurrent } from './chargeCurrent';
export type { ChargeEstimate, ChargeJob } from './chargeTime';
export { chargeTime } from './chargeTime';
export type { DischargeEstimate, DischargeJob } from './dischargeTime';
export { dischargeTime } from './dischargeTime';
export { chargingMv } from './ocv';
export type { Load, StoragePlan } from './storagePlan';
export { storagePlan } from './storagePlan';
