import { dehydrate, hydrate } from '@tanstack/react-query';
import type { DehydratedState, Query, QueryClient } from '@tanstack/react-query';
import { openDB } from 'idb';
import type { DBSchema, IDBPDatabase } from 'idb';
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
  /** By this device's clock. */
  readonly sessionAt: number;
  readonly state: DehydratedState;
}

type SignedIn = Extract<SessionAnswer, { state: 'signed-in' }>;

interface Store extends DBSchema {
  readonly told: { readonly key: 'last'; readonly value: OfflineCopy };
}

/** Put here by the build. */
declare const __BUILD__: string;

const SAVE_AFTER_MS = 5_000;

let opened: Promise<IDBPDatabase<Store>> | null = null;
let saving: ReturnType<typeof setTimeout> | undefined;
let newestAt: Instant | null = null;

function store(): Promise<IDBPDatabase<Store>> {
  opened ??= openDB<Store>('malle.told', 1, {
    upgrade: (database) => void database.createObjectStore('told'),
  });
  return opened;
}

/** Keeps every answer to queries of these kinds on this device from now on. */
export function keepOfflineCopy(client: QueryClient, sessionKey: string, kinds: readonly string[]): void {
  const isKept = ({ queryKey, state }: Query) =>
    state.status === 'success' && kinds.includes(queryKey[0] as string);
  const save = async () => {
    clearTimeout(saving);
    saving = undefined;
    const session = client.getQueryState<SessionAnswer>([sessionKey]);
    if (!session?.data) return;
    const { data, dataUpdatedAt: sessionAt } = session;
    // Whoever is not let in leaves nothing behind for the next to find.
    if (data.state !== 'signed-in') return forgetOfflineCopy();
    const state = dehydrate(client, { shouldDehydrateQuery: isKept });
    await (await store()).put('told', { build: __BUILD__, session: data, sessionAt, state }, 'last');
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

/** Forgets it, and the packs kept beside it, when somebody signs out. */
export async function forgetOfflineCopy(): Promise<void> {
  clearTimeout(saving);
  saving = undefined;
  await forgetOfflinePacks();
  await (await store()).delete('told', 'last');
}

/**
 * Puts what was last told into the page and answers who was signed in, with the register's time as far as this device
 * can tell; null when nothing is kept, or by another build.
 */
export async function readOfflineCopy(client: QueryClient): Promise<SignedIn | null> {
  const told = await store()
    .then((database) => database.get('told', 'last'))
    .catch(() => undefined);
  if (told?.build !== __BUILD__) return null;
  // What was to be asked anew when it was kept cannot be asked now.
  const queries = told.state.queries.map((query) => ({
    ...query,
    state: { ...query.state, isInvalidated: false },
  }));
  hydrate(client, { ...told.state, queries });
  const { session, sessionAt } = told;
  const ahead = session.now - sessionAt;
  // Not by the session: opened without a network before, that is of then and what was told of earlier.
  const toldAt = queries.map(({ state }) => state.dataUpdatedAt);
  newestAt = Math.max(...(toldAt.length > 0 ? toldAt : [sessionAt])) + ahead;
  return { ...session, now: session.frozen ? session.now : Date.now() + ahead };
}

/** Of when what this page was opened on is, if it was opened on what was last told and must ask for everything once it can. */
export function openedOfflineCopy(): Instant | null {
  return newestAt;
}
