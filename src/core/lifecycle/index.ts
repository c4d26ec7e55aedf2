export type { DisposalPayload, DisposalStep, DrainLoad, DrainPlace, Life, LifeState } from './life';
export {
  DRAIN_PLACES,
  FLAT_MV,
  IN_SERVICE,
  LIFE_STATES,
  isInService,
  lifeAfterRetirement,
  lifeAfterSecondName,
  lifeAfterStep,
  stateAfter,
  stepsFrom,
} from './life';
export type { Total } from './totals';
export { totalOf, totalsByChemistry } from './totals';
export type { Action, Actor, Role } from './permissions';
export { ACTIONS, ROLES, mayDo } from './permissions';
