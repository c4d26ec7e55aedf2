import type TestAgent from 'supertest/lib/agent';
import { ROLES } from '../core/lifecycle';
import { faultOf, Fuzzer } from './testing/fuzz';
import { addPack, addType, incidentBody, NOW, openTestApp, readingBody, roundBody } from './testing/testApp';
import type { TestApp } from './testing/testApp';

/** `npm run bench -- fuzz` asks as many as one likes; these are asked of every change. */
const REQUESTS = 1_200;

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

it('whatever is asked in the form that is described, or nearly so, is answered, and nothing broken and nothing inside is told', async () => {
  const agents = new Map<string, TestAgent>();
  for (const role of ROLES) agents.set(role, await test.as(role));
  const custodian = agents.get('custodian')!;
  const fuzzer = new Fuzzer(7, { own: Object.values(test.people), now: NOW });
  const type = await addType(custodian);
  for (let i = 1; i <= 4; i++) {
    const { id } = await addPack(custodian, type.id, `FZ-${i}`);
    const records = [readingBody([3850, 3850, 3850, 3840])];
    await custodian.post('/api/records').send({ packId: id, records }).expect(201);
    await custodian
      .post('/api/incidents')
      .send(incidentBody(i === 1 ? [id] : []))
      .expect(201);
  }
  await custodian.post('/api/rounds').send(roundBody()).expect(201);
  for (const path of ['register', 'packs', 'rounds', 'incidents'])
    fuzzer.learn((await custodian.get(`/api/${path}`)).body, path);

  const faults: string[] = [];
  const answers = new Map<number, number>();
  for (let i = 0; i < REQUESTS; i++) {
    const one = fuzzer.next();
    const role = ROLES[i % ROLES.length]!;
    const agent = agents.get(role)!;
    const asked = agent[one.method.toLowerCase() as 'get'](one.path).set({ ...one.headers });
    const { status, text } = await (one.body === null ? asked : asked.send(one.body));
    answers.set(status, (answers.get(status) ?? 0) + 1);
    const fault = faultOf(status, text ?? '');
    if (fault) faults.push(`${JSON.stringify(one).slice(0, 600)}\n${fault}`);
    // Whoever was signed out by what was asked signs in again.
    if (status === 401) agents.set(role, await test.as(role));
  }
  expect(faults).toEqual([]);
  // Most of it came past the door: had all been refused for its form, nothing would have been tried.
  expect((answers.get(200) ?? 0) + (answers.get(201) ?? 0)).toBeGreaterThan(REQUESTS / 8);
  expect(answers.get(422)).toBeGreaterThan(REQUESTS / 20);
});

it.each(['gzip', 'br', 'deflate', 'zstd'])(
  'a body that is not packed as it says (%s) is the request’s fault',
  async (encoding) => {
    const answer = await (
      await test.as('custodian')
    )
      .post('/api/records')
      .set({ 'content-encoding': encoding, 'content-type': 'application/json' })
      .send('{"packId":1}');
    expect([answer.status, (answer.body as { type?: string }).type]).toEqual([400, '/problems/not-json']);
  },
);

it('an answer that tells of the inside, or that something broke, is found', () => {
  expect(faultOf(500, '{}')).not.toBeNull();
  expect(faultOf(422, 'Error: x at Object.run (/srv/app/node_modules/pg/lib.js:3)')).not.toBeNull();
  expect(faultOf(503, '{"type":"/problems/busy"}')).toBeNull();
  expect(faultOf(503, 'upstream')).not.toBeNull();
  expect(faultOf(422, '{"title":"Some of what came cannot be taken."}')).toBeNull();
});
