import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { Client } from 'pg';
import { ENVIRONMENT, FLAGS } from '../scripts/launch.mjs';
import { openRegister } from '../src/server/app';
import { packLedgers } from '../src/server/ledger';
import { say } from './measure';

/** The made-up register so many times over: 5,040 packs, each with the ledger of a season. */
export const COPIES = 84;
const NAME = 'malle_bench_large';

let laid: Promise<string> | null = null;

/** The address of a database with the large register, laid once a run. */
export function largeRegister(url: string): Promise<string> {
  laid ??= layCopies(url, NAME, COPIES, ['record', 'pack_state']);
  return laid;
}

/** The address of one with four times as many packs, of which only the states are there: for what reads no ledgers. */
export function manyPacks(url: string): Promise<string> {
  return layCopies(url, 'malle_bench_many', 4 * COPIES, ['pack_state']);
}

/** Lays the made-up register into a new database of that name; answers its address. */
export async function demoRegister(url: string, name: string): Promise<string> {
  const admin = new Client({ connectionString: url });
  await admin.connect();
  await admin.query(`drop database if exists ${name} with (force)`);
  await admin.query(`create database ${name}`);
  await admin.end();
  const databaseUrl = url.replace(/\/[^/]*$/, `/${name}`);
  await run('dist/server/demo.js', databaseUrl);
  await packed(databaseUrl);
  return databaseUrl;
}

/** Packs the ledgers, as every server does within its first minutes. */
async function packed(databaseUrl: string): Promise<void> {
  const database = await openRegister(databaseUrl);
  await packLedgers(database.entities());
  await database.close();
}

/** @param tables what of a pack is copied beside itself and its tag */
async function layCopies(
  url: string,
  name: string,
  copies: number,
  tables: readonly string[],
): Promise<string> {
  const databaseUrl = await demoRegister(url, name);
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  await client.query(
    'create temp table copied as select id, tag, gen_random_uuid() as copy, n from pack, generate_series(2, $1) n',
    [copies],
  );
  const copyOf = async (table: string, key: string, more = '') =>
    client.query(
      `insert into ${table} select (jsonb_populate_record(t, jsonb_build_object('${key}', c.copy${more}))).*
         from ${table} t join copied c on c.id = t.${key}`,
    );
  await copyOf('pack', 'id', `, 'tag', c.tag || '-' || c.n, 'tag_key', replace(c.tag, '-', '') || c.n`);
  await client.query(
    `insert into pack_tag select replace(tag, '-', '') || n, tag || '-' || n, copy, now(), null from copied`,
  );
  for (const table of tables) await copyOf(table, 'pack_id');
  await packed(databaseUrl);
  await client.query('analyze');
  const { rows } = await client.query<{ packs: string; records: string }>(
    'select (select count(*) from pack) as packs, (select count(*) from record) as records',
  );
  say(`The register laid ${copies} times`, `${rows[0]!.packs} packs, ${rows[0]!.records} records`);
  await client.end();
  return databaseUrl;
}

/** A server process of its own on a database, as it is run. */
export async function serve(databaseUrl: string): Promise<{ url: string; process: ChildProcess }> {
  const started = spawn(process.execPath, [...FLAGS, 'dist/server/server.js'], {
    env: {
      ...ENVIRONMENT,
      ...process.env,
      DATABASE_URL: databaseUrl,
      MALLE_PORT: '0',
      MALLE_WEB_ROOT: 'dist/web',
      MALLE_LOG: 'error',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((found, failed) => {
    started.stdout.on('data', (data: Buffer) => {
      const match = /Malle is at (http:\/\/\S+?:\d+)/.exec(data.toString());
      if (match) found(match[1]!);
    });
    started.once('exit', (code) => failed(new Error(`the server ended with ${code}`)));
  });
  return { url, process: started };
}

function run(file: string, databaseUrl: string): Promise<void> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [file], {
      env: { ...process.env, DATABASE_URL: databaseUrl },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    child.once('exit', (code) => (code === 0 ? done() : failed(new Error(`${file} ended with ${code}`))));
  });
}
