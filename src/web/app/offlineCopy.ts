import { dehydrate, hydrate } from '@tanstack/react-query';
import type { DehydratedState, Query, QueryClient } from '@tanstack/react-query';
import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
import { useEffect } from 'react';
import { create } from 'zustand';
import type { SessionAnswer } from '../../contract';
import type { Instant } from '../../core/measure';
import { forgetOfflinePacks } from './offlinePacks';

/**
 * What the register last told this device, kept so that Malle opens where there is no network: who is signed in, the
 * packs with their verdicts, what was looked at lately. Only read when no answer comes; with one, it is asked anew.
 */
interface OfflineCopy {
  /** Answers of another build may have another shape. */
  readonly build: string;
  readonly session: SignedIn;
  /** By this device's clock, as are the next two. */
  readonly sessionAt: number;
  /** When the newest answer came. */
  readonly toldAt: number;
}

type SignedIn = Extract<SessionAnswer, { state: 'signed-in' }>;

/** Kinds of answers that take long to read on a phone, each read by itself once what is small stands on the page. */
const LARGE = [['packs'], ['later-rows', 'charging', 'end-of-life', 'histories']] as const;
type Part = 'small' | number;
const PARTS: readonly Part[] = ['small', ...LARGE.keys()];

interface Store extends DBSchema {
  readonly told: { readonly key: 'last'; readonly value: OfflineCopy };
  readonly answers: { readonly key: Part; readonly value: DehydratedState };
}

/** Put here by the build. */
declare const __BUILD__: string;

const SAVE_AFTER_MS = 5_000;

let opened: Promise<IDBPDatabase<Store>> | null = null;
let saving: ReturnType<typeof setTimeout> | undefined;
let newestAt: Instant | null = null;
/** So long the first page has this device to itself, unless it is one that shows all packs. */
const PATIENCE_MS = 1_500;
let want: () => void;
const wanted = new Promise<void>((resolve) => {
  want = resolve;
});
let reading: Promise<void> = Promise.resolve();
/** What was written of each part, so that a part that stayed the same is not written again. */
const written = new Map<Part, string>();

/** The kinds of answers that are still being read from this device: a page waits for them rather than ask for what cannot be had. */
const useReading = create<{ readonly kinds: ReadonlySet<string> }>(() => ({ kinds: new Set() }));

function store(): Promise<IDBPDatabase<Store>> {
  opened ??= openDB<Store>('malle.told', 2, {
    upgrade: (database, from) => {
      if (from < 1) database.createObjectStore('told');
      database.createObjectStore('answers');
    },
  });
  return opened;
}

function partOf(kind: string): Part {
  const part = LARGE.findIndex((kinds) => (kinds as readonly string[]).includes(kind));
  return part === -1 ? 'small' : part;
}

const kindOf = ({ queryKey }: Pick<Query, 'queryKey'>) => queryKey[0] as string;

/** Keeps every answer to queries of these kinds on this device from now on. */
export function keepOfflineCopy(client: QueryClient, sessionKey: string, kinds: readonly string[]): void {
  const isKept = (query: Query) => query.state.status === 'success' && kinds.includes(kindOf(query));
  const save = async () => {
    clearTimeout(saving);
    saving = undefined;
    const session = client.getQueryState<SessionAnswer>([sessionKey]);
    if (!session?.data) return;
    const { data, dataUpdatedAt: sessionAt } = session;
    // Whoever is not let in leaves nothing behind for the next to find.
    if (data.state !== 'signed-in') return forgetOfflineCopy();
    const kept = client.getQueryCache().getAll().filter(isKept);
    const toldAt = Math.max(...kept.map(({ state }) => state.dataUpdatedAt), sessionAt);
    const last = await (await store()).get('told', 'last');
    const isSame = last?.build === __BUILD__ && last.session.person.id === data.person.id;
    if (!isSame) written.clear();
    for (const part of PARTS) {
      // One still being read here is on the device as it was.
      if (part !== 'small' && isReading(part)) continue;
      await saveAnswers(client, part, kept, isSame);
    }
    // Last of all: a page that is ended midway leaves nothing of an earlier build under this one's name.
    await (await store()).put('told', { build: __BUILD__, session: data, sessionAt, toldAt }, 'last');
  };
  // A device without room or leave to keep anything works as before, with a network.
  const saveNow = () => void save().catch(() => undefined);
  client.getQueryCache().subscribe(({ type }) => {
    if (type === 'updated') saving ??= setTimeout(saveNow, SAVE_AFTER_MS);
  });
  // A phone ends a page that is not looked at without another word.
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden' && saving !== undefined) saveNow();
  });
}

/** @param isSame whether what is kept is this person's, of this build */
async function saveAnswers(
  client: QueryClient,
  part: Part,
  kept: readonly Query[],
  isSame: boolean,
): Promise<void> {
  const own = kept.filter((query) => partOf(kindOf(query)) === part);
  const now = JSON.stringify(own.map(({ queryHash, state }) => [queryHash, state.dataUpdatedAt]));
  if (written.get(part) === now) return;
  const state = dehydrate(client, { shouldDehydrateQuery: (query) => own.includes(query) });
  const asked = new Set(own.map(({ queryHash }) => queryHash));
  const before = isSame ? await (await store()).get('answers', part) : undefined;
  // Opened for a moment, a page asked for little: the lists it did not come to stay as they were told before. Details would pile up.
  const unasked = before?.queries.filter(
    ({ queryHash, queryKey }) => queryKey.length === 1 && !asked.has(queryHash),
  );
  const queries = [...state.queries, ...(unasked ?? [])];
  await (await store()).put('answers', { ...state, queries }, part);
  written.set(part, now);
}

/** Forgets it, and the packs kept beside it, when somebody signs out. */
export async function forgetOfflineCopy(): Promise<void> {
  clearTimeout(saving);
  saving = undefined;
  written.clear();
  await forgetOfflinePacks();
  await (await store()).delete('told', 'last');
  await (await store()).clear('answers');
}

/**
 * Puts what was last told into the page and answers who was signed in, with the register's time as far as this device
 * can tell; null when nothing is kept, or by another build. Answers that take long to read follow by themselves.
 */
export async function readOfflineCopy(client: QueryClient): Promise<SignedIn | null> {
  const told = await store()
    .then((database) => database.get('told', 'last'))
    .catch(() => undefined);
  if (told?.build !== __BUILD__) return null;
  await readAnswers(client, 'small');
  useReading.setState({ kinds: new Set(LARGE.flat()) });
  reading = readLarge(client);
  const { session, sessionAt, toldAt } = told;
  const ahead = session.now - sessionAt;
  // Not by the session: opened without a network before, that is of then and what was told of earlier.
  newestAt = toldAt + ahead;
  return { ...session, now: session.frozen ? session.now : Date.now() + ahead };
}

/** Settles with the kinds of answers that are still being read from this device, once they stand on the page; null when none is. */
export function stillReading(): Promise<readonly string[]> | null {
  const { kinds } = useReading.getState();
  return kinds.size === 0 ? null : reading.then(() => [...kinds]);
}

async function readLarge(client: QueryClient): Promise<void> {
  await Promise.race([wanted, new Promise((resolve) => setTimeout(resolve, PATIENCE_MS))]);
  for (const [part, read] of LARGE.entries()) {
    await readAnswers(client, part).catch(() => undefined);
    useReading.setState(({ kinds }) => ({
      kinds: new Set([...kinds].filter((kind) => !(read as readonly string[]).includes(kind))),
    }));
    await whenIdle();
  }
}

async function readAnswers(client: QueryClient, part: Part): Promise<void> {
  const state = await (await store()).get('answers', part);
  if (!state) return;
  // What was to be asked anew when it was kept cannot be asked now.
  const queries = state.queries.map((query) => ({
    ...query,
    state: { ...query.state, isInvalidated: false },
  }));
  hydrate(client, { ...state, queries });
}

function isReading(part: number): boolean {
  return LARGE[part]!.some((kind) => useReading.getState().kinds.has(kind));
}

/**
 * Whether an answer of this kind may be asked for: not while what is kept of it is being read.
 * @param isPatient there is something to show without it, which comes first
 */
export function useMayAsk(kind: string, isPatient = false): boolean {
  useEffect(() => {
    if (!isPatient) want();
  }, [isPatient]);
  return useReading(({ kinds }) => !kinds.has(kind));
}

/** So long a page that is busy may put off what follows. */
const LATEST_MS = 400;

function whenIdle(): Promise<void> {
  return new Promise((resolve) => {
    if ('requestIdleCallback' in globalThis) requestIdleCallback(() => resolve(), { timeout: LATEST_MS });
    else setTimeout(resolve, LATEST_MS);
  });
}

/** Of when what this page was opened on is, if it was opened on what was last told and must ask for everything once it can. */
export function openedOfflineCopy(): Instant | null {
  return newestAt;
}
