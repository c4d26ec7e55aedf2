export type { CurrentLimit, CurrentLimits, DecidedCurrent } from './chargeCurrent';
export { chargeCurrent } from './chargeCurrent';
export type { ChargeEstimate, ChargeJob } from './chargeTime';
export { chargeTime } from './chargeTime';
export type { DischargeEstimate, DischargeJob } from './dischargeTime';
export { dischargeTime } from './dischargeTime';
export type { DrainAnswer, DrainPlan, DrainRefusal } from './drain';
export { currentAt, drainPlan } from './drain';
export type {
  Adapter,
  Board,
  Channel,
  Charger,
  Equipment,
  EquipmentFacts,
  EquipmentKind,
  ErrorText,
  ExternalLoad,
  SettingField,
  SharedLimit,
  StorageDirection,
  Supply,
  SupplyKind,
} from './equipment';
export {
  CHARGER_EFFICIENCY,
  EQUIPMENT_KINDS,
  SETTING_FIELDS,
  STORAGE_DIRECTIONS,
  SUPPLY_KINDS,
} from './equipment';
export type { AtTheStart, GateAnswers, GateQuestion, GateRefusal } from './gate';
export { attendedUntil, detectsCells, gateQuestions, gateRefusals, isHard } from './gate';
export { equalisingAmps, slotReadings } from './groups';
export * from './curve';
export { chargingMv } from './ocv';
export type { CheckedJob } from './planFaults';
export { planFaults } from './planFaults';
export * from './planner';
export type { ChargerSetting, SettingChange } from './setting';
export { settingChanges } from './setting';
export type { Load, StoragePlan } from './storagePlan';
export { storagePlan } from './storagePlan';
export type { Watch } from './watch';
export { watchOf } from './watch';
