import type TestAgent from 'supertest/lib/agent';
import type { SessionAnswer, SharedBenchAnswer } from '../../contract';
import { openTestApp, PASSWORD, readingBody, addPack, addType, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
/** The browser at the long bench: whoever comes and goes there, it keeps its cookie. */
let bench: TestAgent;
let benchId: string;

beforeEach(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  bench = await test.as('custodian');
  const { body } = await bench.post('/api/shared-benches').send({ name: 'The long bench' }).expect(201);
  benchId = (body as SharedBenchAnswer).id;
  await bench.delete('/api/session').expect(204);
});
afterEach(() => test.close());

const session = async (agent: TestAgent) =>
  (await agent.get('/api/session').expect(200)).body as SessionAnswer;
const whoIsIn = async (agent: TestAgent) => {
  const now = await session(agent);
  return now.state === 'signed-in' ? now.person.id : null;
};
const choose = (agent: TestAgent, pass: object) => agent.put('/api/session/bench-pass').send(pass);
const comesIn = (pass: object, agent = bench) => agent.post('/api/session/bench').send(pass);
const pinOf = (role: 'custodian' | 'pilot' | 'deputy', pin: string) => ({
  personId: test.people[role],
  pin,
});

it('lets people change by PIN, one out as the next comes in', async () => {
  const pilot = await test.as('pilot');
  await choose(pilot, { pin: '2580' }).expect(200);
  await choose(await test.as('deputy'), { pin: '94715' }).expect(200);
  expect((await session(bench)).bench).toMatchObject({
    name: 'The long bench',
    people: [{ name: 'The deputy' }, { name: 'The pilot' }],
  });
  await comesIn(pinOf('pilot', '2580')).expect(201);
  expect(await whoIsIn(bench)).toBe(test.people.pilot);
  await comesIn(pinOf('deputy', '2580')).expect(422);
  expect(await whoIsIn(bench)).toBe(test.people.pilot);
  await comesIn(pinOf('deputy', '94715')).expect(201);
  expect(await whoIsIn(bench)).toBe(test.people.deputy);
  // The pilot's own device is none of the bench's business.
  expect(await whoIsIn(pilot)).toBe(test.people.pilot);
  const { text } = await custodian.get('/api/log').expect(200);
  expect(text).toContain('the shared bench The long bench');
});

it('lets people change by badge, however the scanner writes it', async () => {
  await choose(await test.as('pilot'), { badge: 'crew 0042' }).expect(200);
  await comesIn({ badge: ' CREW 0042 ' }).expect(201);
  expect(await whoIsIn(bench)).toBe(test.people.pilot);
  const wrong = await comesIn({ badge: 'CREW 0043' }).expect(422);
  expect(reasons(wrong.body).badge).toBe('Nobody has this badge.');
});

it('takes many a tag for a badge without shutting anybody out, and at last none', async () => {
  await choose(await test.as('pilot'), { badge: 'CREW 0042' }).expect(200);
  for (let i = 0; i < 45; i += 1) await comesIn({ badge: `NEW-${i}` }).expect(422);
  await comesIn({ badge: 'CREW 0042' }).expect(201);
  await test.as('deputy');
  for (let i = 45; i < 60; i += 1) await comesIn({ badge: `NEW-${i}` }).expect(422);
  await comesIn({ badge: 'CREW 0042' }).expect(429);
  await test.as('deputy');
});

it('is the only browser where a PIN or a badge lets in', async () => {
  await choose(await test.as('pilot'), { pin: '2580', badge: 'CREW 0042' }).expect(200);
  await comesIn(pinOf('pilot', '2580'), test.anybody()).expect(403);
  await comesIn({ badge: 'CREW 0042' }, test.anybody()).expect(403);
  expect((await session(test.anybody())).bench).toBeNull();
});

it('counts guesses, whoever is signed in meanwhile', async () => {
  await choose(await test.as('pilot'), { pin: '2580' }).expect(200);
  await choose(await test.as('deputy'), { pin: '94715' }).expect(200);
  const answers: number[] = [];
  for (let i = 0; i < 10; i += 1) {
    answers.push((await comesIn(pinOf('pilot', `100${i}`))).status);
    // The guesser's own PIN takes no count of another's back.
    await comesIn(pinOf('deputy', '94715'));
  }
  expect(answers).toEqual([...Array<number>(8).fill(422), 429, 429]);
  await comesIn(pinOf('pilot', '2580')).expect(429);
});

it('lets a custodian in as a deputy, and asks for the password before what changes who comes in', async () => {
  await choose(custodian, { pin: '2580' }).expect(200);
  const { body } = await comesIn(pinOf('custodian', '2580')).expect(201);
  expect(body).toMatchObject({ person: { role: 'deputy' }, heldBy: 'bench' });
  await bench.get('/api/people').expect(403);
  await choose(bench, { pin: '3691' }).expect(403);
  await bench.post('/api/session/confirmation').send({ password: PASSWORD }).expect(204);
  await choose(bench, { pin: '3691' }).expect(200);
  await bench.get('/api/people').expect(403);
});

it('writes records in the name of whoever is in', async () => {
  const pack = await addPack(custodian, (await addType(custodian)).id, 'BENCH-1');
  await choose(await test.as('pilot'), { pin: '2580' }).expect(200);
  await comesIn(pinOf('pilot', '2580')).expect(201);
  const records = [readingBody([3800, 3800, 3800, 3800])];
  await bench.post('/api/records').send({ packId: pack.id, records }).expect(201);
  const [row]: { by: string }[] = await test.app.database
    .entities()
    .execute('select by from record where id = ?', [records[0]!.id]);
  expect(row!.by).toBe(test.people.pilot);
});

it('ends with whoever came in there, and its cookie is worth nothing after', async () => {
  await choose(await test.as('pilot'), { pin: '2580' }).expect(200);
  await comesIn(pinOf('pilot', '2580')).expect(201);
  await (await test.as('deputy')).delete(`/api/shared-benches/${benchId}`).expect(403);
  await custodian.delete(`/api/shared-benches/${benchId}`).expect(204);
  expect(await whoIsIn(bench)).toBeNull();
  await comesIn(pinOf('pilot', '2580')).expect(403);
  await custodian.delete(`/api/shared-benches/${benchId}`).expect(404);
});

it('lets nobody in whose account is ended, whose pass is taken away, or who was given a link', async () => {
  const pilot = await test.as('pilot');
  await choose(pilot, { pin: '2580', badge: 'CREW 0042' }).expect(200);
  await choose(pilot, { pin: null }).expect(200);
  await comesIn(pinOf('pilot', '2580')).expect(422);
  await comesIn({ badge: 'CREW 0042' }).expect(201);
  await custodian.post(`/api/people/${test.people.pilot}/sign-in-link`).send({}).expect(201);
  expect(await whoIsIn(bench)).toBeNull();
  await comesIn({ badge: 'CREW 0042' }).expect(422);
});

it.each([
  [{ pin: '123' }, 'pin', /four to eight/],
  [{ pin: '12a4' }, 'pin', /four to eight/],
  [{ pin: '1234' }, 'pin', /tried first/],
  [{ pin: '9876' }, 'pin', /tried first/],
  [{ pin: '00000' }, 'pin', /tried first/],
  [{ badge: 'x' }, 'badge', /at least four/],
])('takes no pass like %j', async (pass, field, why) => {
  const { body } = await choose(await test.as('pilot'), pass).expect(422);
  expect(reasons(body)[field]).toMatch(why);
});

it('is one person’s badge', async () => {
  await choose(await test.as('pilot'), { badge: 'CREW 0042' }).expect(200);
  const { body } = await choose(await test.as('deputy'), { badge: 'crew 0042' }).expect(422);
  expect(reasons(body).badge).toMatch(/somebody else/);
  await choose(await test.as('pilot'), { badge: 'CREW 0042' }).expect(200);
});
