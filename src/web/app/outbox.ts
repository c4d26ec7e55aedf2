import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useShallow } from 'zustand/react/shallow';
import type { Problem } from '../../contract';
import type { EntryDraft, IncidentKind } from '../../core/incident';
import type { IncidentId, Instant, PackId, PersonId, RecordId, RoundId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import type { RowOutcome } from '../../core/rounds';
import { FailedRequest, ask, request } from './api';
import { showKept, showNamed } from './kept';
import type { Kept } from './kept';
import { useOwner } from './owner';
import { keepSent, takeSent } from './sent';
import { refreshRows } from './queries';
import { photosOf, photosOfEntry, sendPhotos } from './photos';

/** How a row of a round ended, when what is sent belongs to one. */
export interface RoundMark {
  readonly roundId: RoundId;
  readonly outcome: RowOutcome | null;
  readonly reason: string | null;
  readonly at: Instant;
}

/** Entries on their way into an incident's log, and the records that name it on packs. */
export interface IncidentPost {
  readonly id: IncidentId;
  readonly entries: readonly EntryDraft[];
  readonly packRecords: readonly { readonly packId: PackId; readonly recordId: RecordId }[];
  /** What happened and when: by it a named pack is judged on this device before the register has heard of it. */
  readonly kind: IncidentKind;
  readonly at: Instant;
}

/** Records of one pack on their way to the ledger together and the row of a round they end, or entries of an incident. */
export interface Outgoing {
  readonly id: string;
  /** The pack whose ledger it is for; null for an incident, which may name several. */
  readonly packId: PackId | null;
  readonly by: PersonId;
  readonly drafts: readonly RecordDraft[];
  readonly round: RoundMark | null;
  readonly incident?: IncidentPost;
  readonly state: 'waiting' | 'refused';
  readonly problem: Problem | null;
}

/** What somebody hands in. */
export type HandedIn = Omit<Outgoing, 'state' | 'problem'>;

export interface OutboxState {
  readonly items: readonly Outgoing[];
}

/** What the outbox held before records were sent together. */
interface OldItem extends Omit<Outgoing, 'id' | 'drafts' | 'round'> {
  readonly draft: RecordDraft;
}

/** Records not yet acknowledged by the ledger. They survive reload; their ids make sending them twice harmless. */
export const useOutbox = create<OutboxState>()(
  persist((): OutboxState => ({ items: [] }), {
    name: 'malle.outbox',
    version: 1,
    migrate: (kept) => {
      const { items } = kept as { items: readonly OldItem[] };
      return {
        items: items.map(({ draft, ...rest }) => ({ ...rest, id: draft.id, drafts: [draft], round: null })),
      };
    },
  }),
);

/** What whoever is signed in wrote on this device and the ledger has not acknowledged; nobody is shown another's. */
export function useOwnItems(): readonly Outgoing[] {
  const personId = useOwner((owner) => owner.personId);
  return useOutbox(useShallow(({ items }) => items.filter(({ by }) => by === personId)));
}

export type OutboxAction =
  | { readonly type: 'queued'; readonly item: HandedIn }
  | { readonly type: 'acknowledged' | 'discarded' | 'queued-again'; readonly id: string }
  | { readonly type: 'refused'; readonly id: string; readonly problem: Problem };

/** Every change the outbox can undergo. */
export function outboxAfter(state: OutboxState, action: OutboxAction): OutboxState {
  switch (action.type) {
    case 'queued':
      return { items: [...state.items, { ...action.item, state: 'waiting', problem: null }] };
    case 'acknowledged':
    case 'discarded':
      return { items: state.items.filter(({ id }) => id !== action.id) };
    case 'queued-again':
      return {
        items: state.items.map((item) =>
          item.id === action.id ? { ...item, state: 'waiting', problem: null } : item,
        ),
      };
    case 'refused': {
      const { problem } = action;
      return {
        items: state.items.map((item) =>
          item.id === action.id ? { ...item, state: 'refused', problem } : item,
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

/** How handing in went, for the form it came from. */
export type Handed =
  { readonly outcome: 'kept' | 'waiting' } | { readonly outcome: 'refused'; readonly error: FailedRequest };

/**
 * Hands records in. They lie in the outbox from the first moment; a refusal takes them out again, because the form still
 * has what was typed. Without a connection they stay and are sent later.
 */
export async function handIn(item: HandedIn): Promise<Handed> {
  dispatch({ type: 'queued', item });
  try {
    await sendOne(item);
    return { outcome: 'kept' };
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    if (error.mayPass) return { outcome: 'waiting' };
    dispatch({ type: 'discarded', id: item.id });
    return { outcome: 'refused', error };
  }
}

/** Sends once more what was set aside. */
export function sendAgain(id: string): void {
  brokenOn.delete(id);
  dispatch({ type: 'queued-again', id });
}

/** Puts what was acknowledged lately back among what waits: the register that has it is gone. Its ids make that harmless where it is not. Answers how many. */
export function handInAgain(): number {
  const waiting = new Set(useOutbox.getState().items.map(({ id }) => id));
  const again = takeSent().filter(({ id }) => !waiting.has(id));
  for (const item of again) dispatch({ type: 'queued', item });
  return again.length;
}

/** Throws away what was refused; its writer has seen why. */
export function discard(id: string): void {
  dispatch({ type: 'discarded', id });
}

/** A request without an answer for this long may never get one: a connection that died tells nobody. */
const GIVEN_UP_MS = 15_000;
/** What is being sent, and since when. Whatever else sends what waits leaves these alone: their form tells how they went. */
const underWay = new Map<string, number>();

async function sendOne(item: HandedIn): Promise<void> {
  underWay.set(item.id, performance.now());
  try {
    await send(item);
  } finally {
    underWay.delete(item.id);
  }
}

async function send(item: HandedIn): Promise<void> {
  const { id, packId, drafts, round, incident } = item;
  await sendPhotos([...drafts.flatMap(photosOf), ...(incident?.entries ?? []).flatMap(photosOfEntry)]);
  if (incident) {
    const { entries, packRecords } = incident;
    await request('POST', '/incidents', { id: incident.id, entries, packRecords });
    // The server wrote a record into the ledger of each pack. They are on the page before this leaves the outbox: between the two a
    // crashed pack would be shown as it was before. Without an answer the live connection brings them a moment later.
    await showNamed(packRecords).catch(() => undefined);
  } else if (packId) {
    const answer = await postRecords(packId, drafts, round);
    // What was kept is on the page before it leaves the outbox: between the two it would be in neither.
    showKept(packId, round?.roundId ?? null, answer);
    // Who has a pack is told by the lists, not by its page: until they know, it would be in the old hands again.
    if (drafts.some(({ kind }) => kind === 'taken-out' || kind === 'returned'))
      await refreshRows([packId]).catch(() => undefined);
  }
  dispatch({ type: 'acknowledged', id });
  keepSent(item, Date.now());
}

function postRecords(
  packId: PackId,
  records: readonly RecordDraft[],
  round: RoundMark | null,
): Promise<Kept> {
  if (!round) return ask('POST /records', { body: { packId, records } });
  const { roundId, ...mark } = round;
  return ask('POST /rounds/:id/rows', { params: { id: roundId }, body: { packId, records, ...mark } });
}

/** How often the server broke on an item. What it breaks on again and again is set aside, so that the rest goes on. */
const brokenOn = new Map<string, number>();
const MOST_BREAKS = 3;

function isSetAside(id: string, { code }: FailedRequest): boolean {
  if (code !== 'internal') return false;
  const times = (brokenOn.get(id) ?? 0) + 1;
  brokenOn.set(id, times);
  return times >= MOST_BREAKS;
}

let sending: Promise<void> | null = null;

/** Sends whatever waits, in order, as the person who wrote it; stops at the first sign that the connection is gone, and at what is being sent already. */
export function flushOutbox(person: PersonId, kept: (item: Outgoing) => void): Promise<void> {
  sending ??= flushAll(person, kept).finally(() => {
    sending = null;
  });
  return sending;
}

async function flushAll(person: PersonId, kept: (item: Outgoing) => void): Promise<void> {
  const waiting = useOutbox.getState().items.filter((item) => item.state === 'waiting' && item.by === person);
  for (const item of waiting) {
    if (performance.now() - (underWay.get(item.id) ?? -Infinity) < GIVEN_UP_MS) return;
    try {
      await sendOne(item);
      kept(item);
    } catch (error) {
      if (!(error instanceof FailedRequest) || !error.problem) return;
      if (error.mayPass && !isSetAside(item.id, error)) return;
      dispatch({ type: 'refused', id: item.id, problem: error.problem });
    }
  }
}
