export type { CraftFacts, CutOff, NamedCraft, Span } from './craft';
export { CUT_OFF_MODES, setupAt } from './craft';
export type { Discipline, LandedPack, LandingOf } from './discipline';
export { alikeGroups, discipline } from './discipline';
export type { FitAdapter, FitCheck, FitOutcome, FitPack } from './fit';
export { cutOffTask, fit, fitPackOf, worstOutcome } from './fit';
export type { CardPack, FlightCard } from './flightCard';
export { flightCard } from './flightCard';
export type { DayWant, HandOut, HandOutLine, HandOutPack, NotHandedOut } from './handOut';
export { handOut, notHandedOut } from './handOut';
export type { HoverStep, LandingTarget } from './hoverStep';
export { USUAL_STEP_MV, hoverStep, landingTarget } from './hoverStep';
export type { FlyingFacts, Landing, Out, Owed } from './landings';
export { flyingFacts, landingsOf } from './landings';
export type { LoadCheck } from './sums';
export {
  effectiveC,
  hoverOffMinutes,
  landingRestMv,
  loadCheck,
  lowestPunchPercent,
  sagMv,
  timerMinutes,
} from './sums';
