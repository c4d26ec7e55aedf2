import type { QueryKey } from '@tanstack/react-query';
import { create } from 'zustand';
import type { LaterRow, PackRow } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { PackId } from '../../core/measure';
import { ask } from './api';
import { useLive } from './live';
import { keepPacks, keptEditions } from './offlinePacks';
import type { Edition } from './offlinePacks';
import { KEYS, QUERIES, putData, queryClient } from './queries';

export interface Kept {
  /** How many packs are here in full, as they now stand; null until that was looked at. */
  readonly packs: { readonly kept: number; readonly of: number } | null;
}

/** How much of the register this device has for where there is no network. */
export const useKept = create<Kept>(() => ({ packs: null }));

/** What is on the page comes first. */
const AFTER_OPENING_MS = 3_000;
/** Changes are gathered for so long: an evening of put-away changes forty packs, each several times. */
const GATHER_MS = 10_000;
/** The three weeks that are told ahead are moved along so often on a page that stays open. */
const AHEAD_FOR_MS = 12 * HOUR_MS;
/** Some hundred kilobytes an answer, so that a slow line brings something before it breaks off. */
const AT_ONCE = 25;

/**
 * Keeps on this device what flying without a network needs: all packs with their ledgers, the register, the house rules, the rounds that
 * are open, and what time will make of every pack. Fetches only what changed, whenever something did and there is a line.
 */
export function keepForOffline(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isKeeping = false;
  let isStopped = false;
  const later = (ms: number) => {
    if (!isStopped) timer ??= setTimeout(() => void begin(), ms);
  };
  const begin = async () => {
    timer = undefined;
    if (isKeeping) return later(GATHER_MS);
    isKeeping = true;
    // A device without room or leave to keep anything works as before, with a network.
    await keepAll(() => isStopped).catch(() => undefined);
    isKeeping = false;
  };
  const unsubscribeRows = queryClient.getQueryCache().subscribe(({ type, query }) => {
    if (type === 'updated' && (query.queryKey as QueryKey)[0] === KEYS.packs[0]) later(GATHER_MS);
  });
  const unsubscribeLine = useLive.subscribe(({ state }, before) => {
    if (state === 'live' && before.state !== 'live') later(AFTER_OPENING_MS);
  });
  later(AFTER_OPENING_MS);
  return () => {
    isStopped = true;
    clearTimeout(timer);
    unsubscribeRows();
    unsubscribeLine();
  };
}

async function keepAll(isStopped: () => boolean): Promise<void> {
  const isLive = () => !isStopped() && useLive.getState().state === 'live';
  const toldAhead = queryClient.getQueryState(KEYS.laterRows);
  const isAhead = toldAhead?.data !== undefined && Date.now() - toldAhead.dataUpdatedAt < AHEAD_FOR_MS;
  if (isLive()) await fetchAnswers();
  const rows = queryClient.getQueryData<readonly PackRow[]>(KEYS.packs);
  if (!rows) return;
  const tell = (kept: ReadonlyMap<PackId, Edition>) => useKept.setState({ packs: countOf(rows, kept) });
  let kept = await keptEditions();
  tell(kept);
  if (!isLive()) return;
  askToStay();
  const here = new Set(rows.map(({ id }) => id));
  const gone = [...kept.keys()].filter((id) => !here.has(id));
  const missing = rows.filter((row) => !isNewest(row, kept.get(row.id))).map(({ id }) => id);
  if (!isAhead) await queryClient.fetchQuery({ ...QUERIES.laterRows, staleTime: 0 });
  if (gone.length > 0) kept = await keepPacks([], gone);
  for (let i = 0; i < missing.length && isLive(); i += AT_ONCE) {
    const some = missing.slice(i, i + AT_ONCE);
    const packs = await ask('GET /offline-packs', { query: { ids: some.join(',') } });
    // Whoever left meanwhile had everything forgotten here.
    if (isStopped()) return;
    kept = await keepPacks(packs);
    if (isAhead) await refreshLaterRows(some);
    tell(kept);
  }
}

let hasAsked = false;

/** Browsers clear out what was not asked to stay when the device runs short of room. Some of them ask the person, who is asked once. */
function askToStay(): void {
  if (hasAsked || !('storage' in navigator)) return;
  hasAsked = true;
  const asked = async () => {
    if (!(await navigator.storage.persisted())) await navigator.storage.persist();
  };
  asked().catch(() => undefined);
}

/** What no page may have asked for yet, or not since it changed. One that fails is asked for again the next time. */
async function fetchAnswers(): Promise<void> {
  const { register, packs, today, flying, charging, incidents, rounds, rules } = QUERIES;
  await queryClient.prefetchQuery(register);
  await queryClient.prefetchQuery(packs);
  await queryClient.prefetchQuery(today);
  await queryClient.prefetchQuery(flying);
  await queryClient.prefetchQuery(charging);
  await queryClient.prefetchQuery(incidents);
  await queryClient.prefetchQuery(rules);
  for (const { id, closedAt } of await queryClient.ensureQueryData(rounds))
    if (closedAt === null) await queryClient.prefetchQuery(QUERIES.round(id));
}

/** What time will make of these packs, in place of what was told ahead before they changed. */
async function refreshLaterRows(ids: readonly PackId[]): Promise<void> {
  const fresh = await ask('GET /offline-rows', { query: { ids: ids.join(',') } });
  const changed = new Set(ids);
  putData<LaterRow[]>(KEYS.laterRows, (rows) => [
    ...rows.filter(({ row }) => !changed.has(row.id)),
    ...fresh,
  ]);
}

function countOf(rows: readonly PackRow[], kept: ReadonlyMap<PackId, Edition>) {
  return { kept: rows.filter((row) => isNewest(row, kept.get(row.id))).length, of: rows.length };
}

function isNewest(row: PackRow, kept: Edition | undefined): boolean {
  return kept !== undefined && kept.seq >= row.seq && kept.version >= row.version;
}
