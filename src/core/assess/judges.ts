import type { CaseFile } from './caseFile';
import type { Finding, RuleId } from './finding';
import { RULE_FACTS } from './ruleFacts';
import type { RulesPart } from './ruleFacts';
import { balanceDue } from './rules/balanceDue';
import { baselineMissing } from './rules/baselineMissing';
import { capacity } from './rules/capacity';
import { chargeFailed } from './rules/chargeFailed';
import { cellDrift } from './rules/cellDrift';
import { chargeHabits } from './rules/chargeHabits';
import { chargeImplausible } from './rules/chargeImplausible';
import { cooling } from './rules/cooling';
import { damageFloor } from './rules/damageFloor';
import { fieldCharged } from './rules/fieldCharged';
import { coldUse, deepUse } from './rules/flightHabits';
import { hotCharge, hotUse } from './rules/heat';
import { heldByHand } from './rules/heldByHand';
import { idle } from './rules/idle';
import { incident } from './rules/incident';
import { inspectionAsked } from './rules/inspectionAsked';
import { inspectionDue } from './rules/inspectionDue';
import { inspectionFailed } from './rules/inspectionFailed';
import { landedLow } from './rules/landedLow';
import { longFull } from './rules/longFull';
import { longRest } from './rules/longRest';
import { nimhTopUp } from './rules/nimhTopUp';
import { notAsDelivered } from './rules/notAsDelivered';
import { notKnown } from './rules/notKnown';
import { notRested } from './rules/notRested';
import { overDischargeEvent } from './rules/overDischargeEvent';
import { overDischarged } from './rules/overDischarged';
import { overfull } from './rules/overfull';
import { recovery } from './rules/recovery';
import { rechargeSoon } from './rules/rechargeSoon';
import { resistanceGrowth, resistanceJump, resistanceSiblings } from './rules/resistance';
import { runTime } from './rules/runTime';
import { secondName } from './rules/secondName';
import { shelfLoss } from './rules/shelfLoss';
import { memoryUnread } from './rules/memoryUnread';
import { ownFaults } from './rules/ownFaults';
import { smartSettings } from './rules/smartSettings';
import { spreadRule } from './rules/spreadRule';
import { storageBand } from './rules/storageBand';
import { storagePending } from './rules/storagePending';
import { swollen } from './rules/swollen';
import { twoHands } from './rules/twoHands';
import { unlogged } from './rules/unlogged';
import { unmeasured } from './rules/unmeasured';
import { weakCell } from './rules/weakCell';
import { weakestAgain } from './rules/weakestAgain';
import { age, cycleCount } from './rules/wear';
import { wearsFaster } from './rules/wearsFaster';
import { writtenLate } from './rules/writtenLate';
import { wrongSetting } from './rules/wrongSetting';

/** Judges one rule: what it finds in a pack, or nothing. */
export type Judge = (file: CaseFile) => readonly Finding[];

/** One judge a rule; where several rules are judged at once, the others name the one that does it. A rule without an entry does not compile. */
const JUDGES: Readonly<Record<RuleId, Judge | RuleId>> = {
  incident,
  'second-name': secondName,
  recovery,
  'held-by-hand': heldByHand,
  swollen,
  'inspection-failed': inspectionFailed,
  'over-discharged': overDischarged,
  'damage-floor': damageFloor,
  overfull,
  'wrong-setting': wrongSetting,
  'charge-implausible': chargeImplausible,
  'hot-use': hotUse,
  'hot-charge': hotCharge,
  'over-discharge-event': overDischargeEvent,
  'recharge-soon': rechargeSoon,
  cooling,
  unmeasured,
  'not-known': notKnown,
  'field-charged': fieldCharged,
  'self-storing': storageBand,
  'storage-high': 'self-storing',
  'storage-low': 'self-storing',
  'storage-pending': storagePending,
  'written-late': writtenLate,
  spread: spreadRule,
  'weak-cell': weakCell,
  'cell-drift': cellDrift,
  'weakest-again': weakestAgain,
  'charge-failed': chargeFailed,
  'shelf-loss': shelfLoss,
  'resistance-growth': resistanceGrowth,
  'resistance-siblings': resistanceSiblings,
  'resistance-jump': resistanceJump,
  capacity,
  'run-time': runTime,
  'wears-faster': wearsFaster,
  'not-as-delivered': notAsDelivered,
  'long-full': longFull,
  cycles: cycleCount,
  age,
  'landed-low': landedLow,
  'two-hands': twoHands,
  'deep-use': deepUse,
  'charge-habits': chargeHabits,
  'balance-due': balanceDue,
  'smart-settings': smartSettings,
  'memory-unread': memoryUnread,
  'own-faults': ownFaults,
  'cold-use': coldUse,
  'not-rested': notRested,
  unlogged,
  'inspection-asked': inspectionAsked,
  'long-rest': longRest,
  'baseline-missing': baselineMissing,
  'nimh-top-up': nimhTopUp,
  'inspection-due': inspectionDue,
  idle,
};

/** A judge and what its rule is to the judgement. */
export interface Judged {
  readonly judge: Judge;
  /** The rules it judges: most judge one. */
  readonly ids: readonly RuleId[];
  /** The parts of the house rules that these go by. */
  readonly reads: ReadonlySet<RulesPart>;
  readonly mayTakeOut: boolean;
  readonly timed: boolean;
}

/** The judges in the order in which equally grave findings are told. */
export const RULES: readonly Judged[] = (Object.keys(RULE_FACTS) as RuleId[]).flatMap((id) => {
  const judge = JUDGES[id];
  const { takesOut, timed } = RULE_FACTS[id];
  if (typeof judge === 'string') return [];
  const ids = [id, ...(Object.keys(JUDGES) as RuleId[]).filter((other) => JUDGES[other] === id)];
  const reads = new Set(ids.flatMap((one) => RULE_FACTS[one].reads));
  return [{ judge, ids, reads, mayTakeOut: takesOut !== undefined, timed: timed === true }];
});
