import type { NextStep, Verdict } from '../assess';
import { isTask, STEP_KINDS, VERDICTS } from '../assess';
import type { Instant } from '../measure';

/** What the order of a summary looks at. */
export interface Pressing {
  readonly verdict: Verdict;
  readonly next: Pick<NextStep, 'do' | 'dueAt'> | null;
}

const NEVER: Instant = Number.MAX_SAFE_INTEGER;

/** The most urgent first: what is out of use, then what cannot wait, then by the clock. */
export function byUrgency(a: Pressing, b: Pressing): number {
  return (
    outOfUse(b.verdict) - outOfUse(a.verdict) ||
    cannotWait(b) - cannotWait(a) ||
    (a.next?.dueAt ?? NEVER) - (b.next?.dueAt ?? NEVER) ||
    stepRank(a) - stepRank(b) ||
    VERDICTS.indexOf(b.verdict) - VERDICTS.indexOf(a.verdict)
  );
}

/**
 * Whether a pack asks for hands tonight: routine that comes round some day is no reason to go on.
 * @example isPressing({ verdict: 'fit', next: { do: 'inspect', dueAt: 20 } }, 10) // => false
 * @example isPressing({ verdict: 'fit', next: { do: 'inspect', dueAt: 10 } }, 10) // => true
 * @example isPressing({ verdict: 'hold', next: null }, 10) // => true
 */
export function isPressing({ verdict, next }: Pressing, now: Instant): boolean {
  if (outOfUse(verdict) > 0) return true;
  if (next === null) return false;
  return !isTask(next.do) || (next.dueAt !== null && next.dueAt <= now);
}

function outOfUse(verdict: Verdict): number {
  return verdict === 'retire-advised' ? 2 : verdict === 'hold' ? 1 : 0;
}

function cannotWait({ next }: Pressing): number {
  return next?.do === 'store-up-now' || next?.do === 'top-up' ? 1 : 0;
}

function stepRank({ next }: Pressing): number {
  return next ? STEP_KINDS.indexOf(next.do) : STEP_KINDS.length;
}
