export type { ClockStanding, EffectSums, RuleEffect } from './compare';
export { effectOn, sumsOf } from './compare';
