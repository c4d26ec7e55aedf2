export type {
  AppendAnswer,
  ClockAnswer,
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
  SessionAnswer,
  TodayAnswer,
  TodayItem,
} from './answers';
export { PLACE_KINDS, TODAY_LIMIT } from './answers';
export type { FieldProblem, Problem, ProblemCode } from './problems';
export { problemCode, problemOf } from './problems';
export { appendRequest } from './record';
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
