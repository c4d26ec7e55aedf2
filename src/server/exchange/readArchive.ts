import { createHash } from 'node:crypto';
import { createInterface } from 'node:readline';
import { pipeline, Transform } from 'node:stream';
import type { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type { z } from 'zod';
import {
  ARCHIVE_BLOCK,
  ARCHIVE_ORDER,
  ARCHIVE_TABLES,
  ARCHIVE_VERSION,
  archiveHead,
  archiveManifest,
} from '../../contract';
import type { ArchiveTable } from '../../contract';
import { rebuildAll, verifyLedger } from '../ledger';
import type { Entities } from '../platform/database';
import { Refused } from '../platform/problems';

/** Rows put into the database at once. */
const BATCH = 500;
/** A photo's row is large; a batch is given over when its text is. */
const BATCH_TEXT = 4_000_000;

/** What was read. */
export interface Read {
  readonly packs: number;
  readonly records: number;
}

/**
 * Reads an archive into a register that holds nothing: all of it or nothing. Every line is held against its schema, every block against
 * its digest, every chain of the ledger against its seals; then every pack is judged anew.
 * @throws {@link Refused} with the line at which it fails
 */
export async function readArchive(em: Entities, file: Readable): Promise<Read> {
  // Looked at first, so that nobody from outside can hold up a register that is at work.
  await refuseUnlessEmpty(em);
  return em.transactional(async (tx) => {
    await tx.execute('lock table person, pack, record in exclusive mode');
    await refuseUnlessEmpty(tx);
    // The first rules were laid down when the register was opened; those of the archive take their place.
    await tx.execute('delete from rule_set');
    await tx.execute(`set local timezone to 'UTC'`);
    await readLines(tx, file);
    const packs = await rebuildAll(tx);
    const { records, broken } = await verifyLedger(tx);
    const [first] = broken;
    if (first) {
      const [pack]: { tag: string }[] = await tx.execute('select tag from pack where id = ?', [first.packId]);
      throw notTaken(
        `Record ${first.seq} of ${pack?.tag ?? 'a pack'} is not as it was sealed: ${first.why}.`,
      );
    }
    return { packs, records };
  });
}

function notTaken(detail: string): Refused {
  return new Refused('invalid-input', {
    detail: `This archive was not read. ${detail}`,
    errors: [{ field: 'archive', message: detail }],
  });
}

async function refuseUnlessEmpty(em: Entities): Promise<void> {
  const [{ people, packs }]: [{ people: number; packs: number }] = await em.execute(
    'select (select count(*)::int from person) as people, (select count(*)::int from pack) as packs',
  );
  if (people > 0 || packs > 0)
    throw new Refused('already-set-up', {
      detail: 'An archive is read into a register that holds nothing yet. Start one on an empty database.',
    });
}

/** Reads line by line; holds no more than a batch. */
async function readLines(em: Entities, file: Readable): Promise<void> {
  let failure: unknown = null;
  const unpacked = pipeline(file, createGunzip(), endlessLinesRefused(), (error) => {
    if (!error) return;
    failure = error;
    lines.close();
  });
  const lines = createInterface({ input: unpacked, crlfDelay: Infinity });
  const state = new Reading(em);
  try {
    for await (const text of lines) await state.line(text);
  } catch (error) {
    // What is damaged ends the reading of lines by an error of its own kind.
    if (error instanceof Refused) throw error;
    failure ??= error;
  }
  if (failure !== null) throw notTaken(`It is damaged or cut short after line ${state.at}.`);
  state.end();
}

/** The longest line there is holds a picture; a little file can unpack to a line that no memory holds. */
const LONGEST_LINE = 32 * 1024 * 1024;

function endlessLinesRefused(): Transform {
  let length = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const end = chunk.lastIndexOf('\n');
      length = end < 0 ? length + chunk.length : chunk.length - end - 1;
      done(length > LONGEST_LINE ? new Error('a line without an end') : null, chunk);
    },
  });
}

/** An archive on its way in. */
class Reading {
  at = 0;
  private readonly rows: Record<string, number> = {};
  private readonly blocks: { from: number; to: number; sha256: string }[] = [];
  private block = { from: 1, digest: createHash('sha256') };
  private manifest: z.output<typeof archiveManifest>['manifest'] | null = null;
  private batch: { table: ArchiveTable; rows: string[]; from: number; size: number } | null = null;

  constructor(private readonly em: Entities) {}

  async line(text: string): Promise<void> {
    if (this.manifest) throw notTaken(`Line ${this.at + 1} stands behind the end.`);
    this.at += 1;
    const said = this.parsed(text);
    if (this.at === 1) this.head(said);
    else if ('manifest' in said) {
      // The manifest is not among the lines it is about.
      this.at -= 1;
      await this.give();
      this.closeBlock();
      const read = archiveManifest.safeParse(said);
      if (!read.success) throw notTaken('Its last line, the manifest, cannot be read.');
      this.manifest = read.data.manifest;
      return;
    } else await this.row(said, text);
    this.block.digest.update(`${text}\n`);
    if (this.at % ARCHIVE_BLOCK === 0) this.closeBlock();
  }

  end(): void {
    if (this.at === 0) throw notTaken('It is empty.');
    if (!this.manifest)
      throw notTaken(`It is cut short: after line ${this.at} its end, the manifest, is missing.`);
    const { rows, blocks } = this.manifest;
    for (const [i, wanted] of blocks.entries()) {
      const own = this.blocks[i];
      if (own?.sha256 !== wanted.sha256 || own.to !== wanted.to)
        throw notTaken(
          `Something was changed between lines ${wanted.from} and ${wanted.to}: their digest is another.`,
        );
    }
    if (this.blocks.length > blocks.length)
      throw notTaken(`There are lines after ${blocks.at(-1)?.to ?? 0} that its manifest knows nothing of.`);
    for (const table of ARCHIVE_ORDER)
      if ((rows[table] ?? 0) !== (this.rows[table] ?? 0))
        throw notTaken(
          `It should have ${rows[table] ?? 0} rows of ${table}, and has ${this.rows[table] ?? 0}.`,
        );
  }

  private parsed(text: string): Record<string, unknown> {
    try {
      const said: unknown = JSON.parse(text);
      if (typeof said === 'object' && said !== null && !Array.isArray(said))
        return said as Record<string, unknown>;
    } catch {
      // Told below, like a line that is JSON of another kind.
    }
    throw notTaken(
      this.at === 1 ? 'It is no archive of Malle.' : `Line ${this.at} is not a line of an archive.`,
    );
  }

  private head(said: Record<string, unknown>): void {
    const { version } = said;
    if (said.archive === 'malle' && typeof version === 'number' && version > ARCHIVE_VERSION)
      throw notTaken(
        `It was written by a newer Malle: form ${version}, this one reads up to ${ARCHIVE_VERSION}. Update this Malle first.`,
      );
    const head = archiveHead.safeParse(said);
    if (!head.success) throw notTaken('It is no archive of Malle.');
    if (head.data.of === 'pack') throw notTaken('It is the archive of one pack, not of a register.');
  }

  private async row(said: Record<string, unknown>, text: string): Promise<void> {
    const [table, more] = Object.keys(said) as ArchiveTable[];
    if (table === undefined || more !== undefined || !(table in ARCHIVE_TABLES))
      throw notTaken(`Line ${this.at} is of no table that Malle knows.`);
    const read = ARCHIVE_TABLES[table].safeParse(said[table]);
    if (!read.success) {
      const [issue] = read.error.issues;
      throw notTaken(
        `Line ${this.at}, ${table}: ${issue && issue.path.length > 0 ? issue.path.join('.') : 'the row'}: ${issue?.message ?? 'not as described'}.`,
      );
    }
    this.rows[table] = (this.rows[table] ?? 0) + 1;
    if (
      this.batch &&
      (this.batch.table !== table || this.batch.rows.length >= BATCH || this.batch.size > BATCH_TEXT)
    )
      await this.give();
    this.batch ??= { table, rows: [], from: this.at, size: 0 };
    this.batch.rows.push(text);
    this.batch.size += text.length;
  }

  /** Gives a batch to the database, as it was written: nothing is lost by being read and written once more. */
  private async give(): Promise<void> {
    const { batch } = this;
    this.batch = null;
    if (!batch) return;
    const { table, rows, from } = batch;
    const columns = Object.keys(ARCHIVE_TABLES[table].shape).map((column) => `r.${column}`);
    const names = Object.keys(ARCHIVE_TABLES[table].shape).join(', ');
    try {
      await this.em.execute(
        `insert into "${table}" (${names}) select ${columns.join(', ')} from json_array_elements(?::json) as line,
           json_populate_record(null::public."${table}", line -> '${table}') as r`,
        [`[${rows.join(',')}]`],
      );
    } catch (error) {
      throw notTaken(`Between lines ${from} and ${from + rows.length - 1}, ${table}: ${reasonOf(error)}.`);
    }
  }

  private closeBlock(): void {
    if (this.block.from > this.at) return;
    this.blocks.push({ from: this.block.from, to: this.at, sha256: this.block.digest.digest('hex') });
    this.block = { from: this.at + 1, digest: createHash('sha256') };
  }
}

/** Why the database does not take rows, in words. */
function reasonOf(error: unknown): string {
  const { code, detail } = error as { code?: string; detail?: string };
  const more = detail ? ` (${detail.replace(/\.$/, '')})` : '';
  if (code === '23505') return `a row stands there twice${more}`;
  if (code === '23503') return `a row names what is not there${more}`;
  return `the database does not take a row${more}`;
}
