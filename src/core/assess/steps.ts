import type { CaseFile } from './caseFile';
import { STEP_KINDS } from './finding';
import type { Finding, NextStep, RuleId, StepKind } from './finding';
import { dueTasks } from './due';

/**
 * What to do for a pack, most pressing first. A pack on hold has one step only: nobody may charge it, so nothing else
 * can be asked of a hand before a custodian has decided.
 */
export function stepsFor(file: CaseFile, findings: readonly Finding[]): readonly NextStep[] {
  const held = findings.find(({ severity }) => severity === 'hold' || severity === 'retire');
  if (held) return [{ do: 'set-apart', dueAt: null, because: held.rule }];
  const steps = findings.flatMap((finding) => stepOf(finding, file));
  for (const { do: task, dueAt, because } of dueTasks(file)) steps.push({ do: task, dueAt, because });
  const pressing = steps.sort(byPressure);
  return pressing.filter((step, i) => pressing.findIndex((other) => other.do === step.do) === i);
}

function stepOf(finding: Finding, file: CaseFile): NextStep[] {
  const because = finding.rule;
  switch (finding.rule) {
    case 'unmeasured':
      return [{ do: 'measure', dueAt: finding.restedFrom ?? file.history.receivedAt, because }];
    case 'storage-pending':
      return [{ do: 'measure-rested', dueAt: finding.restedFrom, because }];
    case 'not-rested':
      return [{ do: 'measure-rested', dueAt: finding.restedFrom, because }];
    case 'recharge-soon':
      return [{ do: finding.job ? 'store-up-now' : 'top-up', dueAt: finding.low.at, because }];
    case 'storage-high':
      return [{ do: 'store-down', dueAt: finding.clock.dueAt, because }];
    case 'storage-low':
      return [{ do: 'store-up', dueAt: finding.clock.dueAt, because }];
    case 'spread':
      return [{ do: 'balance', dueAt: null, because }];
    case 'overfull':
      return [{ do: 'store-down', dueAt: finding.at, because }];
    case 'over-discharge-event':
      return finding.readSince ? [] : [{ do: 'store-up-now', dueAt: finding.low.at, because }];
    case 'charge-failed':
      return [{ do: 'balance', dueAt: null, because }];
    case 'resistance-jump':
      return [{ do: 'measure-resistance', dueAt: null, because }];
    case 'weak-cell':
    case 'weakest-again':
    case 'resistance-growth':
    case 'resistance-siblings':
    case 'capacity':
    case 'run-time':
    case 'long-full':
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
    case 'long-rest':
    case 'baseline-missing':
    case 'inspection-due':
    case 'landed-low':
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

const ROUTINE: ReadonlySet<RuleId> = new Set([
  'idle',
  'nimh-top-up',
  'long-rest',
  'baseline-missing',
  'inspection-due',
]);

function pressureClass(step: NextStep): number {
  if (ROUTINE.has(step.because)) return 3;
  if (step.do === 'store-up-now' || step.do === 'top-up') return 0;
  return step.dueAt === null ? 2 : 1;
}

const READING_STEPS: ReadonlySet<StepKind> = new Set(['measure', 'measure-rested', 're-read', 'cycle']);

/** The step that asks for a meter, whatever else is more pressing; null when none does. */
export function readingStep(steps: readonly NextStep[]): NextStep | null {
  return steps.find((step) => READING_STEPS.has(step.do)) ?? null;
}
