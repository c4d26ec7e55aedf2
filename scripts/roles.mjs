// Who comes into the embedded database: its owner, who makes and changes tables, and the server, who reads and writes rows, deletes from a few tables, and nothing else.
import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { passwordOf } from './postgres.mjs';

const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const SERVER = 'malle_server';
/** Two that grant the same at once would fail; they wait for each other instead. */
const LOCK = 'select pg_advisory_xact_lock(1919904869);';

/**
 * Lets the server's role into a database of the embedded cluster: to its tables of now, and of later but for deleting.
 * @param ownerUrl the address its owner comes in by
 * @returns the address the server comes in by
 */
export async function letServerIn(ownerUrl) {
  const password = passwordOf(SERVER);
  // Roles belong to the whole cluster, and a lock to one database: all who change roles do so from the same.
  await run(at(ownerUrl, { pathname: '/postgres' }), [
    LOCK,
    `do $$ begin create role ${SERVER}; exception when duplicate_object then null; end $$;`,
    `alter role ${SERVER} login nosuperuser nocreatedb nocreaterole password '${password}';`,
    // To know the disk whose space it watches.
    `grant pg_read_all_settings to ${SERVER};`,
  ]);
  await run(ownerUrl, [LOCK, readFileSync(join(ROOT, 'deploy/server-role.sql'), 'utf8')]);
  return at(ownerUrl, { username: SERVER, password });
}

/** These statements, sent together, are one transaction. */
async function run(url, statements) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.query(statements.join('\n')).finally(() => client.end());
}

function at(url, parts) {
  return Object.assign(new URL(url), parts).href;
}
