import { spawn, spawnSync } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { verifyLedger } from './ledger';
import { openRegister } from './app';
import { LIPO_4S, packBody, PASSWORD, readingBody } from './testing/testApp';

/**
 * The server and then PostgreSQL are killed outright in the middle of a stream of appends. Afterwards every acknowledged
 * record is there once, none is there half, and what was sent again because no answer came is not there twice.
 */

const ROOT = join(__dirname, '..', '..');
const folder = mkdtempSync(join(tmpdir(), 'malle-crash-'));
// PostgreSQL runs as another user when this test runs as root, and must get in.
chmodSync(folder, 0o755);
const clusterEnv = { ...process.env, MALLE_DATA: join(folder, 'data') };
const PORT = 21_000 + (process.pid % 9_000);
const BASE = `http://127.0.0.1:${PORT}/api`;

let databaseUrl: string;
let server: ChildProcess | null = null;

function startCluster(): string {
  const { stdout, stderr } = spawnSync(process.execPath, ['scripts/postgres.mjs', 'start'], {
    cwd: ROOT,
    env: clusterEnv,
    encoding: 'utf8',
  });
  const address = stdout.trim().split('\n').at(-1) ?? '';
  if (!address.startsWith('postgres://')) throw new Error(`${stdout}${stderr}`);
  return address;
}

async function startServer(): Promise<void> {
  server = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
    cwd: ROOT,
    env: { ...process.env, DATABASE_URL: databaseUrl, MALLE_PORT: String(PORT), MALLE_LOG: 'silent' },
    stdio: 'ignore',
  });
  await until(async () => (await fetch(`${BASE}/health`)).ok);
}

async function until(holds: () => Promise<boolean>): Promise<void> {
  const deadline = Date.now() + 60_000;
  while (Date.now() < deadline) {
    if (await holds().catch(() => false)) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('it never came to hold');
}

let cookie = '';

async function post(path: string, body: object): Promise<Response> {
  const response = await fetch(`${BASE}${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify(body),
  });
  cookie = response.headers.get('set-cookie')?.split(';')[0] ?? cookie;
  return response;
}

beforeAll(async () => {
  const cluster = startCluster();
  const client = new Client({ connectionString: `${cluster}/postgres` });
  await client.connect();
  await client.query('create database crash');
  await client.end();
  databaseUrl = `${cluster}/crash`;
  await startServer();
}, 120_000);

afterAll(() => {
  server?.kill('SIGKILL');
  spawnSync(process.execPath, ['scripts/postgres.mjs', 'stop'], { cwd: ROOT, env: clusterEnv });
  rmSync(folder, { recursive: true, force: true });
});

it('loses no acknowledged record and keeps none half or twice', async () => {
  await post('/setup', { name: 'Ann', login: 'ann', password: PASSWORD });
  const { id: typeId } = (await (await post('/pack-types', LIPO_4S)).json()) as { id: string };
  const packs = ['K-1', 'K-2', 'K-3'].map((tag) => packBody(typeId, tag, { receivedAt: Date.now() - 1000 }));
  for (const pack of packs) expect((await post('/packs', pack)).status).toBe(201);

  const acknowledged = new Set<string>();
  const sent = new Set<string>();
  let writing = true;
  const writer = async (packId: string) => {
    while (writing) {
      const record = readingBody([3800, 3810, 3800, 3800], { at: Date.now() });
      sent.add(record.id);
      // What got no answer is sent again, the way the outbox does it, until it is answered.
      while (writing && !acknowledged.has(record.id)) {
        const answer = await post('/records', { packId, records: [record] }).catch(() => null);
        if (answer?.status === 201) acknowledged.add(record.id);
        else await new Promise((resolve) => setTimeout(resolve, 50));
      }
    }
  };
  const writers = packs.map(({ id }) => writer(id));
  const grows = (by: number) => {
    const goal = acknowledged.size + by;
    return until(() => Promise.resolve(acknowledged.size >= goal));
  };

  try {
    await grows(60);
    server?.kill('SIGKILL');
    await startServer();
    await grows(60);
    killCluster();
    // Another start of the same cluster, over the remains of the unclean stop, on the same port.
    expect(`${startCluster()}/crash`).toBe(databaseUrl);
    await grows(60);
  } finally {
    writing = false;
  }
  await Promise.all(writers);

  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ id: string; kind: string }>(
    `select id, kind from record where kind = 'reading'`,
  );
  await client.end();
  const kept = rows.map(({ id }) => id);
  expect(new Set(kept).size).toBe(kept.length);
  expect([...acknowledged].filter((id) => !kept.includes(id))).toEqual([]);
  expect(kept.filter((id) => !sent.has(id))).toEqual([]);
  expect(acknowledged.size).toBeGreaterThanOrEqual(180);

  const database = await openRegister(databaseUrl);
  expect((await verifyLedger(database.entities())).broken).toEqual([]);
  await database.close();
}, 180_000);

function killCluster(): void {
  const pidFile = readFileSync(join(clusterEnv.MALLE_DATA, 'pg', 'postmaster.pid'), 'utf8');
  process.kill(Number(pidFile.split('\n')[0]), 'SIGKILL');
}
