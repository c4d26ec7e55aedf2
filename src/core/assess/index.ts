export type { Assessment, MayFly, Verdict } from './assess';
export { VERDICTS, assess, isOutOfUse } from './assess';
export type { RestedReading } from './caseFile';
export { restedReadings } from './caseFile';
export type { DueTask, TaskKind } from './due';
export { isTask } from './due';

export type {
  FailedItem,
  Finding,
  LowCell,
  NextStep,
  RuleId,
  SettingSlip,
  Severity,
  StepKind,
} from './finding';
export { STEP_KINDS } from './finding';
export { readingStep } from './steps';
