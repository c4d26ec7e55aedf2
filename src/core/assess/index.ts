export type { Assessment } from './assess';
export type { MayFly, Verdict } from './verdict';
export { MAY_FLY, VERDICTS, awaitsDecision, isOutOfUse } from './verdict';
export type { Charged } from './charged';
export { CHARGED } from './charged';
export type { Gravest } from './assess';
export { assess, outOfUseAt, storageUnder, verdictAfter, verdictUnder } from './assess';
export { changedParts, movesClock } from './changedParts';
export { isTrend, speaksAgainstUse, subjectOf } from './answered';
export { cardFor } from './card';
export type { Hold } from './holds';
export { endedHolds, openHold } from './holds';
export type { ReleaseNeed } from './release';
export { watchedUntil } from './release';
export type { RestedReading } from './caseFile';
export { restedReadings } from './caseFile';
export { fullDays } from './rules/longFull';
export type { DueTask, TaskKind } from './due';
export { TASK_KINDS, isTask } from './due';

export type {
  AnsweredBy,
  ChargeBreach,
  WrongSetting,
  FailedItem,
  Finding,
  LowCell,
  NextStep,
  RuleId,
  SettingSlip,
  Severity,
  StepKind,
} from './finding';
export type { Segment } from './timeline';
export { timeline } from './timeline';
export { END_STEPS, SEVERITIES, STEP_KINDS } from './finding';
export { memoryByRules } from './memoryByRules';
export type { MemoryByRules } from './memoryByRules';
export { RULE_FACTS } from './ruleFacts';
export type { RulesPart } from './ruleFacts';
export { readingStep } from './steps';
export { benchFacts } from './benchFacts';
export type { BenchFacts } from './benchFacts';
