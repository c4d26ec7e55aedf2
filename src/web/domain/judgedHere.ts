import type { PackDetails, PackTypeAnswer, PackRow, RegisterAnswer } from '../../contract';
import { flyingFacts } from '../../core/flying';
import type { Instant } from '../../core/measure';
import type { Outgoing } from '../app/outbox';
import { factsOf } from './packFacts';
import { packView, withWaiting } from './packView';

/** What a list says of a pack that can change while something waits here to be sent. */
export type Said = Pick<
  PackRow,
  'verdict' | 'mayFly' | 'charged' | 'next' | 'holderId' | 'placeId' | 'slot' | 'out' | 'owed'
>;

/** A pack judged by its ledger with what waits on this device after it. */
export function judgedHere(
  pack: PackDetails,
  type: PackTypeAnswer,
  register: RegisterAnswer,
  waiting: readonly Outgoing[],
  now: Instant,
): Said {
  const { rules } = register.rules;
  const { assessment, history } = packView(
    factsOf(pack, type, register),
    withWaiting(pack, waiting, now),
    rules,
    now,
  );
  const { verdict, mayFly, charged, steps } = assessment;
  const [next] = steps;
  const { holderId, placeId, slot } = history;
  const { out, owed } = flyingFacts(history, assessment.capacityMah, rules);
  return {
    ...{ verdict, mayFly, charged, holderId, placeId, slot, out, owed },
    next: next ? { do: next.do, dueAt: next.dueAt } : null,
  };
}
