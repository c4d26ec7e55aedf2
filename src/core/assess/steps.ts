import { isInService } from '../lifecycle';
import type { LifeState } from '../lifecycle';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import { speaksAgainstUse } from './answered';
import type { CaseFile } from './caseFile';
import { watchedUntil } from './release';
import type { ReleaseNeed } from './release';
import { STEP_KINDS } from './finding';
import type { Finding, NextStep, RuleId, StepKind } from './finding';
import { dueTasks } from './due';
import { RULE_FACTS } from './ruleFacts';

/**
 * What to do for a pack, most pressing first. A pack out of use has one step only: nobody may charge it, so nothing else
 * can be asked of a hand before a custodian has decided; a retired one has the next step to the recycler.
 */
export function stepsFor(
  file: CaseFile,
  findings: readonly Finding[],
  needs: readonly ReleaseNeed[],
  harm: readonly Finding[],
): readonly NextStep[] {
  const { life } = file.history;
  if (!isInService(life)) return endStep(file, findings, harm);
  const held = findings.find(speaksAgainstUse);
  if (held) return [heldStep(file, held, findings.filter(speaksAgainstUse), needs)];
  const steps = findings.flatMap((finding) => stepOf(finding, file));
  for (const { do: task, dueAt, because } of dueTasks(file)) steps.push({ do: task, dueAt, because });
  const pressing = steps.sort(byPressure);
  return pressing.filter((step, i) => pressing.findIndex((other) => other.do === step.do) === i);
}

/** What a pack out of use waits for: its watch, a look, a reading, or a person's decision. */
function heldStep(
  { now }: CaseFile,
  worst: Finding,
  held: readonly Finding[],
  needs: readonly ReleaseNeed[],
): NextStep {
  const by = (rule: RuleId) => held.find((finding) => finding.rule === rule);
  if (by('second-name')) return { do: 'second-name', dueAt: null, because: 'second-name' };
  const recovery = held.find((finding) => finding.rule === 'recovery');
  if (recovery?.how === 'running')
    return { do: 'attend-recovery', dueAt: recovery.endsAt, because: 'recovery' };
  const begun = by('incident') ?? by('held-by-hand');
  if (!begun) return { do: 'set-apart', dueAt: null, because: worst.rule };
  const because = begun.rule;
  const watched = held.flatMap((finding) =>
    finding.rule === 'incident' && finding.watchUntil !== null ? [finding.watchUntil] : [],
  );
  const until = Math.max(...watched, 0);
  if (now < until) return { do: 'keep-off', dueAt: until, because };
  const lacks = (need: ReleaseNeed['need']) => needs.some((one) => one.need === need && !one.met);
  if (lacks('nothing-releases')) return { do: 'decide', dueAt: null, because };
  if (needs.some((one) => one.need === 'inspection' && one.found === 'none yet'))
    return { do: 'inspect-held', dueAt: until || null, because };
  if (lacks('reading')) return { do: 'read-held', dueAt: null, because };
  return { do: 'decide', dueAt: null, because };
}

const BEFORE_DISCHARGE: ReadonlySet<LifeState> = new Set<LifeState>(['retired', 'marked']);

/** The next step of a retired pack. */
function endStep(
  file: CaseFile,
  findings: readonly Finding[],
  harm: readonly Finding[],
): readonly NextStep[] {
  const { rules, now } = file;
  const { life } = file.history;
  const step = (what: StepKind, dueAt: Instant | null = life.since): NextStep[] => [
    { do: what, dueAt, because: null },
  ];
  const watched = watchedUntil(findings, rules);
  // Retired or not, a shocked or wrongly charged pack is left alone until its watch is over.
  if (BEFORE_DISCHARGE.has(life.state) && now < watched) return step('keep-off', watched);
  switch (life.state) {
    case 'in-service':
    case 'retiring':
    case 'recycled':
      return [];
    case 'retired':
      return step('mark-red');
    case 'marked':
      return step(harm.length > 0 ? 'pack-apart' : 'drain');
    case 'discharging':
      return step('verify-empty');
    case 'resting':
      return step('verify-again', (life.since ?? 0) + rules.endOfLife.reboundHours * HOUR_MS);
    case 'flat':
    case 'unsafe':
      return step('insulate');
    case 'insulated':
      return step('bin');
    case 'binned':
      return step('consign');
    case 'consigned':
      return step('hand-over');
    default:
      return life.state satisfies never;
  }
}

function stepOf(finding: Finding, file: CaseFile): NextStep[] {
  const because = finding.rule;
  switch (finding.rule) {
    case 'unmeasured':
      return [{ do: 'measure', dueAt: finding.restedFrom ?? file.history.receivedAt, because }];
    case 'not-known':
      return [{ do: 'measure', dueAt: finding.since + finding.afterDays * DAY_MS, because }];
    case 'cooling':
      return [{ do: 'feel-again', dueAt: finding.againFrom, because }];
    case 'field-charged':
      return [{ do: 'fly-or-drain', dueAt: finding.dueAt, because }];
    case 'self-storing':
      return [{ do: 'measure-rested', dueAt: finding.bledAt, because }];
    case 'smart-settings':
      return [{ do: 'set-smart', dueAt: null, because }];
    case 'written-late':
      return [{ do: 'measure-rested', dueAt: null, because }];
    case 'memory-unread':
      return [{ do: 'read-memory', dueAt: null, because }];
    case 'own-faults':
      return [{ do: 'inspect', dueAt: finding.toAt, because }];
    case 'balance-due':
      return [{ do: 'balance', dueAt: null, because }];
    case 'wears-faster':
      return [{ do: 'measure-again', dueAt: null, because }];
    case 'storage-pending':
      return [{ do: 'measure-rested', dueAt: finding.restedFrom, because }];
    case 'not-rested':
      return [{ do: 'measure-rested', dueAt: finding.restedFrom, because }];
    case 'recharge-soon':
      if (finding.job?.inTheWay) return [{ do: 'balance', dueAt: finding.low.at, because }];
      // Used since, so what to put in is not known before it is read.
      if (finding.basis === 'used') return [];
      return [{ do: finding.job ? 'store-up-now' : 'top-up', dueAt: finding.low.at, because }];
    case 'storage-high':
      return [{ do: finding.job?.inTheWay ? 'balance' : 'store-down', dueAt: finding.clock.dueAt, because }];
    case 'storage-low':
      return [{ do: finding.job?.inTheWay ? 'balance' : 'store-up', dueAt: finding.clock.dueAt, because }];
    case 'spread':
      return [{ do: 'balance', dueAt: null, because }];
    case 'overfull':
      return [{ do: 'store-down', dueAt: finding.at, because }];
    case 'over-discharge-event':
      // Charged since, it needs a reading rather than more charge.
      return finding.readSince || file.current === null
        ? []
        : [{ do: 'store-up-now', dueAt: finding.low.at, because }];
    case 'charge-failed':
      return [{ do: 'balance', dueAt: null, because }];
    case 'resistance-jump':
      return [{ do: 'measure-resistance', dueAt: null, because }];
    case 'weak-cell':
    case 'cell-drift':
    case 'weakest-again':
    case 'resistance-growth':
    case 'resistance-siblings':
    case 'capacity':
    case 'run-time':
    case 'long-full':
    case 'shelf-loss':
    case 'cycles':
    case 'age':
      return [{ do: 'review', dueAt: null, because }];
    case 'wrong-setting':
    case 'charge-implausible':
    case 'hot-charge':
      return [{ do: 'check-charger', dueAt: null, because }];
    case 'hot-use':
      return [{ do: 'review', dueAt: null, because }];
    case 'inspection-failed':
      return [{ do: 'mend', dueAt: null, because }];
    case 'swollen':
      return [{ do: 'review', dueAt: null, because }];
    case 'not-as-delivered':
      return [{ do: 'send-back', dueAt: finding.at, because }];
    case 'inspection-asked':
      return [{ do: 'inspect', dueAt: finding.at, because }];
    case 'incident':
    case 'held-by-hand':
    case 'recovery':
    case 'second-name':
      return [{ do: 'review', dueAt: null, because }];
    case 'long-rest':
    case 'baseline-missing':
    case 'inspection-due':
    case 'landed-low':
    case 'two-hands':
    case 'deep-use':
    case 'cold-use':
    case 'charge-habits':
    case 'unlogged':
    case 'nimh-top-up':
    case 'damage-floor':
    case 'over-discharged':
    case 'idle':
      return [];
    default:
      return finding satisfies never;
  }
}

/** Bring up what is nearly flat first; then what a clock asks; then what waits for the next charge; routine last. */
function byPressure(a: NextStep, b: NextStep): number {
  return (
    pressureClass(a) - pressureClass(b) ||
    (a.dueAt ?? 0) - (b.dueAt ?? 0) ||
    STEP_KINDS.indexOf(a.do) - STEP_KINDS.indexOf(b.do)
  );
}

function pressureClass(step: NextStep): number {
  if (step.because !== null && RULE_FACTS[step.because].asks === 'routine') return 3;
  if (step.do === 'store-up-now' || step.do === 'top-up') return 0;
  return step.dueAt === null ? 2 : 1;
}

const READING_STEPS: ReadonlySet<StepKind> = new Set(['measure', 'measure-rested', 're-read', 'cycle']);

/** The step that asks for a meter, whatever else is more pressing; null when none does. */
export function readingStep(steps: readonly NextStep[]): NextStep | null {
  return steps.find((step) => READING_STEPS.has(step.do)) ?? null;
}
