import type { PackRow } from '../../contract';
import { assess } from '../../core/assess';
import { isInService } from '../../core/lifecycle';
import type { Instant } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackRecord } from '../../core/record';
import type { HouseRules } from '../../core/rules';

/** What a list must show of a pack at a moment, told by judging its whole ledger then: the second way to the same answer. */
export function listRowBy(facts: PackFacts, records: readonly PackRecord[], rules: HouseRules, now: Instant) {
  const history = fold(facts, records);
  const said = assess(history, rules, now);
  const { storage, life, watch } = said;
  const clock = (storage.state === 'high' || storage.state === 'low') && isInService(life) ? storage : null;
  const [next] = said.steps;
  return {
    verdict: said.verdict,
    mayFly: said.mayFly,
    charged: said.charged,
    basis: said.contents?.basis ?? null,
    storage: storage.state,
    since: 'since' in storage ? storage.since : null,
    dueAt: clock?.dueAt ?? null,
    allowanceHours: clock?.allowanceHours ?? null,
    next: next ? { do: next.do, dueAt: next.dueAt } : null,
    tasks: said.due,
    life: life.state,
    outSince: said.outSince,
    watchFrom: watch?.from ?? null,
    watchUntil: watch?.until ?? null,
    placeId: history.placeId,
    holderId: history.holderId,
  };
}

/** The same fields of a row as a list gave it. */
export function listRowOf(row: PackRow): ReturnType<typeof listRowBy> {
  const { verdict, mayFly, charged, basis, storage, since, dueAt, allowanceHours, next, tasks, life } = row;
  const { outSince, watchFrom, watchUntil, placeId, holderId } = row;
  return {
    ...{ verdict, mayFly, charged, basis, storage, since, dueAt, allowanceHours, next, tasks, life },
    ...{ outSince, watchFrom, watchUntil, placeId, holderId },
  };
}
