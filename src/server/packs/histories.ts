import type { HistoriesAnswer } from '../../contract';
import type { PackId } from '../../core/measure';
import { allFacts, ledgersAsJson, NO_RECORDS, placeTemperatures } from '../ledger';
import { jsonWith } from '../platform/jsonText';
import type { JsonText } from '../platform/jsonText';
import type { Entities } from '../platform/database';

/** About so many records go into one answer, so that a browser's worker can begin before the last arrives, and no answer fells a server. */
const PAGE_RECORDS = 8_000;
const MOST_PACKS = 100;

/** The next packs after `after`, with their whole ledgers: of all packs, for judging them in a browser's worker, or of those named. */
export async function histories(
  em: Entities,
  after: PackId | null,
  named: readonly PackId[] | null,
): Promise<JsonText<HistoriesAnswer>> {
  const which = named ? 'and pack_id = any(?::uuid[])' : 'and not empty';
  const params = named ? [`{${named.join(',')}}`] : [];
  const [counted]: { total: number }[] = await em.execute(
    `select count(*)::int as total from pack_state where true ${which}`,
    params,
  );
  const candidates: { id: PackId; records: number }[] = await em.execute(
    `select pack_id as id, seq as records from pack_state where (?::uuid is null or pack_id > ?::uuid) ${which}
      order by pack_id limit ${MOST_PACKS}`,
    [after, after, ...params],
  );
  const ids: PackId[] = [];
  let records = 0;
  for (const candidate of candidates) {
    if (ids.length > 0 && records + candidate.records > PAGE_RECORDS) break;
    ids.push(candidate.id);
    records += candidate.records;
  }
  const facts = await allFacts(em, ids);
  const ledgers = await ledgersAsJson(em, ids);
  const packs = facts.map(
    (pack) =>
      jsonWith<HistoriesAnswer['packs'][number]>(
        { facts: pack },
        { records: (ledgers.get(pack.id) ?? NO_RECORDS).json },
      ).text,
  );
  const more = ids.length < candidates.length || candidates.length === MOST_PACKS;
  return jsonWith(
    {
      placeTemperatures: await placeTemperatures(em),
      next: more ? ids.at(-1)! : null,
      total: counted!.total,
    },
    { packs: `[${packs.join(',')}]` },
  );
}
