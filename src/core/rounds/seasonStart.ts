import { CHEMISTRY } from '../chemistry';
import { restedReadings } from '../assess';
import { meaningOf } from '../inspection';
import type { ChecklistItem, Marks } from '../inspection';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';

export const LOOK_STEPS = ['look', 'leads', 'balance-port'] as const;
/** The steps of looking, in the order the practice gives. */
export type LookStep = (typeof LOOK_STEPS)[number];

const STEP_OF: Readonly<Record<string, LookStep>> = {
  case: 'leads',
  leads: 'leads',
  connector: 'leads',
  balance: 'balance-port',
};

/** The checklist cut into its steps; what the house added is looked at first. Steps without items are left out. */
export function lookSteps(
  items: readonly ChecklistItem[],
): readonly { readonly step: LookStep; readonly items: readonly ChecklistItem[] }[] {
  return LOOK_STEPS.map((step) => ({
    step,
    items: items.filter(({ key }) => (STEP_OF[key] ?? 'look') === step),
  })).filter((part) => part.items.length > 0);
}

/** Whether what was marked so far ends the inspection: a swollen pack, or anything else that takes it out of use. */
export function stopsLooking(items: readonly ChecklistItem[], marks: Marks): boolean {
  return items.some(
    ({ key, failMeans }) => marks[key]?.answer === 'fail' && meaningOf(key, failMeans) === 'hold',
  );
}

/** Where a pack stands in its season start. */
export type SeasonState =
  | { readonly step: 'look-over' }
  /** A charge at 1C, balanced: the first, or the next after one that did not close the cells. */
  | { readonly step: 'charge'; readonly pass: number; readonly of: number; readonly spreadMv: number }
  | { readonly step: 'stopped'; readonly why: 'found' | 'too-low' | 'unbalanced' }
  | { readonly step: 'done'; readonly passes: number };

/**
 * Where a pack stands in its season start, from its records alone, so that any device can take it up: looked over and read
 * since the round began, then charged at 1C and balanced until the cells are within tolerance, or until the house's number
 * of failed passes recommends retirement.
 */
export function seasonState(history: PackHistory, since: Instant, rules: HouseRules): SeasonState {
  const looked = history.inspections.findLast(
    ({ occasion, at }) => occasion === 'season-start' && at >= since,
  );
  if (!looked) return { step: 'look-over' };
  const found = looked.items.some(
    ({ key, answer, failMeans }) => answer === 'fail' && meaningOf(key, failMeans) === 'hold',
  );
  if (found || (looked.swelling !== null && looked.swelling !== 'none'))
    return { step: 'stopped', why: 'found' };
  const read = restedReadings(history, rules).rested.findLast(({ at }) => at >= since);
  if (!read)
    return CHEMISTRY[history.pack.chemistry].cellTaps ? { step: 'look-over' } : { step: 'done', passes: 0 };
  const lowest = Math.min(...read.cellsMv);
  if (lowest < rules.floors[history.pack.chemistry].damageMv) return { step: 'stopped', why: 'too-low' };
  const passes = history.charges.filter(({ mode, at }) => mode === 'balance' && at >= looked.at);
  const last = passes.at(-1);
  if (last && last.balanced !== false && last.ending === 'complete')
    return { step: 'done', passes: passes.length };
  const of = rules.health.failedBalances;
  if (passes.length >= of) return { step: 'stopped', why: 'unbalanced' };
  const cells = last?.endCellsMv ?? read.cellsMv;
  return { step: 'charge', pass: passes.length + 1, of, spreadMv: Math.max(...cells) - Math.min(...cells) };
}
