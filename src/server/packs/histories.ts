import type { HistoriesAnswer } from '../../contract';
import type { PackId } from '../../core/measure';
import { allFacts, placeTemperatures, recordsOfMany } from '../ledger';
import type { Entities } from '../platform/database';

/** About so many records go into one answer, so that a browser's worker can begin before the last arrives. */
const PAGE_RECORDS = 8_000;
const MOST_PACKS = 100;

/** The next packs after `after`, with their whole ledgers, for judging them in a browser's worker. */
export async function histories(em: Entities, after: PackId | null): Promise<HistoriesAnswer> {
  const [counted]: { total: number }[] = await em.execute(
    'select count(*)::int as total from pack_state where not empty',
  );
  const candidates: { id: PackId; records: number }[] = await em.execute(
    `select pack_id as id, seq as records from pack_state where not empty and (?::uuid is null or pack_id > ?::uuid)
      order by pack_id limit ${MOST_PACKS}`,
    [after, after],
  );
  const ids: PackId[] = [];
  let records = 0;
  for (const candidate of candidates) {
    if (ids.length > 0 && records + candidate.records > PAGE_RECORDS) break;
    ids.push(candidate.id);
    records += candidate.records;
  }
  return {
    ...(await historiesOf(em, ids)),
    next: ids.length < candidates.length || candidates.length === MOST_PACKS ? ids.at(-1)! : null,
    total: counted!.total,
  };
}

/** The whole ledgers of these packs. */
export async function historiesOf(em: Entities, ids: readonly PackId[]): Promise<HistoriesAnswer> {
  const facts = await allFacts(em, ids);
  const byPack = await recordsOfMany(em, ids);
  return {
    placeTemperatures: await placeTemperatures(em),
    packs: facts.map((pack) => ({ facts: pack, records: byPack.get(pack.id) ?? [] })),
    next: null,
    total: facts.length,
  };
}
