import { setMaxListeners } from 'node:events';
import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { PersonId } from '../../core/measure';
import { addPack, addType, openTestApp } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { HeavyWork } from './heavy';
import type { HeavyTask } from './heavy';
import { PRINT } from './pdf';
import type { PaperDocument } from './pdf';

let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let ids: string[];
const work = new HeavyWork();

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  const type = await addType(custodian);
  ids = [];
  for (let i = 1; i <= 6; i++) ids.push((await addPack(custodian, type.id, `HW-${i}`)).id);
});
afterAll(async () => {
  await work.close();
  await test.close();
});

const person = () => newId() as PersonId;
/** For ever: nobody of these goes away. */
const until = new AbortController().signal;
setMaxListeners(50, until);
const pages = (count: number): PaperDocument => ({
  pageSize: 'A4',
  defaultStyle: { font: 'Text' },
  content: Array.from({ length: count }, (_, i) => ({
    qr: `sheet ${i}`,
    ...(i < count - 1 ? { pageBreak: 'after' as const } : {}),
  })),
});
const print = (count: number, personId = person(), signal = until) =>
  work.do(PRINT, pages(count), { personId, signal, told: undefined });

/** How long the longest turn of this thread was while something else was done. */
async function longestTurn(meanwhile: Promise<unknown>): Promise<number> {
  let longest = 0;
  let last = performance.now();
  const turns = setInterval(() => {
    longest = Math.max(longest, performance.now() - last);
    last = performance.now();
  }, 5);
  await meanwhile;
  clearInterval(turns);
  return longest;
}

it('draws beside the server: others have their turn while it takes seconds', async () => {
  await print(1);
  const began = performance.now();
  const longest = await longestTurn(print(150));
  expect(longest).toBeLessThan((performance.now() - began) / 2);
});

it('does one thing at a time for one person, in the order asked, and another person’s beside it', async () => {
  const one = person();
  const ended: string[] = [];
  const gone = new AbortController();
  // The first is given up only when the other person has theirs: nothing here depends on how fast a worker starts.
  const first = print(2_000, one, gone.signal).finally(() => ended.push('first'));
  const next = [40, 1].map((count, i) => print(count, one).then(() => ended.push(`next ${i}`)));
  await print(1);
  ended.push('other');
  gone.abort();
  await Promise.allSettled([first, ...next]);
  expect(ended).toEqual(['other', 'first', 'next 0', 'next 1']);
});

it('refuses whoever has too much waiting, and nobody else', async () => {
  const greedy = person();
  const asked = Array.from({ length: 12 }, () => print(3, greedy));
  const results = await Promise.allSettled([...asked, print(1)]);
  const refused = results.slice(0, -1).filter(({ status }) => status === 'rejected');
  expect(refused).toHaveLength(3);
  for (const { reason } of refused as PromiseRejectedResult[]) expect(reason).toMatchObject({ code: 'busy' });
  expect(results.at(-1)!.status).toBe('fulfilled');
  expect((await print(1, greedy)).length).toBeGreaterThan(500);
});

it('gives up what nobody waits for, whether it waits or is being done, and goes on', async () => {
  const one = person();
  const gone = new AbortController();
  const long = print(2_000, one, gone.signal);
  const waiting = print(2_000, one, gone.signal);
  setTimeout(() => gone.abort(), 300);
  const began = performance.now();
  expect((await Promise.allSettled([long, waiting])).map(({ status }) => status)).toEqual([
    'rejected',
    'rejected',
  ]);
  expect((await print(1, one)).length).toBeGreaterThan(500);
  // Two thousand sheets would have taken far longer.
  expect(performance.now() - began).toBeLessThan(20_000);
});

it('tells what went wrong in a task, and the worker goes on', async () => {
  const odd = { ...pages(1), content: [{ text: 'x', font: 'No such face' }] };
  await expect(work.do(PRINT, odd, { personId: person(), signal: until, told: undefined })).rejects.toThrow(
    /font/i,
  );
  const unknown: HeavyTask<null, null> = { name: 'nothing like it' };
  await expect(
    work.do(unknown, null, { personId: person(), signal: until, told: undefined }),
  ).rejects.toThrow();
  await print(1);
});

it('keeps nobody waiting while one reader asks for label sheets again and again', async () => {
  const address = `/api/labels.pdf?ids=${Array.from({ length: 30 }, () => ids.join(',')).join(',')}&sheet=a4-21`;
  const sheets = Promise.all(Array.from({ length: 12 }, () => pilot.get(address)));
  const looked: number[] = [];
  for (let i = 0; i < 10; i++) looked.push((await custodian.get('/api/packs')).status);
  expect(looked).toEqual(looked.map(() => 200));
  const statuses = (await sheets).map(({ status }) => status).sort();
  expect(new Set(statuses)).toEqual(new Set([200, 503]));
  const refused = await Promise.all(Array.from({ length: 12 }, () => pilot.get(address)));
  expect(refused.find(({ status }) => status === 503)?.body).toMatchObject({
    type: '/problems/busy',
    detail: expect.stringContaining('still at work'),
  });
});
