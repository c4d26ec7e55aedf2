import type { IncidentKind } from '../incident';
import type { HouseRules } from '../rules';
import type { RuleId } from './finding';

/** A part of the house rules; of the large ones, their own parts. */
export type RulesPart = Exclude<keyof HouseRules, 'health'> | `health.${keyof HouseRules['health']}`;

/** What the judgement makes of the findings of one rule, apart from the judging itself. */
export interface RuleFacts {
  /**
   * Whether it can take a pack out of use, and by what: an event, which a look and a reading made after it answer; a lasting fact, which
   * stands until a person decides; or how figures went over time. Absent for a rule that never does.
   */
  readonly takesOut?: 'event' | 'lasting' | 'trend';
  /** A lasting fact that wants a look and a reading made after it too. */
  readonly answeredByLook?: true;
  /** Whether it looks at the time, or at what the pack holds by then; the others say the same at every moment. */
  readonly timed?: true;
  /** What it wants before the pack may fly. */
  readonly beforeFlying?: 'measure' | 'look';
  /** It asks for charger work or for routine, which nobody may do on a pack that is out of use: not said of one. */
  readonly asks?: 'hands' | 'routine';
  /** The parts of the house rules it goes by, itself or by what it is judged from: where none of them changes, it finds the same. */
  readonly reads: readonly RulesPart[];
  /** A charge that may still do its harm: the pack lies outdoors overnight. */
  readonly abnormalCharge?: true;
  /** The incident the records alone tell of, whose immediate-action card it calls for while it takes the pack out of use. */
  readonly card?: IncidentKind;
}

/** What says which readings may decide. */
const RESTED = ['restMinutes'] as const;
/** What a pack holds, its capacity and the charges that cannot be right are worked out by. */
const MEASURED = [...RESTED, 'storage', 'bleedDays', 'charge', 'flight'] as const;
/** What its storage clock goes by. */
export const CLOCK_READS = [...MEASURED, 'allowance', 'idle'] as const;

/** Every rule there is, in the order in which equally grave findings are told. A rule without an entry does not compile. */
export const RULE_FACTS: Readonly<Record<RuleId, RuleFacts>> = {
  incident: { takesOut: 'lasting', answeredByLook: true, reads: ['afterCrash', 'incidents'] },
  'second-name': { takesOut: 'lasting', reads: [] },
  recovery: { takesOut: 'lasting', reads: ['recovery'] },
  'held-by-hand': { takesOut: 'event', reads: [] },
  swollen: { takesOut: 'event', card: 'swelling', reads: ['swelling'] },
  'inspection-failed': { takesOut: 'event', reads: ['checklists', 'heat', 'swelling'] },
  'over-discharged': {
    takesOut: 'lasting',
    card: 'over-discharged',
    reads: [...RESTED, 'floors', 'overDischarged', 'recovery'],
  },
  'damage-floor': {
    takesOut: 'lasting',
    card: 'over-discharged',
    reads: [...RESTED, 'floors', 'overDischarged', 'recovery'],
  },
  overfull: {
    takesOut: 'event',
    abnormalCharge: true,
    card: 'overcharged',
    reads: [...RESTED, 'overfullHoldMv', 'charge'],
  },
  'wrong-setting': {
    takesOut: 'event',
    abnormalCharge: true,
    card: 'overcharged',
    reads: [...MEASURED, 'topMv'],
  },
  'charge-implausible': { takesOut: 'event', abnormalCharge: true, card: 'overcharged', reads: MEASURED },
  'hot-use': { takesOut: 'event', card: 'overheated', reads: [...RESTED, 'heat'] },
  'hot-charge': { takesOut: 'event', abnormalCharge: true, card: 'hot-charging', reads: [...RESTED, 'heat'] },
  'over-discharge-event': { reads: [...RESTED, 'floors'] },
  'recharge-soon': { timed: true, asks: 'hands', reads: [...CLOCK_READS, 'floors'] },
  cooling: { beforeFlying: 'look', asks: 'hands', reads: ['heat', 'checklists'] },
  unmeasured: { timed: true, beforeFlying: 'measure', reads: CLOCK_READS },
  'not-known': {
    timed: true,
    beforeFlying: 'measure',
    asks: 'hands',
    reads: [...CLOCK_READS, 'health.unknownDays'],
  },
  'field-charged': { timed: true, asks: 'hands', reads: CLOCK_READS },
  'self-storing': { timed: true, asks: 'hands', reads: [...CLOCK_READS, 'floors'] },
  'storage-high': { timed: true, asks: 'hands', reads: [...CLOCK_READS, 'floors'] },
  'storage-low': { timed: true, asks: 'hands', reads: [...CLOCK_READS, 'floors'] },
  'storage-pending': { timed: true, asks: 'hands', reads: CLOCK_READS },
  'written-late': { asks: 'hands', reads: [...CLOCK_READS, 'floors'] },
  spread: { takesOut: 'trend', reads: [...RESTED, 'spread'] },
  'weak-cell': { takesOut: 'trend', reads: [...RESTED, 'spread', 'health.weakCellMv'] },
  'cell-drift': { reads: [...RESTED, 'spread'] },
  'weakest-again': { takesOut: 'trend', reads: [...RESTED, 'spread', 'health.recurrence'] },
  'charge-failed': { takesOut: 'trend', reads: ['spread', 'charge', 'health.failedBalances'] },
  'shelf-loss': { timed: true, reads: [...MEASURED, 'unlogged', 'health.leakPercentAWeek'] },
  'resistance-growth': { takesOut: 'trend', reads: [...MEASURED, 'health.irGrowth'] },
  'resistance-siblings': { takesOut: 'trend', reads: [...MEASURED, 'health.irSiblings'] },
  'resistance-jump': { reads: [...MEASURED, 'health.irJumpPercent'] },
  capacity: { takesOut: 'trend', reads: [...MEASURED, 'health.capacityPercent', 'health.irGrowth'] },
  'run-time': { takesOut: 'trend', reads: ['flight', 'health.runTimeLossPercent'] },
  'wears-faster': { timed: true, reads: [...MEASURED, 'health.capacityPercent', 'health.irGrowth'] },
  'not-as-delivered': { timed: true, reads: [...RESTED, 'returnDays', 'arrivalMv', 'spread', 'storage'] },
  'long-full': { timed: true, reads: [...MEASURED, 'shelfC', 'health.fullDaysAYear'] },
  cycles: { reads: ['flight', 'health.cycles'] },
  age: { timed: true, reads: ['health.ageYears'] },
  'landed-low': { reads: MEASURED },
  'two-hands': { reads: [] },
  'deep-use': { asks: 'hands', reads: MEASURED },
  'charge-habits': { asks: 'hands', reads: ['charge', 'flight', 'topMv', 'seasonStartDays'] },
  'balance-due': { asks: 'hands', reads: ['charge', 'spread'] },
  'smart-settings': { asks: 'hands', reads: ['allowance', 'charge', 'storage', 'topMv', 'bleedDays'] },
  'memory-unread': { asks: 'hands', reads: [] },
  'own-faults': { asks: 'hands', reads: [] },
  'cold-use': { asks: 'hands', reads: ['flight'] },
  'not-rested': { asks: 'hands', reads: RESTED },
  unlogged: { reads: [...RESTED, 'unlogged'] },
  'inspection-asked': { beforeFlying: 'look', reads: [] },
  'long-rest': { timed: true, beforeFlying: 'look', asks: 'routine', reads: ['seasonStartDays'] },
  'baseline-missing': { asks: 'routine', reads: ['baselineDays'] },
  'nimh-top-up': { timed: true, asks: 'routine', reads: ['nimhTopUpDays'] },
  'inspection-due': { timed: true, asks: 'routine', reads: ['inspectionDays', 'seasonStartDays'] },
  idle: { timed: true, asks: 'routine', reads: [...RESTED, 'idle'] },
};
