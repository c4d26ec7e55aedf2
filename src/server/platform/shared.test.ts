import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { Client } from 'pg';
import { DELTA_IM, withDelta } from '../../contract';
import type { Delta, Json } from '../../contract';
import { NOW, addPack, addType, openTestApp, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { always, aSecond, SharedAnswers } from './shared';
import type { Lasts } from './shared';

let server: TestApp;
/** Another process: it writes past everything this one knows. */
let elsewhere: Client;

beforeAll(async () => {
  server = await openTestApp();
  elsewhere = new Client({ connectionString: server.url });
  await elsewhere.connect();
  await elsewhere.query('create table counted (n int)');
});
afterAll(async () => {
  await elsewhere.end();
  await server.close();
});

/** As if nothing were ever committed: other tests write into the same cluster, and what can be seen in it moves with them. */
const still = () => Promise.resolve('nothing changed');

/** Asks how many rows there are, and counts how often that had to be found out. */
function counter(lasts: Lasts = always, shared = new SharedAnswers()) {
  const asked = { times: 0 };
  const ask = async (now = NOW, question = 'how many') => {
    const { json } = await shared.answerTo(question, server.app.database.entities(), {
      clock: { now: () => now },
      lasts,
      answer: async (em) => {
        asked.times += 1;
        const [row]: { n: number }[] = await em.execute('select count(*)::int as n from counted');
        return row!.n;
      },
    });
    return Number(json.toString());
  };
  return { ask, asked };
}

const write = () => elsewhere.query('insert into counted values (1)');

it('tells an answer again while nothing changed', async () => {
  const { ask, asked } = counter(always, new SharedAnswers(still));
  const before = await ask();
  expect(await ask()).toBe(before);
  expect(asked.times).toBe(1);
  await ask(NOW, 'another question');
  expect(asked.times).toBe(2);
});

it('works an answer out anew after any commit, and not before it', async () => {
  const { ask } = counter();
  const before = await ask();
  await write();
  expect(await ask()).toBe(before + 1);
  await elsewhere.query('begin');
  await write();
  expect(await ask()).toBe(before + 1);
  await elsewhere.query('commit');
  expect(await ask()).toBe(before + 2);
});

it('twenty who ask at once wait for one answer', async () => {
  const { ask, asked } = counter(always, new SharedAnswers(still));
  const answers = await Promise.all(Array.from({ length: 20 }, () => ask()));
  expect(new Set(answers).size).toBe(1);
  expect(asked.times).toBe(1);
});

it('while the register keeps changing, a question is worked out once at a time: for all who asked meanwhile together', async () => {
  let seen = 0;
  const shared = new SharedAnswers(() => Promise.resolve(`seen ${++seen}`));
  const { ask, asked } = counter(always, shared);
  const first = ask();
  await Promise.resolve();
  await Promise.all([first, ...Array.from({ length: 30 }, () => ask())]);
  expect(asked.times).toBe(2);
  await ask();
  expect(asked.times).toBe(3);
});

it('nobody is told less than what was committed before they asked, however writing and asking fall together', async () => {
  const { ask } = counter();
  let written = await ask();
  const late: string[] = [];
  for (let round = 0; round < 60; round++) {
    const asking = Array.from({ length: round % 5 }, () => {
      const least = written;
      return ask().then((told) => told < least && late.push(`${told} after ${least}`));
    });
    await write();
    written += 1;
    const least = written;
    asking.push(ask().then((told) => told < least && late.push(`${told} after ${least}`)));
    await Promise.all(asking);
  }
  expect(late).toEqual([]);
});

it('time makes an answer old where it counts hours, and a clock set back does so at once', async () => {
  const { ask, asked } = counter(aSecond, new SharedAnswers(still));
  await ask(NOW);
  await ask(NOW + 999);
  expect(asked.times).toBe(1);
  await ask(NOW + 1_000);
  expect(asked.times).toBe(2);
  await ask(NOW - 1);
  expect(asked.times).toBe(3);
});

it('an answer that could not be worked out is not kept', async () => {
  const shared = new SharedAnswers();
  let fails = true;
  const ask = () =>
    shared.answerTo('unsure', server.app.database.entities(), {
      clock: { now: () => NOW },
      lasts: always,
      answer: () => (fails ? Promise.reject(new Error('not now')) : Promise.resolve('here')),
    });
  await expect(ask()).rejects.toThrow('not now');
  fails = false;
  expect((await ask()).json.toString()).toBe('"here"');
});

it('what works an answer out cannot write', async () => {
  const shared = new SharedAnswers();
  const writing = shared.answerTo('write', server.app.database.entities(), {
    clock: { now: () => NOW },
    lasts: always,
    answer: (em) => em.execute('insert into counted values (1)'),
  });
  await expect(writing).rejects.toThrow('read-only');
});

it('keeps no more than so many bytes: what nobody wanted for longest goes first', async () => {
  const shared = new SharedAnswers(still);
  const asked: string[] = [];
  const ask = (question: string) =>
    shared.answerTo(question, server.app.database.entities(), {
      clock: { now: () => NOW },
      lasts: always,
      answer: () => {
        asked.push(question);
        return Promise.resolve('x'.repeat(6_000_000));
      },
    });
  for (const question of ['a', 'b', 'c', 'a', 'd', 'a', 'b']) await ask(question);
  expect(asked).toEqual(['a', 'b', 'c', 'd', 'b']);
});

it('is packed as the asker can unpack it, and says the same each way', async () => {
  const custodian = await server.as('custodian');
  const { id } = await addType(custodian);
  for (let i = 1; i <= 6; i++) await addPack(custodian, id, `SH-${i}`);
  const plain = await custodian.get('/api/packs').set('accept-encoding', 'identity').expect(200);
  expect(plain.headers['content-encoding']).toBeUndefined();
  expect(plain.headers['cache-control']).toBe('no-store');
  for (const [encoding, unpacked] of [
    ['gzip', gunzipSync],
    ['br', brotliDecompressSync],
  ] as const) {
    const packed = await custodian
      .get('/api/packs')
      .set('accept-encoding', encoding)
      .buffer(true)
      .parse((res, done) => {
        const parts: Buffer[] = [];
        res.on('data', (part: Buffer) => parts.push(part));
        res.on('end', () => done(null, Buffer.concat(parts)));
      });
    expect(packed.headers['content-encoding']).toBe(encoding);
    const body = packed.body as Buffer;
    // The agent may have unpacked what it knows how to unpack.
    const text = body[0] === '['.charCodeAt(0) ? body : unpacked(body);
    expect(JSON.parse(text.toString())).toEqual(plain.body);
  }
  await custodian.head('/api/packs').expect(200);
});

it('tells a page that names its answer only what has changed since, and nothing where nothing has', async () => {
  const custodian = await server.as('custodian');
  const ask = (tag?: string, understands = true) => {
    const asking = custodian.get('/api/packs');
    if (tag) asking.set('if-none-match', tag);
    return understands ? asking.set('a-im', DELTA_IM) : asking;
  };
  const whole = await ask();
  const rows = whole.body as { id: string; seq: number }[];
  const tag = whole.headers.etag!;
  expect((await ask(tag)).status).toBe(304);
  // A proxy that packs an answer weakens its name.
  expect((await ask(`W/${tag}`)).status).toBe(304);
  await custodian
    .post('/api/records')
    .send({ packId: rows[2]!.id, records: [recordBody('note', { text: 'seen' })] })
    .expect(201);
  const delta = await ask(tag);
  expect(delta.status).toBe(226);
  expect(delta.headers['delta-base']).toBe(tag);
  const now = await ask();
  expect(withDelta(whole.body as Json, delta.body as Delta)).toEqual(now.body);
  expect(Object.keys((delta.body as { rows: object }).rows)).toEqual([rows[2]!.id]);
  expect(delta.headers.etag).toBe(now.headers.etag);
  // Who does not understand it, and who has what nobody knows any more, is told all of it.
  expect((await ask(tag, false)).status).toBe(200);
  expect((await ask('"nobody said that"')).body).toEqual(now.body);
});

it('knows what it said some times before, and forgets the oldest of it', async () => {
  const shared = new SharedAnswers();
  let said = 0;
  const ask = () =>
    shared.answerTo('how often', server.app.database.entities(), {
      clock: { now: () => NOW },
      lasts: (_em, now) => now,
      answer: () =>
        Promise.resolve({ said, text: 'always the same, and long enough to be worth leaving out' }),
    });
  const tags: string[] = [];
  for (; said < 12; said++) tags.push((await ask()).tag);
  said -= 1;
  const last = await ask();
  expect(last.tag).toBe(tags[11]);
  expect(tags.map((tag) => last.since(tag) !== null)).toEqual([
    ...Array<boolean>(3).fill(false),
    ...Array<boolean>(8).fill(true),
    false,
  ]);
  expect(JSON.parse(last.since(tags[5]!)!.json.toString())).toEqual({ members: { said: { is: 11 } } });
});

it('a person whose access was taken away is told nothing, however fresh the answer', async () => {
  const reader = await server.as('reader');
  await reader.get('/api/today').expect(200);
  await elsewhere.query('update person set active = false where id = $1', [server.people.reader]);
  await reader.get('/api/today').expect(401);
  await elsewhere.query('update person set active = true where id = $1', [server.people.reader]);
});

it('a page that only looks writes nothing', async () => {
  const pilot = await server.as('pilot');
  await pilot.get('/api/today').expect(200);
  const written = async () =>
    (await elsewhere.query('select sid, xmin::text from user_session order by sid')).rows as unknown[];
  const before = await written();
  for (let i = 0; i < 5; i++) await pilot.get('/api/today').expect(200);
  expect(await written()).toEqual(before);
});
