import { inflateRawSync } from 'node:zlib';
import type { PackId } from '../../core/measure';
import type { PackRecord } from '../../core/record';
import type { Entities } from '../platform/database';
import { RECORD_AS_JSON } from './rows';

/**
 * A whole ledger, most of it as it was packed: its first records as JSON, raw deflate, and those that were written since. Together they are what the rows
 * of `record` are, for a packed ledger counts only where the seal of its last record is the one that record has.
 */
export interface PackedLedger {
  /** The first records, an array; null where none are packed yet. */
  readonly packed: Buffer | null;
  /** Those after them as JSON, an array. */
  readonly rest: string;
  /** How many there are in all. */
  readonly count: number;
  /** The seal of the last. */
  readonly hash: string;
}

/** The ledgers of several packs; one without records has none. */
export function packedLedgers(
  em: Entities,
  ids: readonly PackId[],
): Promise<ReadonlyMap<PackId, PackedLedger>> {
  return ledgers(em, ids, 'packed_ledger');
}

/** The same with nothing packed: what stands in the rows themselves, which is the evidence. */
export function writtenLedgers(
  em: Entities,
  ids: readonly PackId[],
): Promise<ReadonlyMap<PackId, PackedLedger>> {
  return ledgers(em, ids, '(select * from packed_ledger limit 0)');
}

async function ledgers(
  em: Entities,
  ids: readonly PackId[],
  packed: string,
): Promise<ReadonlyMap<PackId, PackedLedger>> {
  const rows: (PackedLedger & { packId: PackId })[] = await em.execute(
    `select k.id as "packId", p.records as packed, '[' || coalesce(r.list, '') || ']' as rest,
            coalesce(p.seq, 0) + r.count as count, coalesce(r.hash, p.hash) as hash
       from unnest(?::uuid[]) k(id)
       left join (${packed} p join record l on l.pack_id = p.pack_id and l.seq = p.seq and l.hash = p.hash) on p.pack_id = k.id
       cross join lateral (
         select string_agg(${RECORD_AS_JSON}, ',' order by seq) as list, count(*)::int as count,
                (array_agg(hash order by seq desc))[1] as hash
           from record where pack_id = k.id and seq > coalesce(p.seq, 0)) r
      where p.seq is not null or r.count > 0`,
    [`{${ids.join(',')}}`],
  );
  return new Map(rows.map(({ packId, ...ledger }) => [packId, ledger]));
}

/** All its records in the order they arrived. */
export function unpacked({ packed, rest }: PackedLedger): readonly PackRecord[] {
  const since = JSON.parse(rest) as readonly PackRecord[];
  return packed === null ? since : [...(JSON.parse(inflated(packed)) as readonly PackRecord[]), ...since];
}

const inflated = (packed: Buffer) => inflateRawSync(packed).toString();

/** The records of several packs, each ledger in the order its records arrived. */
export async function recordsOfMany(
  em: Entities,
  ids: readonly PackId[],
): Promise<ReadonlyMap<PackId, readonly PackRecord[]>> {
  const found = await packedLedgers(em, ids);
  return new Map([...found].map(([id, ledger]) => [id, unpacked(ledger)]));
}

export const NOTHING_WRITTEN: PackedLedger = { packed: null, rest: '[]', count: 0, hash: '' };

/** A ledger as a text of JSON, and how many records it has. */
export interface LedgerAsJson {
  readonly json: string;
  readonly count: number;
}

export const NO_RECORDS: LedgerAsJson = { json: '[]', count: 0 };

/**
 * The same as the JSON the contract describes, an array for each pack that has records. The database writes it, so that a whole ledger passes through the
 * server as one text: nobody reads it here.
 */
export async function ledgersAsJson(
  em: Entities,
  ids: readonly PackId[],
): Promise<ReadonlyMap<PackId, LedgerAsJson>> {
  const found = await packedLedgers(em, ids);
  return new Map([...found].map(([id, ledger]) => [id, { json: asJson(ledger), count: ledger.count }]));
}

/** Both arrays as one; what is packed has something in it. */
export function asJson({ packed, rest }: PackedLedger): string {
  if (packed === null) return rest;
  const first = inflated(packed);
  return rest === '[]' ? first : `${first.slice(0, -1)},${rest.slice(1)}`;
}
