import type { Verdict } from '../../core/assess';
import type { PackId, PlaceId } from '../../core/measure';
import type { PlaceUse } from '../../core/admission';
import type { PlaceTemperature } from '../../core/pack';
import type { RecordDraft } from '../../core/record';
import { executePrepared } from '../platform/database';
import type { Entities } from '../platform/database';
import { fullContainers } from './containers';
import type { Head } from './keptLedgers';
import type { RulesInForce } from './projection';
import { knownSql, referencesOf } from './references';
import type { KnownRow } from './references';
import { FACTS_OF, factsOf, TEMPERATURES } from './rows';
import type { OwnFacts, PackFactsRow } from './rows';
import { NEWEST_RULES, rulesFrom } from './rulesInForce';
import type { RulesRow } from './rulesInForce';

/** A pack by itself, how its ledger stands, and what was said of it. */
export interface Standing {
  readonly facts: OwnFacts;
  /** Where the ledger ends. */
  readonly head: Head | null;
  readonly left: Left | null;
}

/** A pack's state as it was last written: where the ledger ended then, the verdict, and the rules it was judged under. */
export interface Left extends Head {
  readonly verdict: Verdict;
  readonly rulesVersion: number;
  /** The database's own name for this version of the row: whoever writes the row, in whatever way, makes another. */
  readonly version: string;
}

/** What the register says that packs are judged by, beside their own facts and records. */
export interface Context {
  readonly standings: ReadonlyMap<PackId, Standing>;
  readonly rules: RulesInForce;
  readonly placeTemperatures: readonly PlaceTemperature[];
  /** What the drafts name and the register knows. */
  readonly known: readonly KnownRow[];
}

interface ContextRow {
  readonly standings: readonly (Omit<Standing, 'facts'> & { readonly facts: PackFactsRow })[];
  readonly rules: RulesRow | null;
  readonly temperatures: readonly PlaceTemperature[];
  readonly known: readonly KnownRow[];
}

const STANDINGS = `select row_to_json(f) as facts,
    (select json_build_object('seq', seq, 'hash', hash) from record where pack_id = f.id order by seq desc limit 1) as head,
    (select json_build_object('seq', seq, 'hash', head_hash, 'verdict', verdict, 'rulesVersion', rules_version, 'version', xmin::text)
       from pack_state where pack_id = f.id) as left
  from (${FACTS_OF} where p.id = any(?::uuid[]) order by p.id) f`;

/**
 * Asked in one statement, so that all of it is of one moment. Only of packs that are held are the heads the last ones; whoever holds none
 * compares the version of the state when writing.
 */
export async function contextOf(
  em: Entities,
  ids: readonly PackId[],
  drafts: readonly RecordDraft[] = [],
): Promise<Context> {
  const named = knownSql(referencesOf(drafts));
  const [row] = await executePrepared<ContextRow>(em, {
    sql: `select (select coalesce(json_agg(s), '[]') from (${STANDINGS}) s) as standings,
            (select row_to_json(newest) from (${NEWEST_RULES}) newest) as rules,
            (select coalesce(json_agg(t), '[]') from (${TEMPERATURES}) t) as temperatures,
            (select coalesce(json_agg(k), '[]') from (${named.sql}) k) as known`,
    params: [`{${ids.join(',')}}`, ...named.params],
  });
  const { standings, rules, temperatures, known } = row!;
  return {
    standings: new Map(
      standings.map((one) => [one.facts.id as PackId, { ...one, facts: factsOf(one.facts) }]),
    ),
    rules: rulesFrom(rules),
    placeTemperatures: temperatures,
    known,
  };
}

/** What the places are for that these records name; nothing is looked up for records that name none. */
export async function placeUses(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[],
): Promise<ReadonlyMap<PlaceId, PlaceUse>> {
  if (!drafts.some(({ kind }) => kind === 'moved' || kind === 'returned' || kind === 'disposal'))
    return new Map();
  const full = await fullContainers(em, packId, drafts);
  const rows: Omit<PlaceUse & { id: PlaceId }, 'full'>[] = await em.execute(
    `select id, set_apart as "setApart", kind = 'recycling' as recycling from place`,
  );
  return new Map(rows.map(({ id, ...use }) => [id, { ...use, full: full.has(id) }]));
}
