export type { Assessment, MayFly, Verdict } from './assess';
export { VERDICTS, assess, awaitsDecision, isOutOfUse } from './assess';
export { isTrend, speaksAgainstUse } from './answered';
export type { ReleaseNeed } from './release';
export type { RestedReading } from './caseFile';
export { restedReadings } from './caseFile';
export type { DueTask, TaskKind } from './due';
export { isTask } from './due';

export type {
  AnsweredBy,
  FailedItem,
  Finding,
  LowCell,
  NextStep,
  RuleId,
  SettingSlip,
  Severity,
  StepKind,
} from './finding';
export { END_STEPS, STEP_KINDS } from './finding';
export { readingStep } from './steps';
