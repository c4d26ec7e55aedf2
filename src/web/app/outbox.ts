import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { AppendAnswer, Problem } from '../../contract';
import type { PackId, PersonId, RecordId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { FailedRequest, ask } from './api';

/** A record on its way to the ledger. */
export interface Outgoing {
  readonly packId: PackId;
  readonly by: PersonId;
  readonly draft: RecordDraft;
  readonly state: 'waiting' | 'refused';
  readonly problem: Problem | null;
}

export interface OutboxState {
  readonly items: readonly Outgoing[];
}

/** Records not yet acknowledged by the ledger. They survive reload; their ids make sending them twice harmless. */
export const useOutbox = create<OutboxState>()(
  persist((): OutboxState => ({ items: [] }), { name: 'malle.outbox' }),
);

export type OutboxAction =
  | { readonly type: 'queued'; readonly packId: PackId; readonly by: PersonId; readonly draft: RecordDraft }
  | { readonly type: 'acknowledged' | 'discarded'; readonly id: RecordId }
  | { readonly type: 'refused'; readonly id: RecordId; readonly problem: Problem };

/** Every change the outbox can undergo. */
export function outboxAfter(state: OutboxState, action: OutboxAction): OutboxState {
  switch (action.type) {
    case 'queued': {
      const { packId, by, draft } = action;
      return { items: [...state.items, { packId, by, draft, state: 'waiting', problem: null }] };
    }
    case 'acknowledged':
    case 'discarded':
      return { items: state.items.filter(({ draft }) => draft.id !== action.id) };
    case 'refused': {
      const { problem } = action;
      return {
        items: state.items.map((item) =>
          item.draft.id === action.id ? { ...item, state: 'refused', problem } : item,
        ),
      };
    }
    default:
      return action satisfies never;
  }
}

function dispatch(action: OutboxAction): void {
  useOutbox.setState((state) => outboxAfter(state, action));
}

/** How handing in a record went, for the form it came from. */
export type Handed =
  | { readonly outcome: 'kept'; readonly answer: AppendAnswer }
  | { readonly outcome: 'waiting' }
  | { readonly outcome: 'refused'; readonly error: FailedRequest };

/**
 * Hands a record in. It lies in the outbox from the first moment; a refusal takes it out again, because the form still
 * has what was typed. Without a connection it stays and is sent later.
 */
export async function handIn(packId: PackId, by: PersonId, draft: RecordDraft): Promise<Handed> {
  dispatch({ type: 'queued', packId, by, draft });
  try {
    const answer = await sendOne(packId, draft);
    dispatch({ type: 'acknowledged', id: draft.id });
    return { outcome: 'kept', answer };
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    if (error.mayPass) return { outcome: 'waiting' };
    dispatch({ type: 'discarded', id: draft.id });
    return { outcome: 'refused', error };
  }
}

/** Throws away a refused record; its writer has seen why. */
export function discard(id: RecordId): void {
  dispatch({ type: 'discarded', id });
}

function sendOne(packId: PackId, draft: RecordDraft): Promise<AppendAnswer> {
  return ask<AppendAnswer>('POST', '/records', { packId, records: [draft] });
}

let sending: Promise<void> | null = null;

/** Sends whatever waits, in order, as the person who wrote it; stops at the first sign that the connection is gone. */
export function flushOutbox(person: PersonId, kept: (packId: PackId) => void): Promise<void> {
  sending ??= flushAll(person, kept).finally(() => {
    sending = null;
  });
  return sending;
}

async function flushAll(person: PersonId, kept: (packId: PackId) => void): Promise<void> {
  const waiting = useOutbox.getState().items.filter((item) => item.state === 'waiting' && item.by === person);
  for (const { packId, draft } of waiting) {
    try {
      await sendOne(packId, draft);
      dispatch({ type: 'acknowledged', id: draft.id });
      kept(packId);
    } catch (error) {
      if (!(error instanceof FailedRequest) || error.mayPass || !error.problem) return;
      dispatch({ type: 'refused', id: draft.id, problem: error.problem });
    }
  }
}
