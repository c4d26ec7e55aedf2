import type { PackId, PersonId, RecordId } from '../../core/measure';
import type { PackFacts, PlaceTemperature } from '../../core/pack';
import type { PackRecord } from '../../core/record';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities, Statement } from '../platform/database';
import { FIRST_LINK, linkOf } from './hash';

/** A record with its link in the chain, as the ledger holds it. */
export interface ChainedRecord {
  readonly record: PackRecord;
  readonly prevHash: string;
  readonly hash: string;
}

interface StoredRow {
  readonly pack_id: string;
  readonly seq: number;
  readonly id: string;
  readonly kind: string;
  readonly at: number;
  readonly recorded_at: number;
  readonly by: string;
  readonly payload: unknown;
  readonly supersedes: string | null;
  readonly rules_version: number;
  readonly prev_hash: string;
  readonly hash: string;
}

const RECORD_COLUMNS = `pack_id, seq, id, kind, ${asInstant('at')} as at, ${asInstant('recorded_at')} as recorded_at, by, payload,
  supersedes, rules_version, prev_hash, hash`;

/** All records of one pack in the order they arrived, or those after a number. */
export async function recordsOf(
  em: Entities,
  packId: PackId,
  afterSeq = 0,
): Promise<readonly ChainedRecord[]> {
  const rows: StoredRow[] = await em.execute(
    `select ${RECORD_COLUMNS} from record where pack_id = ? and seq > ? order by seq`,
    [packId, afterSeq],
  );
  return rows.map(chainedRecord);
}

const whole = (moment: string) => `round(date_part('epoch', ${moment}) * 1000)::bigint`;

/**
 * A record as the JSON the contract describes, as SQL. Joined by hand, since that takes half of what PostgreSQL's own function takes. Ids, kinds and
 * numbers hold nothing that JSON would write otherwise.
 */
export const RECORD_AS_JSON = `'{"id":"' || id || '","packId":"' || pack_id || '","seq":' || seq || ',"kind":"' || kind
  || '","at":' || ${whole('at')} || ',"recordedAt":' || ${whole('recorded_at')} || ',"by":"' || by
  || '","payload":' || payload || ',"supersedes":' || coalesce('"' || supersedes || '"', 'null')
  || ',"rulesVersion":' || rules_version || '}'`;

/** The gate where rows become records: what went in was parsed by the contract, so what comes out is trusted. */
function chainedRecord(row: StoredRow): ChainedRecord {
  const record = {
    id: row.id as RecordId,
    packId: row.pack_id as PackId,
    seq: row.seq,
    kind: row.kind,
    at: row.at,
    recordedAt: row.recorded_at,
    by: row.by as PersonId,
    payload: row.payload,
    supersedes: row.supersedes as RecordId | null,
    rulesVersion: row.rules_version,
  } as PackRecord;
  return { record, prevHash: row.prev_hash, hash: row.hash };
}

/** Chains new records to the last link known. */
export function chain(records: readonly PackRecord[], lastHash: string | null): readonly ChainedRecord[] {
  let prevHash = lastHash ?? FIRST_LINK;
  return records.map((record) => {
    const link = { record, prevHash, hash: linkOf(record, prevHash) };
    prevHash = link.hash;
    return link;
  });
}

const RECORD_FIELDS = `pack_id, seq, id, kind, at, recorded_at, by, payload, supersedes, rules_version, prev_hash, hash`;

/** An INSERT of these records: unconditionally, or only where another part of the statement, named here, has a row. */
export function insertOf(chained: readonly ChainedRecord[], where?: string): Statement {
  const rows = chained.map(({ record, prevHash, hash }) => ({
    pack_id: record.packId,
    seq: record.seq,
    id: record.id,
    kind: record.kind,
    at: timestamp(record.at),
    recorded_at: timestamp(record.recordedAt),
    by: record.by,
    payload: record.payload,
    supersedes: record.supersedes,
    rules_version: record.rulesVersion,
    prev_hash: prevHash,
    hash,
  }));
  return {
    sql: `insert into record (${RECORD_FIELDS}) select r.* from jsonb_to_recordset(?::jsonb)
      as r(pack_id uuid, seq int, id uuid, kind text, at timestamptz, recorded_at timestamptz, by uuid, payload jsonb,
           supersedes uuid, rules_version int, prev_hash text, hash text)${where ? `, ${where}` : ''}`,
    params: [JSON.stringify(rows)],
  };
}

export interface PackFactsRow {
  readonly id: string;
  readonly field_pack: boolean;
  readonly smart: PackFacts['smart'];
  readonly in_service_at: number | null;
  readonly chemistry: PackFacts['chemistry'];
  readonly series: number;
  readonly parallel: number;
  readonly capacity_mah: number;
  readonly continuous_c: number | null;
  readonly burst_c: number | null;
  readonly charge_c: number | null;
  readonly duty_class: PackFacts['dutyClass'];
}

/** A {@link PackFactsRow} of each pack, as SQL. */
export const FACTS_OF = `select p.id, p.field_pack, p.smart, ${asInstant('p.in_service_at')} as in_service_at, t.chemistry, t.series,
         t.parallel, t.capacity_mah, t.continuous_c, t.burst_c, t.charge_c, t.duty_class
    from pack p join pack_type t on t.id = p.type_id`;

/** What judging needs to know of a pack. */
export async function packFacts(em: Entities, packId: PackId): Promise<PackFacts | null> {
  const [own] = await allFacts(em, [packId]);
  return own ? { ...own, placeTemperatures: await placeTemperatures(em) } : null;
}

/** SQL that holds packs: nobody else may write to them until the transaction ends. */
export const HOLDING = 'select id from pack where id = any(?::uuid[]) order by id for no key update';

/**
 * Holds packs, and answers those that are there, in the order of their ids.
 * @param passesOver leaves out what somebody else holds at this moment, and waits for nothing
 */
export async function hold(
  em: Entities,
  ids: readonly PackId[],
  passesOver = false,
): Promise<readonly PackId[]> {
  const rows: { id: PackId }[] = await em.execute(`${HOLDING} ${passesOver ? 'skip locked' : ''}`, [
    `{${ids.join(',')}}`,
  ]);
  return rows.map(({ id }) => id);
}

/** How warm the register's places have been, oldest first, as SQL. */
export const TEMPERATURES = `select place_id as "placeId", ${asInstant('since')} as since, celsius
  from place_temperature order by since, place_id`;

export async function placeTemperatures(em: Entities): Promise<readonly PlaceTemperature[]> {
  return em.execute(TEMPERATURES);
}

/** What is known of a pack by itself; the places' temperatures are the same for all. */
export type OwnFacts = Omit<PackFacts, 'placeTemperatures'>;

/** The same of several packs, in the order of their ids. */
export async function allFacts(em: Entities, ids: readonly PackId[]): Promise<readonly OwnFacts[]> {
  const rows: PackFactsRow[] = await em.execute(`${FACTS_OF} where p.id = any(?::uuid[]) order by p.id`, [
    `{${ids.join(',')}}`,
  ]);
  return rows.map(factsOf);
}

export function factsOf(row: PackFactsRow): OwnFacts {
  return {
    id: row.id as PackId,
    fieldPack: row.field_pack,
    smart: row.smart,
    inServiceAt: row.in_service_at,
    chemistry: row.chemistry,
    series: row.series,
    parallel: row.parallel,
    capacityMah: row.capacity_mah,
    continuousC: row.continuous_c,
    burstC: row.burst_c,
    chargeC: row.charge_c,
    dutyClass: row.duty_class,
  };
}
