import { isLithium, soc } from '../chemistry';
import type { SocEstimate } from '../chemistry';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { StorageState } from '../storage';
import { caseFile } from './caseFile';
import type { CaseFile, RestedReading } from './caseFile';
import { SEVERITIES } from './finding';
import type { Finding, NextStep, RuleId, Severity } from './finding';
import { baselineMissing } from './rules/baselineMissing';
import { capacity } from './rules/capacity';
import { chargeFailed } from './rules/chargeFailed';
import { chargeImplausible } from './rules/chargeImplausible';
import { damageFloor } from './rules/damageFloor';
import { hotCharge, hotUse } from './rules/heat';
import { idle } from './rules/idle';
import { inspectionDue } from './rules/inspectionDue';
import { inspectionFailed } from './rules/inspectionFailed';
import { landedLow } from './rules/landedLow';
import { longFull } from './rules/longFull';
import { longRest } from './rules/longRest';
import { nimhTopUp } from './rules/nimhTopUp';
import { notAsDelivered } from './rules/notAsDelivered';
import { notRested } from './rules/notRested';
import { overDischargeEvent } from './rules/overDischargeEvent';
import { overDischarged } from './rules/overDischarged';
import { overfull } from './rules/overfull';
import { rechargeSoon } from './rules/rechargeSoon';
import { resistanceGrowth, resistanceJump, resistanceSiblings } from './rules/resistance';
import { runTime } from './rules/runTime';
import { spreadRule } from './rules/spreadRule';
import { storageBand } from './rules/storageBand';
import { storagePending } from './rules/storagePending';
import { swollen } from './rules/swollen';
import { unlogged } from './rules/unlogged';
import { unmeasured } from './rules/unmeasured';
import { weakCell } from './rules/weakCell';
import { weakestAgain } from './rules/weakestAgain';
import { age, cycleCount } from './rules/wear';
import { wrongSetting } from './rules/wrongSetting';
import { stepsFor } from './steps';
import type { DueTask } from './due';
import { dueTasks } from './due';

export const VERDICTS = ['fit', 'watch', 'hold', 'retire-advised'] as const;
/** What should become of a pack, mildest first. */
export type Verdict = (typeof VERDICTS)[number];

/** The pilot's question: may this pack be used? */
export type MayFly = 'yes' | 'charge-first' | 'measure-first' | 'inspect-first' | 'no';

/** All Malle says about a pack at one moment. */
export interface Assessment {
  readonly verdict: Verdict;
  readonly mayFly: MayFly;
  /** Worst first. */
  readonly findings: readonly Finding[];
  readonly storage: StorageState;
  /** Most pressing first; empty when no rule asks anything of the pack. */
  readonly steps: readonly NextStep[];
  /** What the calendar will ask of the pack, soonest first; nothing of a pack on hold. */
  readonly due: readonly DueTask[];
  /** The latest reading that may decide; null before the first. */
  readonly latest: RestedReading | null;
  /** What may still be taken out follows the lowest cell, what may still be put in the highest; null without a curve or reading. */
  readonly charge: { readonly lowest: SocEstimate; readonly highest: SocEstimate } | null;
}

/** The order in which equally grave findings are told. */
const RULES: readonly ((file: CaseFile) => readonly Finding[])[] = [
  swollen,
  inspectionFailed,
  overDischarged,
  damageFloor,
  overfull,
  wrongSetting,
  hotUse,
  hotCharge,
  overDischargeEvent,
  rechargeSoon,
  unmeasured,
  storageBand,
  storagePending,
  spreadRule,
  weakCell,
  weakestAgain,
  chargeFailed,
  chargeImplausible,
  resistanceGrowth,
  resistanceSiblings,
  resistanceJump,
  capacity,
  runTime,
  notAsDelivered,
  longFull,
  cycleCount,
  age,
  landedLow,
  notRested,
  unlogged,
  longRest,
  baselineMissing,
  nimhTopUp,
  inspectionDue,
  idle,
];

/**
 * What the records say about a pack under these house rules at this moment. Pure: the same records, rules and time give
 * the same answer on the server, in a browser and in a worker.
 */
export function assess(history: PackHistory, rules: HouseRules, now: Instant): Assessment {
  const file = caseFile(history, rules, now);
  const findings = whatStands(RULES.flatMap((rule) => rule(file)).sort(worstFirst));
  return {
    verdict: verdictOf(findings),
    mayFly: mayFly(findings),
    findings,
    storage: file.storage,
    steps: stepsFor(file, findings),
    due: isOutOfUse(verdictOf(findings)) ? [] : dueTasks(file),
    latest: file.latest,
    charge: chargeOf(file),
  };
}

/** Findings that ask for charger work or routine, which nobody may do on a pack that is out of use. */
const ASKS_FOR_HANDS: ReadonlySet<RuleId> = new Set([
  'recharge-soon',
  'storage-high',
  'storage-low',
  'storage-pending',
  'not-rested',
  'nimh-top-up',
  'idle',
  'long-rest',
  'baseline-missing',
  'inspection-due',
]);

/** What speaks against a pack stays; what would send somebody to the charger with a pack on hold does not. */
function whatStands(findings: readonly Finding[]): readonly Finding[] {
  return isOutOfUse(verdictOf(findings))
    ? findings.filter(({ rule }) => !ASKS_FOR_HANDS.has(rule))
    : findings;
}

const VERDICT_OF: Readonly<Record<Severity, Verdict>> = {
  note: 'fit',
  watch: 'watch',
  hold: 'hold',
  retire: 'retire-advised',
};

function verdictOf(findings: readonly Finding[]): Verdict {
  return VERDICT_OF[findings[0]?.severity ?? 'note'];
}

/** Whether nobody may charge or fly the pack until a custodian decides. */
export function isOutOfUse(verdict: Verdict): boolean {
  return verdict === 'hold' || verdict === 'retire-advised';
}

function mayFly(findings: readonly Finding[]): MayFly {
  if (isOutOfUse(verdictOf(findings))) return 'no';
  if (findings.some(({ rule }) => rule === 'unmeasured')) return 'measure-first';
  if (findings.some(({ rule }) => rule === 'long-rest')) return 'inspect-first';
  return findings.some(({ rule }) => rule === 'recharge-soon') ? 'charge-first' : 'yes';
}

function worstFirst(a: Finding, b: Finding): number {
  return SEVERITIES.indexOf(b.severity) - SEVERITIES.indexOf(a.severity);
}

function chargeOf({ history, latest }: CaseFile): Assessment['charge'] {
  const { chemistry } = history.pack;
  if (!latest || !isLithium(chemistry)) return null;
  return {
    lowest: soc(chemistry, Math.min(...latest.cellsMv), latest.meterErrorMv),
    highest: soc(chemistry, Math.max(...latest.cellsMv), latest.meterErrorMv),
  };
}
