import { useQuery } from '@tanstack/react-query';
import type { HistoriesAnswer } from '../../contract';
import type { PackId, RoundId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import type { PackRecord } from '../../core/record';
import { ask } from './api';
import { KEYS, queryClient } from './queries';

/** What judging a pack here needs: its facts and its ledger. */
export interface KnownPack {
  readonly facts: PackFacts;
  readonly records: readonly PackRecord[];
}

type KnownPacks = ReadonlyMap<PackId, KnownPack>;

/** So many packs' ledgers are asked for at once. */
const AT_ONCE = 40;

/** The ledgers of a round's packs, fetched when it opens so that it goes on without a connection. */
export function useRoundHistories(roundId: RoundId, packIds: readonly PackId[]) {
  return useQuery({
    queryKey: KEYS.histories(roundId),
    queryFn: () => fetchHistories(packIds),
  });
}

async function fetchHistories(ids: readonly PackId[]): Promise<KnownPacks> {
  const known = new Map<PackId, KnownPack>();
  for (let i = 0; i < ids.length; i += AT_ONCE) {
    const some = ids.slice(i, i + AT_ONCE);
    const { packs, placeTemperatures } = await ask<HistoriesAnswer>(
      'GET',
      `/histories?ids=${some.join(',')}`,
    );
    for (const { facts, records } of packs)
      known.set(facts.id, { facts: { ...facts, placeTemperatures }, records });
  }
  return known;
}

/** Adds what is now known of some packs to a round's ledgers: one that was scanned in, or records just kept. */
export function learn(roundId: RoundId, packId: PackId, kept: readonly PackRecord[]): void {
  queryClient.setQueryData<KnownPacks>(KEYS.histories(roundId), (known) => {
    const pack = known?.get(packId);
    if (!known || !pack) return known;
    const ids = new Set(pack.records.map(({ id }) => id));
    const records = [...pack.records, ...kept.filter(({ id }) => !ids.has(id))];
    return new Map(known).set(packId, { ...pack, records });
  });
}

/** Fetches the ledgers of these packs anew into whatever rounds are open here. */
export async function refreshHistories(ids: readonly PackId[], roundId?: RoundId): Promise<void> {
  const open = roundId
    ? [KEYS.histories(roundId)]
    : queryClient.getQueriesData<KnownPacks>({ queryKey: KEYS.anyHistories }).map(([key]) => key);
  if (open.length === 0 || ids.length === 0) return;
  const fresh = await fetchHistories(ids);
  for (const key of open) {
    queryClient.setQueryData<KnownPacks>(key, (known) => known && new Map([...known, ...fresh]));
  }
}

/** Of packs that changed, those of which an open round knows less than the ledger now holds. */
export function outdated(changed: ReadonlyMap<PackId, number>): readonly PackId[] {
  const open = queryClient.getQueriesData<KnownPacks>({ queryKey: KEYS.anyHistories });
  return [...changed]
    .filter(([id, seq]) => open.some(([, known]) => known?.has(id) && known.get(id)!.records.length < seq))
    .map(([id]) => id);
}
