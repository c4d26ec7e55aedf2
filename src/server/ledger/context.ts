import type { PackId, PlaceId } from '../../core/measure';
import type { PlaceUse } from '../../core/admission';
import type { PlaceTemperature } from '../../core/pack';
import type { RecordDraft } from '../../core/record';
import type { Entities } from '../platform/database';
import { fullContainers } from './containers';
import type { Head } from './keptLedgers';
import type { RulesInForce } from './projection';
import { knownSql, referencesOf } from './references';
import type { KnownRow } from './references';
import { TEMPERATURES } from './rows';
import { NEWEST_RULES, rulesFrom } from './rulesInForce';
import type { RulesRow } from './rulesInForce';

/** What the register says that a record is judged by, beside the pack's own facts and ledger. */
export interface Context {
  /** Where the ledger ends. */
  readonly head: Head | null;
  /** Where it ended when a record was last written, as the pack's state says; null where there is no state. */
  readonly leftAt: Head | null;
  readonly rules: RulesInForce;
  readonly placeTemperatures: readonly PlaceTemperature[];
  /** What the drafts name and the register knows. */
  readonly known: readonly KnownRow[];
}

interface ContextRow {
  readonly head: Head | null;
  readonly left_at: Head | null;
  readonly rules: RulesRow | null;
  readonly temperatures: readonly PlaceTemperature[];
  readonly known: readonly KnownRow[];
}

/** Asked in one statement, and after the pack is locked: only then is its head the last one. */
export async function contextOf(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[] = [],
): Promise<Context> {
  const named = knownSql(referencesOf(drafts));
  const [row]: ContextRow[] = await em.execute(
    `select (select json_build_object('seq', seq, 'hash', hash) from record where pack_id = ? order by seq desc limit 1) as head,
            (select json_build_object('seq', seq, 'hash', head_hash) from pack_state where pack_id = ?) as left_at,
            (select row_to_json(newest) from (${NEWEST_RULES}) newest) as rules,
            (select coalesce(json_agg(t), '[]') from (${TEMPERATURES}) t) as temperatures,
            (select coalesce(json_agg(k), '[]') from (${named.sql}) k) as known`,
    [packId, packId, ...named.params],
  );
  const { head, left_at: leftAt, rules, temperatures, known } = row!;
  return { head, leftAt, rules: rulesFrom(rules), placeTemperatures: temperatures, known };
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
