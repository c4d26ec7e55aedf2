import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { verifyRegister } from './evidence';
import { openRegister } from './app';
import { FaultySite, lostOf, until, worksAt, workThrough } from './testing/faults';

/**
 * The server and PostgreSQL are killed outright, and their connections cut, while people read packs, take deliveries, go through rounds, report incidents
 * and send photos. Afterwards everything acknowledged is there, whole and once; what was sent again because no answer came is not there
 * twice. `npm run bench -- faults` does the same for hours.
 */

const PORT = 21_000 + (process.pid % 9_000);
const site = new FaultySite(join(__dirname, '..', '..'), ['--import', 'tsx', 'src/server/main.ts'], PORT);

beforeAll(() => site.open());
afterAll(() => site.close());

it('loses nothing acknowledged and keeps nothing half or twice', async () => {
  const works = await worksAt(site);
  const acknowledged = await workThrough(site, works, async () => {
    await pause(1_500);
    await site.killServer();
    await pause(1_500);
    await site.cutConnections();
    await pause(1_500);
    await site.killDatabase();
    await pause(1_500);
    // Somebody sets the machine's clock back, and right again.
    await site.killServer(new Date(Date.now() - 40 * 60_000).toISOString());
    await pause(1_500);
    await site.killServer();
    await pause(1_500);
  });
  expect(acknowledged.length).toBeGreaterThan(60);
  expect(await lostOf(acknowledged)).toEqual([]);

  const database = await openRegister(site.databaseUrl);
  const { findings } = await verifyRegister(database.entities(), { checkpoint: null, key: null }, Date.now());
  expect(findings).toEqual([]);
  await database.close();
});

it('a database that ended is started again by what keeps it running', async () => {
  const keeper = await site.keepDatabase();
  try {
    site.endDatabase();
    await until(async () => (await site.once('GET', '/packs')).ok);
  } finally {
    keeper.kill();
  }
});
