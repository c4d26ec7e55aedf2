export type {
  AppendAnswer,
  ClockAnswer,
  HistoriesAnswer,
  InstrumentAnswer,
  LiveMessage,
  PackDetails,
  PackRow,
  PackTypeAnswer,
  PersonAnswer,
  PersonDetails,
  PlaceAnswer,
  RegisterAnswer,
  RulesAnswer,
  RulesHistoryAnswer,
  RulesVersion,
  SessionAnswer,
  TodayAnswer,
  TodayItem,
} from './answers';
export { PLACE_KINDS, TODAY_LIMIT } from './answers';
export type { FieldProblem, Problem, ProblemCode } from './problems';
export { problemCode, problemOf } from './problems';
export { appendRequest } from './record';
export { adoptRules, rulesAsked } from './rules';
export {
  instrumentForm,
  packForm,
  packTypeForm,
  personForm,
  placeForm,
  receivePack,
  setupForm,
  signInForm,
  version,
} from './register';
