import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { Client } from 'pg';

/** The embedded cluster, made and started as whoever starts Malle does. */

const folder = mkdtempSync(join(tmpdir(), 'malle-cluster-'));
// Where root starts it, PostgreSQL runs as another user.
chmodSync(folder, 0o755);
const env = { ...process.env, MALLE_DATA: join(folder, 'data') };
const SCRIPT = 'scripts/postgres.mjs';

const starting = () => promisify(execFile)(process.execPath, [SCRIPT, 'address', 'postgres'], { env });
const address = async () => (await starting()).stdout.trim();

afterAll(async () => {
  await promisify(execFile)(process.execPath, [SCRIPT, 'stop'], { env });
  rmSync(folder, { recursive: true, force: true });
});

it('is made once by several that start it for the first time at once, and one that is killed keeps nobody out', async () => {
  const killed = spawn(process.execPath, [SCRIPT, 'start'], { env, stdio: 'ignore' });
  await pause(700);
  const starters = [address(), address(), address()];
  await pause(300);
  killed.kill('SIGKILL');
  await once(killed, 'exit');
  const [first, ...others] = await Promise.all(starters);
  expect(others).toEqual([first, first]);
  const client = new Client({ connectionString: first });
  await client.connect();
  expect((await client.query('select current_user as name')).rows).toEqual([{ name: 'malle' }]);
  await client.end();
});

it('is waited for while it lives and takes no connections yet, as after a crash of the machine', async () => {
  const before = await address();
  const [pid] = readFileSync(join(folder, 'data', 'pg', 'postmaster.pid'), 'utf8').split('\n');
  process.kill(Number(pid), 'SIGSTOP');
  const starter = starting();
  try {
    // Longer than one question whether it takes connections waits for an answer.
    await pause(5_000);
  } finally {
    process.kill(Number(pid), 'SIGCONT');
  }
  const { stdout, stderr } = await starter;
  expect(stdout.trim()).toBe(before);
  expect(stderr).toMatch(/^PostgreSQL takes no connections yet/);
});
