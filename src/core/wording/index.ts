export {
  TOPIC_TEXTS,
  effectWords,
  mendedWords,
  movedWords,
  ruleRefusalSentence,
  ruleValueWords,
} from './ruleFields';
export type { RuleText } from './ruleTexts';
export { RULE_TEXTS, ruleTitle } from './ruleTexts';
export type { Figure } from './figuresOf';
export { figuresOf } from './figuresOf';
export { ampHours, amps, capacity, charge, durationWords, ohms, plural, volts } from './figures';
export {
  ANSWER_WORDS,
  MEANING_WORDS,
  OCCASION_WORDS,
  SWELLING_WORDS,
  checklistRefusalSentence,
} from './inspection';
export { oddFigureQuestion, recordRefusalSentence, voltsRefusalSentence } from './refusal';
export { sentence } from './sentence';
export { basisWords } from './statement';
export { FELT_WORDS } from './felt';
export { inTheWay } from './advice';
export { CHARGED_WORDS, MAY_FLY_WORDS, STEP_WORDS, STORAGE_WORDS, VERDICT_WORDS } from './step';
export {
  MEASURE_TITLES,
  forecastWords,
  measureValue,
  monthWords,
  nextUseWords,
  retirementSentence,
  trendSentence,
} from './trend';
export type { Reader } from './time';
export { clockWords, dayWords, dueWords, span, whenWords, writtenLater } from './time';
export {
  OUTCOME_WORDS,
  ROUND_WORDS,
  seasonWords,
  storagePlanCaution,
  storagePlanWords,
  stowageWarningWords,
  unusualQuestion,
} from './rounds';
export { fitSentence, hoverStepSentence, notHandedOutSentence } from './flying';
export { labelLines } from './label';
export type { IncidentWords } from './incident';
export type { LogNames } from './incidentLog';
export { entryWords } from './incidentLog';
export { CAUSE_WORDS, DEFERS, INCIDENT_WORDS, entryRefusalSentence } from './incident';
export {
  disposalLine,
  DRAIN_PLACE_WORDS,
  LIFE_WORDS,
  drainRefusalSentence,
  lackWords,
  needSentence,
} from './lifecycle';
export { KIND_WORDS } from './record';
export { ROLE_WORDS } from './roles';
export { LOG_FAULTS, LOG_FIELD_WORDS } from './chargeLog';
export { complaintSentence } from './fleet';
export type { Names, RecordLine } from './recordLine';
export { ENDING_WORDS, MEMORY_SETTING_WORDS, MODE_WORDS, RECOVERY_WORDS, recordLine } from './recordLine';
export {
  GATE_WORDS,
  JOB_WORDS,
  SETTING_WORDS,
  gateRefusalSentence,
  leftOutSentence,
  liftSentence,
  reasonSentence,
  settingValue,
} from './charging';
export { alarmSentence, offerSentence, patternFaultSentence, PHASE_WORDS } from './instruments';
