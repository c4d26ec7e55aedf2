import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Client } from 'pg';
import { letServerIn } from '../scripts/roles.mjs';

/** Registers for the browser tests: a database copied from the made-up one, or an empty one, and a server of its own. */

const ROOT = resolve(import.meta.dirname, '..');
const TEMPLATE = 'e2e_template';
const SERVER = 'dist/server/server.js';
const DEMO = 'dist/server/demo.js';
const MIGRATE = 'dist/server/migrate.js';

function cluster(): string {
  const address = process.env.MALLE_TEST_CLUSTER;
  if (!address) throw new Error('MALLE_TEST_CLUSTER is missing; the global setup sets it.');
  return address;
}

async function withCluster<Result>(work: (client: Client) => Promise<Result>): Promise<Result> {
  const client = new Client({ connectionString: `${cluster()}/postgres` });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Lays the made-up register once, for every test file to copy. Its clocks are alive: it ends now. */
export async function layTemplate(): Promise<void> {
  await withCluster(async (client) => {
    await client.query(`drop database if exists ${TEMPLATE} with (force)`);
    await client.query(`create database ${TEMPLATE}`);
  });
  await run(DEMO, `${cluster()}/${TEMPLATE}`);
}

export interface Register {
  /** Where the browser finds it; the same after a restart. */
  readonly url: string;
  /** The address the owner of its tables comes in by; the server comes in by another. */
  readonly databaseUrl: string;
  /** Kills the server outright. */
  kill(): void;
  /** Starts it again on the same port; with a moment, its clock stands there. Settings of this start come on top. */
  start(clock?: number, settings?: Readonly<Record<string, string>>): Promise<void>;
  close(): Promise<void>;
}

export async function openRegister({ empty = false }: { empty?: boolean } = {}): Promise<Register> {
  const name = `e2e_${randomUUID().replaceAll('-', '')}`;
  await withCluster((client) =>
    client.query(`create database ${name}${empty ? '' : ` template ${TEMPLATE}`}`),
  );
  const databaseUrl = `${cluster()}/${name}`;
  if (empty) await run(MIGRATE, databaseUrl);
  let server: ChildProcess;
  let port = 0;
  const start = async (clock?: number, settings: Readonly<Record<string, string>> = {}) => {
    const serverUrl = await letServerIn(databaseUrl);
    server = spawn(process.execPath, [SERVER], {
      cwd: ROOT,
      env: {
        ...process.env,
        DATABASE_URL: serverUrl,
        MALLE_SIGNING_KEY: join(tmpdir(), 'malle-tests.signing.key'),
        MALLE_PORT: String(port),
        MALLE_WEB_ROOT: 'dist/web',
        MALLE_LOG: 'error',
        ...(clock === undefined ? {} : { MALLE_CLOCK: new Date(clock).toISOString() }),
        ...settings,
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    port = await portOf(server);
  };
  await start();
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    kill: () => void server.kill('SIGKILL'),
    start,
    close: async () => {
      server.kill('SIGKILL');
      await withCluster((client) => client.query(`drop database if exists ${name} with (force)`));
    },
  };
}

function portOf(server: ChildProcess): Promise<number> {
  return new Promise((found, failed) => {
    let said = '';
    server.stdout?.on('data', (data: Buffer) => {
      said += data.toString();
      const match = /Malle is at http:\/\/[^:]+:(\d+)/.exec(said);
      if (match) found(Number(match[1]));
    });
    server.once('exit', (code) => failed(new Error(`the server ended with ${code}: ${said}`)));
  });
}

function run(file: string, databaseUrl: string): Promise<void> {
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [file], {
      cwd: ROOT,
      env: { ...process.env, DATABASE_URL: databaseUrl },
      stdio: 'inherit',
    });
    child.once('exit', (code) => (code === 0 ? done() : failed(new Error(`${file} ended with ${code}`))));
  });
}
