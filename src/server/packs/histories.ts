import type { HistoriesAnswer } from '../../contract';
import type { Instant, PackId } from '../../core/measure';
import { allFacts, asJson, NOTHING_WRITTEN, packedLedgers, placeTemperatures, rulesInForce } from '../ledger';
import { asInstant, timestamp } from '../platform/columns';
import { jsonWith } from '../platform/jsonText';
import type { JsonText } from '../platform/jsonText';
import type { Entities } from '../platform/database';

/** About so many records go into one answer, so that a browser's worker can begin before the last arrives, and no answer fells a server. */
const PAGE_RECORDS = 8_000;
/** An answer looks at no more packs, those of other shares among them. */
const MOST_PACKS = 200;

/** Which ledgers, and how they are handed out. */
interface Asked {
  /** The pack to go on after; null begins. */
  readonly after: PackId | null;
  /** Of these packs; null is all that hold something. */
  readonly named: readonly PackId[] | null;
  /** Whether whoever asks unpacks long ledgers: that costs the server next to nothing. */
  readonly packed: boolean;
  /** Which share of so many: each pack is in one of them. */
  readonly share: number;
  readonly shares: number;
}

/** The next packs with their whole ledgers, for judging them in a browser's worker, and how each stands now. */
export async function histories(
  em: Entities,
  { after, named, packed, share, shares }: Asked,
  now: Instant,
): Promise<JsonText<HistoriesAnswer>> {
  const which = named ? 'and pack_id = any(?::uuid[])' : 'and not empty';
  const params = named ? [`{${named.join(',')}}`] : [];
  const [counted]: { total: number }[] = await em.execute(
    `select count(*)::int as total from pack_state where true ${which}`,
    params,
  );
  // The share is told after the limit: PostgreSQL takes few packs to be of any share, and would go through all to find them.
  const candidates: { id: PackId; records: number; isOfShare: boolean }[] = await em.execute(
    `select pack_id as id, seq as records, (hashtext(pack_id::text) & 2147483647) % ?::int = ?::int as "isOfShare"
       from (select pack_id, seq from pack_state where (?::uuid is null or pack_id > ?::uuid) ${which}
              order by pack_id limit ${MOST_PACKS}) next order by pack_id`,
    [shares, share, after, after, ...params],
  );
  const ids: PackId[] = [];
  let records = 0;
  let next = candidates.length === MOST_PACKS ? candidates.at(-1)!.id : null;
  let passed = after;
  for (const candidate of candidates) {
    if (candidate.isOfShare && ids.length > 0 && records + candidate.records > PAGE_RECORDS) {
      next = passed;
      break;
    }
    passed = candidate.id;
    if (!candidate.isOfShare) continue;
    ids.push(candidate.id);
    records += candidate.records;
  }
  const facts = await allFacts(em, ids);
  const ledgers = await packedLedgers(em, ids);
  const { version: rulesVersion } = await rulesInForce(em);
  const standings = await standingsOf(em, ids, rulesVersion, now);
  const packs = facts.map((pack) => {
    const ledger = ledgers.get(pack.id) ?? NOTHING_WRITTEN;
    const first = packed ? ledger.packed : null;
    return jsonWith<HistoriesAnswer['packs'][number]>(
      {
        facts: pack,
        standing: standings.get(pack.id) ?? null,
        packed: first?.toString('base64') ?? null,
        count: ledger.count,
      },
      { records: first ? ledger.rest : asJson(ledger) },
    ).text;
  });
  return jsonWith(
    {
      placeTemperatures: await placeTemperatures(em),
      rulesVersion,
      next,
      total: counted!.total,
    },
    { packs: `[${packs.join(',')}]` },
  );
}

type Standing = NonNullable<HistoriesAnswer['packs'][number]['standing']>;

/** Of each rule that found anything, the gravest: findings are told worst first, and of two of a name the later one counts here. */
const FOUND = `select coalesce(jsonb_object_agg(one ->> 'rule', one ->> 'severity' order by n desc), '{}')
                 from jsonb_array_elements(findings) with ordinality f(one, n)`;

/** How these packs stand now, those that are judged under the newest rules. */
async function standingsOf(
  em: Entities,
  ids: readonly PackId[],
  rulesVersion: number,
  now: Instant,
): Promise<ReadonlyMap<PackId, Standing>> {
  const rows: (Standing & { id: PackId })[] = await em.execute(
    `select pack_id as id, verdict, ${asInstant('due_at')} as "dueAt", (${FOUND}) as found
       from pack_state_at(?, ?::uuid[]) where rules_version = ?`,
    [timestamp(now), `{${ids.join(',')}}`, rulesVersion],
  );
  return new Map(rows.map(({ id, ...standing }) => [id, standing]));
}
