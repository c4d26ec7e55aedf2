export type {
  AppendAnswer,
  CalendarAnswer,
  ClockAnswer,
  DueGroup,
  HistoriesAnswer,
  InstrumentAnswer,
  LabelSheet,
  LiveMessage,
  MapArea,
  PackDetails,
  PackRow,
  PackTypeAnswer,
  PersonAnswer,
  PersonDetails,
  PlaceAnswer,
  RegisterAnswer,
  RoundAnswer,
  RoundDetails,
  RoundRow,
  RoundRowAnswer,
  RulesAnswer,
  RulesHistoryAnswer,
  RulesVersion,
  SessionAnswer,
  TodayAnswer,
  TodayItem,
} from './answers';
export { LABEL_SHEETS, PLACE_KINDS, TODAY_LIMIT } from './answers';
export type { FieldProblem, Problem, ProblemCode } from './problems';
export { problemCode, problemOf } from './problems';
export { appendRequest, roundRow } from './record';
export { adoptRules, rulesAsked } from './rules';
export {
  deliveryForm,
  instrumentForm,
  mapForm,
  packForm,
  packTypeForm,
  personForm,
  placeForm,
  receivePack,
  roundForm,
  setupForm,
  signInForm,
  version,
} from './register';
