import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { openRegister } from '../src/server/app';
import { verifyRegister } from '../src/server/evidence';
import { FaultySite, lostOf, until, worksAt, workThrough } from '../src/server/testing/faults';
import type { Acknowledged } from '../src/server/testing/faults';
import { recyclerBody } from '../src/server/testing/testApp';
import { say } from './measure';

/** How often the server is killed; PostgreSQL a tenth as often. */
const KILLS = Number(process.env.FAULT_KILLS ?? 100);
const PORT = 31_000 + (process.pid % 9_000);
const BUILT = ['dist/server/server.js'];
/** A disk that is soon full, megabytes. */
const SMALL_DISK_MB = 400;
const ROUNDS = 3;
/** Half a second apart. */
const TRIES = 30;

/**
 * Kills the server, PostgreSQL and the connections between them at moments nobody chose, sets the clock back and forth, and fills the disk,
 * while people work. Told is what was acknowledged, what of it is not there, and whether all chains hold. Who interrupts the killing is told
 * what there is so far.
 */
export async function benchFaults(): Promise<void> {
  await killed();
  await filled();
}

async function killed(): Promise<void> {
  const site = new FaultySite(process.cwd(), BUILT, PORT);
  try {
    await site.open();
    const counts = { server: 0, database: 0, connections: 0, clock: 0 };
    let isEnough = false;
    process.once('SIGINT', () => (isEnough = true));
    const acknowledged = await workThrough(site, await worksAt(site), async () => {
      while (counts.server < KILLS && !isEnough) {
        await pause(200 + Math.random() * 1_800);
        const kind = counts.server * 0.1 > counts.database ? 'database' : 'server';
        if (kind === 'database') await site.killDatabase();
        else if (Math.random() < 0.15) {
          await site.cutConnections();
          counts.connections += 1;
        } else {
          const jumps = Math.random() < 0.1;
          // Up to an hour back: what people write of an hour ago is still of the past.
          await site.killServer(
            jumps ? new Date(Date.now() - Math.random() * 3_500_000).toISOString() : undefined,
          );
          if (jumps) counts.clock += 1;
          counts.server += 1;
          if (counts.server % 100 === 0) say(`After ${counts.server} kills`, new Date().toISOString());
        }
        if (kind === 'database') counts.database += 1;
      }
    });
    await told(
      `${counts.server} kills of the server, ${counts.database} of PostgreSQL, ${counts.connections} cuts, ${counts.clock} clocks set back`,
      site,
      acknowledged,
    );
  } finally {
    site.close();
  }
}

/** Needs the right to mount; says so where it is missing. */
async function filled(): Promise<void> {
  const disk = mkdtempSync(join(tmpdir(), 'malle-small-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SMALL_DISK_MB}m`, 'tmpfs', disk]);
  if (mounted.status !== 0) {
    say('A full disk', 'not tried: this user may mount nothing');
    return;
  }
  const site = new FaultySite(process.cwd(), BUILT, PORT + 1, disk);
  const ballast = join(disk, 'ballast');
  try {
    await site.open();
    const reads = async () => (await site.once('GET', '/packs')).ok;
    let readsWhileFull = 0;
    let refusedWhileFull = 0;
    // PostgreSQL ends itself where it cannot even write down what it does.
    const keeper = await site.keepDatabase();
    const acknowledged = await workThrough(site, await worksAt(site), async () => {
      for (let round = 0; round < ROUNDS; round++) {
        await pause(2_000);
        fill(disk, ballast);
        for (let i = 0; i < TRIES; i++) {
          await pause(500);
          if (await reads().catch(() => false)) readsWhileFull += 1;
          const wrote = await site.once('POST', '/recyclers', recyclerBody()).catch(() => null);
          if (wrote && wrote.status >= 500) refusedWhileFull += 1;
        }
        rmSync(ballast);
        await until(reads);
      }
      await pause(2_000);
    });
    keeper.kill();
    say(
      `While the disk was full, of ${ROUNDS * TRIES} each`,
      `read ${readsWhileFull}`,
      `refused to write ${refusedWhileFull}`,
    );
    await told(`A disk that was full ${ROUNDS} times`, site, acknowledged);
  } finally {
    site.close();
    spawnSync('umount', [disk]);
    if (existsSync(disk)) rmSync(disk, { recursive: true });
  }
}

/** Takes all that is left. */
function fill(disk: string, ballast: string): void {
  const { bavail, bsize } = statfsSync(disk);
  try {
    writeFileSync(ballast, Buffer.alloc(bavail * bsize));
  } catch {
    // Somebody was quicker: it is full all the same.
  }
}

async function told(what: string, site: FaultySite, acknowledged: readonly Acknowledged[]): Promise<void> {
  const lost = await lostOf(acknowledged);
  const database = await openRegister(site.databaseUrl);
  const { findings } = await verifyRegister(database.entities(), { checkpoint: null, key: null }, Date.now());
  await database.close();
  say(what, `${acknowledged.length} acknowledged`, `${lost.length} lost`, `${findings.length} findings`);
  for (const one of lost.slice(0, 5)) say('  lost', one);
  for (const one of findings.slice(0, 5)) say('  found', `${one.what}: ${one.why}`);
}
