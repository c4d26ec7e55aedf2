import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  createReadStream,
  createWriteStream,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { Decrypter, Encrypter } from 'age-encryption';
import { Client } from 'pg';
import { findBinaries } from '../../../scripts/postgres.mjs';
import { COMPRESSED_QUICKLY } from '../platform/migrations/quickCompression';

/** Who is signed in, who was invited and what devices are doing: nothing of that outlives a restore. What is packed is packed anew. */
const NOT_KEPT = [
  ...['user_session', 'sign_in_link', 'sign_in_throttle', 'passkey_challenge', 'device_state'],
  'packed_ledger',
];
/** What the register says of itself; a secret that signs its cookies, where it has no key for that, is made anew. */
const SETTINGS_KEPT = ['demo', 'register', 'verification', 'custodian-factor'];
/** The last line of a whole backup: one that broke off does not have it. */
const END = '-- The end of a backup of Malle.';

const FILE = /^malle-\d{4}-\d\d-\d\dT\d{6}Z\.sql\.gz(\.age)?$/;

/**
 * Writes the whole register at this moment into a file of this folder: photos, accounts with their password hashes, the log and the checkpoints included;
 * sessions, invitations and the cookie secret left out. Others go on working meanwhile.
 * @param recipient an age public key to which the file is encrypted; null for none
 * @returns the file's path
 */
export async function writeBackup(
  databaseUrl: string,
  folder: string,
  recipient: string | null,
  now: Date,
): Promise<string> {
  mkdirSync(folder, { recursive: true });
  const stamp = now.toISOString().replace(/:/g, '').replace(/\.\d+/, '');
  const path = join(folder, `malle-${stamp}.sql.gz${recipient === null ? '' : '.age'}`);
  const part = `${path}.part`;
  const packed = createGzip();
  try {
    const writing = writeTo(part, packed, recipient);
    await Promise.all([writing, dumpInto(packed, databaseUrl)]);
    renameSync(part, path);
    return path;
  } catch (error) {
    rmSync(part, { force: true });
    throw error;
  }
}

async function writeTo(file: string, packed: Readable, recipient: string | null): Promise<void> {
  const out = createWriteStream(file, { mode: 0o600 });
  if (recipient === null) return pipeline(packed, out);
  const encrypter = new Encrypter();
  encrypter.addRecipient(recipient);
  const sealed = await encrypter.encrypt(Readable.toWeb(packed) as ReadableStream<Uint8Array>);
  return pipeline(fromWeb(sealed), out);
}

async function dumpInto(
  packed: NodeJS.WritableStream & { destroy(error: Error): void },
  databaseUrl: string,
): Promise<void> {
  try {
    const { address, env } = forProgram(databaseUrl);
    const dump = spawn(
      program('pg_dump'),
      [
        ...['--format=plain', '--no-owner', '--no-privileges', '--no-toast-compression'],
        ...[...NOT_KEPT, 'setting'].map((table) => `--exclude-table-data=${table}`),
        address,
      ],
      { env },
    );
    const said = collected(dump.stderr);
    const ended = once(dump, 'close');
    dump.stdout.pipe(packed, { end: false });
    const [code] = (await ended) as [number | null];
    if (code !== 0) throw new Error(`The backup broke off. ${await said}`);
    packed.end(`${await settings(databaseUrl)}${END}\n`);
  } catch (error) {
    packed.destroy(error as Error);
    throw error;
  }
}

async function settings(databaseUrl: string): Promise<string> {
  return withDatabase(databaseUrl, async (client) => {
    const { rows } = await client.query<{ line: string }>(
      `select format('insert into public.setting (key, value) values (%L, %L::jsonb);', key, value) as line
         from setting where key = any($1)`,
      [SETTINGS_KEPT],
    );
    return rows.map(({ line }) => `${line}\n`).join('');
  });
}

/** Removes the oldest backups of a folder but for so many; other files stay. Returns the names of those removed. */
export function rotate(folder: string, keep: number): readonly string[] {
  const names = readdirSync(folder).filter((name) => FILE.test(name));
  const old = names.sort().slice(0, Math.max(0, names.length - keep));
  for (const name of old) rmSync(join(folder, name));
  return old;
}

/**
 * Reads a backup into a database that holds nothing: all of it or nothing.
 * @param identity the age secret key of an encrypted one; null where it is not
 * @throws with what is wrong: no backup, one that broke off, another key, a database that is in use
 */
export async function readBackup(databaseUrl: string, path: string, identity: string | null): Promise<void> {
  await withDatabase(databaseUrl, async (client) => {
    const { rowCount } = await client.query(
      `select from information_schema.tables where table_schema = 'public' limit 1`,
    );
    if (rowCount) throw new Error('This database holds something already. Restore into an empty one.');
  });
  // Read to its end first: whether it is whole, and whether the key fits, is known only there.
  await pipeline(await opened(path, identity), async (lines) => {
    let last = '';
    for await (const chunk of lines as AsyncIterable<Buffer>)
      last = `${last}${chunk.toString('latin1')}`.slice(-200);
    if (!last.trimEnd().endsWith(END))
      throw new Error('This is no backup of Malle, or it broke off before its end.');
  });
  const { address, env } = forProgram(databaseUrl);
  const psql = spawn(
    program('psql'),
    [
      ...['--quiet', '--no-psqlrc', '--single-transaction', '--set=ON_ERROR_STOP=1', '--output=/dev/null'],
      address,
    ],
    { env },
  );
  const said = collected(psql.stderr);
  const ended = once(psql, 'close');
  // When it stops reading, why stands in what it says.
  await pipeline(await opened(path, identity), psql.stdin).catch(() => undefined);
  const [code] = (await ended) as [number | null];
  if (code !== 0) throw new Error(`The backup was not taken. ${await said}`);
  await withDatabase(databaseUrl, (client) => client.query(COMPRESSED_QUICKLY));
}

async function opened(path: string, identity: string | null): Promise<Readable> {
  if (!statSync(path).isFile()) throw new Error(`${path} is no file.`);
  const file = createReadStream(path);
  if (!path.endsWith('.age')) return file.pipe(createGunzip());
  if (identity === null) throw new Error('This backup is encrypted. Say where its key is: --identity FILE.');
  const decrypter = new Decrypter();
  decrypter.addIdentity(identity);
  const plain = await decrypter.decrypt(Readable.toWeb(file) as ReadableStream<Uint8Array>);
  return fromWeb(plain).pipe(createGunzip());
}

/** An address for a command line, which everybody on the machine can read, and the password apart from it. */
function forProgram(databaseUrl: string): { readonly address: string; readonly env: NodeJS.ProcessEnv } {
  const url = new URL(databaseUrl);
  const password = decodeURIComponent(url.password);
  url.password = '';
  return { address: url.href, env: password === '' ? process.env : { ...process.env, PGPASSWORD: password } };
}

/** Does something with a database of this one's cluster that is there for it alone. */
export async function withScratch<Result>(
  databaseUrl: string,
  name: string,
  work: (url: string) => Promise<Result>,
): Promise<Result> {
  const scratch = new URL(databaseUrl);
  scratch.pathname = `/${name}`;
  await withDatabase(databaseUrl, (client) => client.query(`create database ${name}`));
  try {
    return await work(scratch.toString());
  } finally {
    await withDatabase(databaseUrl, (client) => client.query(`drop database ${name} with (force)`));
  }
}

async function withDatabase<Result>(url: string, work: (client: Client) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

function program(name: 'pg_dump' | 'psql'): string {
  const folder = findBinaries();
  return folder === null ? name : join(folder, name);
}

/** A browser's stream as one of Node's: two descriptions of the same thing. */
function fromWeb(stream: unknown): Readable {
  return Readable.fromWeb(stream as Parameters<typeof Readable.fromWeb>[0]);
}

async function collected(stream: Readable): Promise<string> {
  let said = '';
  for await (const chunk of stream) said += String(chunk);
  return said.trim();
}
