import { createHash } from 'node:crypto';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import { createGzip } from 'node:zlib';
import { ARCHIVE_BLOCK, ARCHIVE_KEYS, ARCHIVE_ORDER, ARCHIVE_TABLES, archiveHeadOf } from '../../contract';
import type { ArchiveTable } from '../../contract';
import { IsolationLevel } from '../platform/orm';
import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';

/** Rows fetched at once; a photo is as large as thousands of other rows. */
const FETCHED = 500;
const FETCHED_PHOTOS = 4;

/** Which rows of a table go in, as SQL; all where nothing is said. A cursor takes no parameters, so only ids known to be ids stand there. */
type Which = Readonly<Partial<Record<ArchiveTable, string>>>;

/**
 * Writes the whole register as it is at this moment, line by line, packed. Nobody is kept from working meanwhile.
 * @param given stops the writing when whoever asked has gone
 */
export async function writeRegister(em: Entities, out: Writable, given: AbortSignal): Promise<void> {
  await em.transactional(
    async (tx) => {
      await tx.execute(`set local timezone to 'UTC'`);
      await write(tx, out, 'register', ARCHIVE_ORDER, {}, given);
    },
    { isolationLevel: IsolationLevel.REPEATABLE_READ, readOnly: true },
  );
}

/** Writes one pack with its ledger and everything its records name. */
export async function writePack(
  em: Entities,
  packId: PackId,
  out: Writable,
  given: AbortSignal,
): Promise<void> {
  await em.transactional(
    async (tx) => {
      await tx.execute(`set local timezone to 'UTC'`);
      await write(tx, out, 'pack', ARCHIVE_ORDER, await ofPack(tx, packId), given);
    },
    { isolationLevel: IsolationLevel.REPEATABLE_READ, readOnly: true },
  );
}

/** What belongs to one pack. Whatever its records name is found by the ids that stand in them. */
async function ofPack(em: Entities, packId: PackId): Promise<Which> {
  const rows: { said: string }[] = await em.execute(
    `select row_to_json(r)::text as said from record r where pack_id = ?
     union all select row_to_json(e)::text from incident_entry e join incident_pack n using (incident_id) where n.pack_id = ?
     union all select row_to_json(p)::text from pack p where id = ?`,
    [packId, packId, packId],
  );
  const ids = new Set(
    rows.flatMap(({ said }) => said.match(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g) ?? []),
  );
  const all = `array[${[...ids].map((id) => `'${id}'`).join(',')}]::uuid[]`;
  const named = `id = any(${all})`;
  const own = `pack_id = '${packId}'`;
  const incidents = `(select incident_id from incident_pack where ${own})`;
  const none = 'false';
  return {
    person: named,
    place: named,
    place_temperature: `place_id = any(${all})`,
    instrument: none,
    pack_type: `id = (select type_id from pack where id = '${packId}')`,
    recycler: none,
    rule_set: none,
    photo: named,
    delivery: `id = (select delivery_id from pack where id = '${packId}')`,
    pack: `id = '${packId}'`,
    pack_tag: own,
    record: own,
    verdict_move: none,
    incident: `id in ${incidents}`,
    incident_entry: `incident_id in ${incidents}`,
    incident_pack: own,
    incident_task: none,
    consignment: none,
    consignment_correction: none,
    round: none,
    round_row: none,
    equipment: named,
    device: named,
    device_reading: named,
    flying_day: none,
    attendance: none,
    charge_job: none,
    charge_job_pack: none,
    charge_curve: named,
    channel_setting: none,
    import: none,
    import_pack: none,
    import_record: none,
  };
}

async function write(
  em: Entities,
  out: Writable,
  of: 'register' | 'pack',
  tables: readonly ArchiveTable[],
  which: Which,
  given: AbortSignal,
): Promise<void> {
  const packed = createGzip();
  packed.pipe(out);
  const closed = new Promise<void>((done) => out.once('close', () => done()));
  const counted: Record<string, number> = {};
  const blocks: { from: number; to: number; sha256: string }[] = [];
  let line = 0;
  let block = { from: 1, digest: createHash('sha256') };
  const closeBlock = () => {
    if (block.from > line) return;
    blocks.push({ from: block.from, to: line, sha256: block.digest.digest('hex') });
    block = { from: line + 1, digest: createHash('sha256') };
  };
  const put = async (text: string) => {
    line += 1;
    block.digest.update(`${text}\n`);
    if (line % ARCHIVE_BLOCK === 0) closeBlock();
    if (!packed.write(`${text}\n`)) await Promise.race([once(packed, 'drain'), closed]);
    given.throwIfAborted();
  };
  await put(JSON.stringify(archiveHeadOf(of)));
  for (const table of tables) {
    counted[table] = 0;
    for await (const row of rowsOf(em, table, which[table])) {
      await put(`{"${table}":${row}}`);
      counted[table] += 1;
    }
  }
  closeBlock();
  packed.end(`${JSON.stringify({ manifest: { rows: counted, blocks } })}\n`);
  await closed;
}

/** The rows of a table as the database writes them, by their key. */
async function* rowsOf(em: Entities, table: ArchiveTable, which?: string): AsyncGenerator<string> {
  const columns = Object.keys(ARCHIVE_TABLES[table].shape);
  const key = columns.slice(0, ARCHIVE_KEYS[table]).join(', ');
  const where = which ? `where ${which}` : '';
  const rows = `select row_to_json(t)::text as row from (select ${columns.join(', ')} from "${table}" ${where} order by ${key}) t`;
  await em.execute(`declare ${table}_rows no scroll cursor for ${rows}`);
  const size = table === 'photo' ? FETCHED_PHOTOS : FETCHED;
  for (;;) {
    const fetched: { row: string }[] = await em.execute(`fetch ${size} from ${table}_rows`);
    for (const { row } of fetched) yield row;
    if (fetched.length < size) break;
  }
  await em.execute(`close ${table}_rows`);
}
