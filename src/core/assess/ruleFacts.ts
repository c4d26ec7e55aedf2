import type { IncidentKind } from '../incident';
import type { RuleId } from './finding';

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
  /** A charge that may still do its harm: the pack lies outdoors overnight. */
  readonly abnormalCharge?: true;
  /** The incident the records alone tell of, whose immediate-action card it calls for while it takes the pack out of use. */
  readonly card?: IncidentKind;
}

/** Every rule there is, in the order in which equally grave findings are told. A rule without an entry does not compile. */
export const RULE_FACTS: Readonly<Record<RuleId, RuleFacts>> = {
  incident: { takesOut: 'lasting', answeredByLook: true },
  'second-name': { takesOut: 'lasting' },
  recovery: { takesOut: 'lasting' },
  'held-by-hand': { takesOut: 'event' },
  swollen: { takesOut: 'event', card: 'swelling' },
  'inspection-failed': { takesOut: 'event' },
  'over-discharged': { takesOut: 'lasting', card: 'over-discharged' },
  'damage-floor': { takesOut: 'lasting', card: 'over-discharged' },
  overfull: { takesOut: 'event', abnormalCharge: true, card: 'overcharged' },
  'wrong-setting': { takesOut: 'event', abnormalCharge: true, card: 'overcharged' },
  'charge-implausible': { takesOut: 'event', abnormalCharge: true, card: 'overcharged' },
  'hot-use': { takesOut: 'event', card: 'overheated' },
  'hot-charge': { takesOut: 'event', abnormalCharge: true, card: 'hot-charging' },
  'over-discharge-event': {},
  'recharge-soon': { timed: true, asks: 'hands' },
  cooling: { beforeFlying: 'look', asks: 'hands' },
  unmeasured: { timed: true, beforeFlying: 'measure' },
  'not-known': { timed: true, beforeFlying: 'measure', asks: 'hands' },
  'field-charged': { timed: true, asks: 'hands' },
  'self-storing': { timed: true, asks: 'hands' },
  'storage-high': { timed: true, asks: 'hands' },
  'storage-low': { timed: true, asks: 'hands' },
  'storage-pending': { timed: true, asks: 'hands' },
  'written-late': { asks: 'hands' },
  spread: { takesOut: 'trend' },
  'weak-cell': { takesOut: 'trend' },
  'cell-drift': {},
  'weakest-again': { takesOut: 'trend' },
  'charge-failed': { takesOut: 'trend' },
  'shelf-loss': { timed: true },
  'resistance-growth': { takesOut: 'trend' },
  'resistance-siblings': { takesOut: 'trend' },
  'resistance-jump': {},
  capacity: { takesOut: 'trend' },
  'run-time': { takesOut: 'trend' },
  'wears-faster': { timed: true },
  'not-as-delivered': { timed: true },
  'long-full': { timed: true },
  cycles: {},
  age: { timed: true },
  'landed-low': {},
  'two-hands': {},
  'deep-use': { asks: 'hands' },
  'charge-habits': { asks: 'hands' },
  'balance-due': { asks: 'hands' },
  'smart-settings': { asks: 'hands' },
  'memory-unread': { asks: 'hands' },
  'own-faults': { asks: 'hands' },
  'cold-use': { asks: 'hands' },
  'not-rested': { asks: 'hands' },
  unlogged: {},
  'inspection-asked': { beforeFlying: 'look' },
  'long-rest': { timed: true, beforeFlying: 'look', asks: 'routine' },
  'baseline-missing': { asks: 'routine' },
  'nimh-top-up': { timed: true, asks: 'routine' },
  'inspection-due': { timed: true, asks: 'routine' },
  idle: { timed: true, asks: 'routine' },
};
