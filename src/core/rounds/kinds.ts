import type { DueTask, Verdict } from '../assess';
import type { Occasion } from '../inspection';
import { DAY_MS, HOUR_MS } from '../measure';
import type { Instant } from '../measure';
import type { StorageState } from '../storage';

export const ROUND_KINDS = ['put-away', 'season-start', 'scheduled', 'receipt', 'idle', 'free'] as const;
/** Why many packs go through the hands in one evening. */
export type RoundKind = (typeof ROUND_KINDS)[number];

/** The checklist each kind of round goes by; a round without one only reads. */
export const ROUND_OCCASION: Readonly<Record<RoundKind, Occasion | null>> = {
  'put-away': 'after-use',
  'season-start': 'season-start',
  scheduled: 'scheduled',
  receipt: 'receipt',
  idle: null,
  free: null,
};

export const ROW_OUTCOMES = ['done', 'stopped', 'skipped', 'missing'] as const;
/** How a pack's row ended: worked through, stopped by what was found, left out with a reason, or not in the box. */
export type RowOutcome = (typeof ROW_OUTCOMES)[number];

/** What a round needs to know of a pack to take it in by itself. */
export interface Candidate {
  readonly verdict: Verdict;
  readonly storage: StorageState['state'];
  readonly usedAt: Instant | null;
  readonly tasks: readonly Pick<DueTask, 'do' | 'dueAt'>[];
}

/** Back from flying within this long is "returned today", also when the evening runs past midnight. */
const TODAY_MS = 18 * HOUR_MS;
/** Routine due this soon is done along with what is due already. */
const AHEAD_MS = 7 * DAY_MS;

/**
 * Whether a round of this kind takes a pack in by itself. Put-away: out of its band, not measured, or used today; packs out
 * of use wait for a decision instead, unless they came back today. The others: by what the calendar asks.
 */
export function belongs(
  kind: RoundKind,
  { verdict, storage, usedAt, tasks }: Candidate,
  now: Instant,
): boolean {
  const dueFor = (...wanted: readonly DueTask['do'][]) =>
    tasks.some((task) => wanted.includes(task.do) && task.dueAt <= now + AHEAD_MS);
  switch (kind) {
    case 'put-away': {
      // A retired pack has its own steps, and is put away by them.
      if (verdict === 'retired' || verdict === 'recycled') return false;
      if (usedAt !== null && now - usedAt <= TODAY_MS) return true;
      const outOfUse = verdict === 'hold' || verdict === 'retire-advised';
      return !outOfUse && (storage === 'high' || storage === 'low' || storage === 'unmeasured');
    }
    case 'season-start':
      return dueFor('inspect-season');
    case 'scheduled':
      return dueFor('inspect');
    case 'receipt':
      return dueFor('complete-baseline');
    case 'idle':
      return dueFor('re-read', 'cycle');
    case 'free':
      return false;
    default:
      return kind satisfies never;
  }
}
