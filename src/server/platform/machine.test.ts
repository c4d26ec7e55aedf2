import type TestAgent from 'supertest/lib/agent';
import type { LiveMessage, TodayAnswer } from '../../contract';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { NOW, openTestApp, recyclerBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { logAt } from './log';
import { openLive } from './live';
import { watchMachine } from './machine';
import type { Machine } from './machine';

let test: TestApp;
let custodian: TestAgent;
const machines: Machine[] = [];

beforeEach(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  await custodian.post('/api/recyclers').send(recyclerBody()).expect(201);
});
afterEach(async () => {
  for (const machine of machines.splice(0)) await machine.stop();
  await test.close();
});

/** Somebody who looks after the machine with another clock, or wants more room. */
async function looked(more: { now?: number; leastSpaceMb?: number; url?: string }): Promise<Machine> {
  const { now = NOW, leastSpaceMb = 0, url = test.url } = more;
  const clock = { now: () => now, frozen: true };
  const machine = watchMachine(test.app.database, url, { clock, log: logAt('silent'), leastSpaceMb });
  machines.push(machine);
  await machine.look();
  return machine;
}

const troubles = async () => ((await custodian.get('/api/today').expect(200)).body as TodayAnswer).machine;

it('says nothing while the clock goes right and the disk has room, or differs by what clocks differ', async () => {
  await looked({});
  expect(await troubles()).toEqual([]);
  await looked({ now: NOW - MINUTE_MS });
  expect(await troubles()).toEqual([]);
  await looked({ now: NOW + 800 * HOUR_MS });
  expect(await troubles()).toEqual([]);
});

it('tells every page when the server’s clock was set back behind what it wrote down, and when it is right again', async () => {
  await looked({});
  const heard: LiveMessage[] = [];
  const live = await openLive(test.url, logAt('silent'), () => Promise.resolve([]));
  live.listen((message) => heard.push(message));
  await looked({ now: NOW - 3 * HOUR_MS });
  expect(await troubles()).toEqual([{ what: 'clock-behind', minutes: 180 }]);
  await looked({ now: NOW - 3 * HOUR_MS });
  await looked({});
  expect(await troubles()).toEqual([]);
  await live.close();
  // Not at every look: only when it became another.
  expect(heard.filter(({ about }) => about === 'register')).toHaveLength(2);
});

it('says that space runs low before it is out, stops writing when it is, and goes on by itself', async () => {
  const plenty = 1_000_000_000;
  const out = await looked({ leastSpaceMb: plenty });
  expect(out.hasRoom()).toBe(false);
  expect(await troubles()).toEqual([{ what: 'space-out', freeMb: expect.any(Number) }]);
  const { freeMb } = (await troubles())[0] as { freeMb: number };
  const low = await looked({ leastSpaceMb: Math.floor(freeMb / 2) });
  expect(low.hasRoom()).toBe(true);
  expect((await troubles()).map(({ what }) => what)).toEqual(['space-low']);
  const enough = await looked({ leastSpaceMb: 1 });
  expect(enough.hasRoom()).toBe(true);
  expect(await troubles()).toEqual([]);
});

it('knows nothing of the disk of a database on another machine', async () => {
  const elsewhere = test.url.replace('127.0.0.1', 'db.example');
  const machine = await looked({ leastSpaceMb: 1_000_000_000, url: elsewhere });
  expect(machine.hasRoom()).toBe(true);
  expect(await troubles()).toEqual([]);
});

it('a server without room refuses what would be written with a reason the outbox waits by, and lets read and sign in', async () => {
  const full = await openTestApp({ url: test.url, withPeople: false, leastSpaceMb: 1_000_000_000 });
  const agent = await full.as('custodian');
  const write = () => agent.post('/api/recyclers').send(recyclerBody());
  let refused = await write();
  // A server looks at its machine as soon as it runs, and does not wait for that.
  for (let i = 0; i < 100 && refused.status !== 507; i++) refused = await write();
  expect([refused.status, refused.body]).toEqual([
    507,
    expect.objectContaining({ type: '/problems/no-room' }),
  ]);
  await agent.get('/api/packs').expect(200);
  await agent.get('/api/session').expect(200);
  await (await full.as('pilot')).get('/api/today').expect(200);
  await full.close();
});
