export type { ClockStanding, EffectSums, RuleEffect, Standing } from './compare';
export { effectOn, standingTold, standingUnder, sumsOf } from './compare';
