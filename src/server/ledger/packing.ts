import { promisify } from 'node:util';
import { deflateRaw } from 'node:zlib';
import type { PackId } from '../../core/measure';
import { MINUTE_MS } from '../../core/measure';
import type { Database, Entities } from '../platform/database';
import type { Log } from '../platform/log';
import { repeatedly } from '../platform/repeatedly';
import type { Repeated } from '../platform/repeatedly';
import { asJson, packedLedgers } from './packed';

/** So many records a ledger may have that are not packed; or a sixteenth of it, for a long one takes longer to pack. */
const MOST_LOOSE = 32;
const LOOSE_SHARE = 16;
/** So many are packed in one transaction. */
const AT_ONCE = 25;
const PACKING_LOCK = 0x7061636b;

/**
 * Packs the ledgers that have many records since they were packed last, or were never packed. One process does so at a time; who writes to these packs
 * meanwhile waits for nothing.
 * @param goesOn asked between two lots
 * @returns how many were packed
 */
export async function packLedgers(em: Entities, goesOn: () => boolean = () => true): Promise<number> {
  let count = 0;
  let after: PackId | null = null;
  do {
    const lot: Lot = await em.transactional((tx) => packSome(tx, after));
    count += lot.packed;
    after = lot.last;
  } while (after !== null && goesOn());
  return count;
}

interface Lot {
  readonly packed: number;
  /** The pack to go on after; null when there is none. */
  readonly last: PackId | null;
}

async function packSome(tx: Entities, after: PackId | null): Promise<Lot> {
  const [lock]: { free: boolean }[] = await tx.execute('select pg_try_advisory_xact_lock(?) as free', [
    PACKING_LOCK,
  ]);
  if (!lock!.free) return { packed: 0, last: null };
  const loose: { id: PackId }[] = await tx.execute(
    `select s.pack_id as id from pack_state s left join packed_ledger p on p.pack_id = s.pack_id
      where (?::uuid is null or s.pack_id > ?::uuid)
        and s.seq - coalesce(p.seq, 0) >= greatest(${MOST_LOOSE}, s.seq / ${LOOSE_SHARE})
      order by s.pack_id limit ${AT_ONCE}`,
    [after, after],
  );
  for (const { id } of loose) {
    const ledger = (await packedLedgers(tx, [id])).get(id);
    if (!ledger) continue;
    const records = (await deflated(asJson(ledger))).toString('base64');
    await tx.execute(
      `insert into packed_ledger (pack_id, seq, hash, records) values (?, ?, ?, decode(?, 'base64'))
       on conflict (pack_id) do update set seq = excluded.seq, hash = excluded.hash, records = excluded.records`,
      [id, ledger.count, ledger.hash, records],
    );
  }
  return { packed: loose.length, last: loose.length < AT_ONCE ? null : loose.at(-1)!.id };
}

const deflated = promisify(deflateRaw);

/** Keeps ledgers packed while a server runs, as long as there is room to write. */
export function keepPacked(database: Database, hasRoom: () => boolean, log: Log): Repeated {
  return repeatedly(MINUTE_MS, async (goesOn) => {
    try {
      if (hasRoom()) await packLedgers(database.entities(), () => goesOn() && hasRoom());
    } catch (err) {
      // Ledgers are read from their rows meanwhile.
      log.warn({ err }, 'Ledgers could not be packed');
    }
  });
}
