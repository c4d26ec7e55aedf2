import { useQuery } from '@tanstack/react-query';
import type { QueryKey } from '@tanstack/react-query';
import type { PackId, RoundId } from '../../core/measure';
import type { PackFacts } from '../../core/pack';
import type { PackRecord } from '../../core/record';
import type { RegisterAnswer } from '../../contract';
import { noAnswer } from '../app/api';
import { ledgersOf } from '../app/ledgers';
import { useMayAsk } from '../app/offlineCopy';
import { readOfflinePack } from '../app/offlinePacks';
import { KEYS, putData, queryClient } from '../app/queries';
import { factsOf } from './packFacts';

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
    enabled: useMayAsk(KEYS.anyHistories[0]),
  });
}

async function fetchHistories(ids: readonly PackId[]): Promise<KnownPacks> {
  const known = new Map<PackId, KnownPack>();
  for (let i = 0; i < ids.length; i += AT_ONCE) {
    const some = ids.slice(i, i + AT_ONCE);
    for (const pack of await knownOrKept(some)) known.set(pack.facts.id, pack);
  }
  return known;
}

/** What the register answers of these packs; without a network, as far as they are kept on this device. */
async function knownOrKept(ids: readonly PackId[]): Promise<readonly KnownPack[]> {
  try {
    const { packs, placeTemperatures } = await ledgersOf(ids);
    return packs.map(({ facts, records }) => ({ facts: { ...facts, placeTemperatures }, records }));
  } catch (error) {
    if (!noAnswer(error)) throw error;
    const kept = (await Promise.all(ids.map(keptPack))).filter((pack) => pack !== null);
    if (kept.length === 0) throw error;
    return kept;
  }
}

async function keptPack(id: PackId): Promise<KnownPack | null> {
  const register = queryClient.getQueryData<RegisterAnswer>(KEYS.register);
  const pack = await readOfflinePack(id).catch(() => null);
  const type = register?.types.find((one) => one.id === pack?.typeId);
  return register && pack && type ? { facts: factsOf(pack, type, register), records: pack.records } : null;
}

/** Adds records just kept to what open rounds know of their pack. */
export function addToHistories(packId: PackId, kept: readonly PackRecord[]): void {
  for (const key of openRounds())
    putData<KnownPacks>(key, (known) => {
      const pack = known.get(packId);
      return pack ? new Map(known).set(packId, { ...pack, records: joined(pack.records, kept) }) : known;
    });
}

/** Fetches the ledgers of these packs anew into whatever rounds are open here. */
export async function refreshHistories(ids: readonly PackId[], roundId?: RoundId): Promise<void> {
  const open = roundId ? [KEYS.histories(roundId)] : openRounds();
  if (open.length === 0 || ids.length === 0) return;
  const fresh = await fetchHistories(ids);
  for (const key of open) putData<KnownPacks>(key, (known) => merged(known, fresh));
}

/** What was known with what came: nothing is ever taken out of a ledger, so an answer that came late takes nothing back. */
export function merged(known: KnownPacks, fresh: KnownPacks): KnownPacks {
  const all = new Map(known);
  for (const [id, { facts, records }] of fresh)
    all.set(id, { facts, records: joined(records, known.get(id)?.records ?? []) });
  return all;
}

function openRounds(): readonly QueryKey[] {
  return queryClient.getQueriesData<KnownPacks>({ queryKey: KEYS.anyHistories }).map(([key]) => key);
}

/** A ledger with records it may have had or not, each once. */
export function joined(records: readonly PackRecord[], more: readonly PackRecord[]): readonly PackRecord[] {
  const ids = new Set(records.map(({ id }) => id));
  return [...records, ...more.filter(({ id }) => !ids.has(id))];
}

/** Of packs that changed, those of which an open round knows less than the ledger now holds. */
export function outdated(changed: ReadonlyMap<PackId, number>): readonly PackId[] {
  const open = queryClient.getQueriesData<KnownPacks>({ queryKey: KEYS.anyHistories });
  return [...changed]
    .filter(([id, seq]) => open.some(([, known]) => known?.has(id) && known.get(id)!.records.length < seq))
    .map(([id]) => id);
}
