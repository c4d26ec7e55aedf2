export type { ClockStanding, EffectSums, RuleEffect, Standing, Told } from './compare';
export { effectOn, standingAfter, standingTold, standingUnder, sumsOf } from './compare';
