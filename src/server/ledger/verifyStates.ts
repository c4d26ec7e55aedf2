import isEqual from 'fast-deep-equal';
import type { PackId } from '../../core/measure';
import { fold } from '../../core/record';
import type { PackRecord } from '../../core/record';
import type { Entities } from '../platform/database';
import { contextOf } from './context';
import type { PackedLedger } from './packed';
import { packedLedgers, unpacked, writtenLedgers } from './packed';
import { projectionOf } from './projection';
import { knownSql, referencesOf, unknownTo } from './references';
import type { KnownRow } from './references';
import { upsertOf } from './states';

/** A pack of which the register says something that its records do not. */
export interface Unfounded {
  readonly packId: PackId;
  readonly why: string;
}

/** So many packs are judged and compared at once. */
const AT_ONCE = 10;

/**
 * Judges every pack anew and compares that with what the lists say of it; looks for what its records name and the register does not have. Within a
 * transaction, which it leaves as it was.
 */
export async function verifyStates(tx: Entities): Promise<readonly Unfounded[]> {
  const packs: { id: PackId }[] = await tx.execute('select id from pack order by id');
  await tx.execute('create temporary table judged_anew (like pack_state including all) on commit drop');
  const found: Unfounded[] = [];
  for (let first = 0; first < packs.length; first += AT_ONCE)
    found.push(
      ...(await verifySome(
        tx,
        packs.slice(first, first + AT_ONCE).map(({ id }) => id),
      )),
    );
  await tx.execute('drop table judged_anew');
  const strays: { packId: PackId }[] = await tx.execute(
    `select distinct pack_id as "packId" from record where not exists (select from pack where id = pack_id)
     union select pack_id from pack_state where not exists (select from pack where id = pack_id)`,
  );
  return [
    ...found,
    ...strays.map(({ packId }) => ({ packId, why: 'it has records, and is not in the register' })),
  ];
}

async function verifySome(tx: Entities, ids: readonly PackId[]): Promise<readonly Unfounded[]> {
  const found: Unfounded[] = [];
  const { standings, rules, placeTemperatures } = await contextOf(tx, ids);
  const written = await writtenLedgers(tx, ids);
  const ledgers = new Map([...written].map(([id, ledger]) => [id, unpacked(ledger)]));
  const packed = await packedLedgers(tx, ids);
  const rows: ReturnType<typeof projectionOf>[] = [];
  const known = await knownAmong(tx, [...ledgers.values()].flat());
  for (const packId of ids) {
    const records = ledgers.get(packId) ?? [];
    const { facts, left } = standings.get(packId)!;
    if (records.length === 0 || !left) {
      found.push({
        packId,
        why: records.length === 0 ? 'its records are gone' : 'what was said of it is gone',
      });
      continue;
    }
    if (!isPackedAs(packed.get(packId), records))
      found.push({
        packId,
        why: 'its ledger as it was packed for quicker reading is not what its records are',
      });
    const unknown = unknownTo(known, referencesOf(records));
    if (unknown.length > 0)
      found.push({ packId, why: `its records name what is gone. ${unknown[0]!.message}` });
    // A pack that waits to be judged under newer rules says so by an older version.
    if (left.rulesVersion !== rules.version) continue;
    rows.push(projectionOf(fold({ ...facts, placeTemperatures }, records), records, left, rules));
  }
  if (rows.length === 0) return found;
  const { sql, params } = upsertOf(rows, 'judged_anew');
  await tx.execute(sql, params);
  const otherwise: { packId: PackId }[] = await tx.execute(
    `select s.pack_id as "packId" from judged_anew j join pack_state s on s.pack_id = j.pack_id
      where to_jsonb(j) is distinct from to_jsonb(s)`,
  );
  await tx.execute('truncate judged_anew');
  return [
    ...found,
    ...otherwise.map(({ packId }) => ({ packId, why: 'the lists say of it what its records do not' })),
  ];
}

/** Whether what is packed of a ledger, if anything, is what its records are. */
function isPackedAs(ledger: PackedLedger | undefined, records: readonly PackRecord[]): boolean {
  if (!ledger?.packed) return true;
  try {
    return isEqual(unpacked(ledger), records);
  } catch {
    return false;
  }
}

async function knownAmong(
  tx: Entities,
  records: Parameters<typeof referencesOf>[0],
): Promise<readonly KnownRow[]> {
  const { sql, params } = knownSql(referencesOf(records));
  return tx.execute(sql, params);
}
