import request from 'supertest';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { KeyAnswer, NewKeyAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { addPack, addType, NOW, openTestApp, readingBody, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterAll(() => test.close());

const form = (more: object = {}) => ({
  id: newId(),
  name: 'Weather station',
  role: 'reader',
  endsAt: NOW + 30 * DAY_MS,
  ...more,
});
const made = async (more: object = {}) =>
  (await custodian.post('/api/keys').send(form(more)).expect(201)).body as NewKeyAnswer;
const by = (secret: string) => ({
  get: (path: string) =>
    request(test.app.express).get(`/api${path}`).set('authorization', `Bearer ${secret}`),
  post: (path: string, body: object) =>
    request(test.app.express).post(`/api${path}`).set('authorization', `Bearer ${secret}`).send(body),
});

it('lets a script read, and no more than its role', async () => {
  const { secret, id } = await made();
  await by(secret).get('/packs').expect(200);
  await by(secret).post('/places', {}).expect(403);
  await by(secret).get('/keys').expect(403);
  const [key] = ((await custodian.get('/api/keys')).body as KeyAnswer[]).filter((one) => one.id === id);
  expect(key).toMatchObject({ name: 'Weather station', usedAt: NOW, endedAt: null });
  expect(JSON.stringify(key)).not.toContain(secret);
});

it('writes under the name of whoever made it', async () => {
  const pack = await addPack(custodian, (await addType(custodian)).id, 'KY-1');
  const { secret } = await made({ role: 'pilot' });
  const { body } = await by(secret)
    .post('/records', { packId: pack.id, records: [readingBody([3800, 3800, 3800, 3800])] })
    .expect(201);
  expect(body).toMatchObject({ records: [{ by: test.people.custodian }] });
});

it('ends on its day, when it is ended, and with its maker’s rights', async () => {
  const ended = await made();
  await custodian.delete(`/api/keys/${ended.id}`).expect(204);
  await by(ended.secret).get('/packs').expect(401);
  const past = await made();
  await test.app.database
    .entities()
    .execute('update api_key set ends_at = ? where id = ?', [new Date(NOW).toISOString(), past.id]);
  await by(past.secret).get('/packs').expect(401);
  const orphan = await made();
  await test.app.database
    .entities()
    .execute(`update person set role = 'reader' where id = ?`, [test.people.custodian]);
  await by(orphan.secret).get('/packs').expect(401);
  await test.app.database
    .entities()
    .execute(`update person set role = 'custodian' where id = ?`, [test.people.custodian]);
  await by(orphan.secret).get('/packs').expect(200);
});

it.each(['', 'Bearer', 'Bearer malle_wrong', 'Basic abc', `Bearer ${'x'.repeat(5_000)}`])(
  '%j is nobody',
  async (authorization) => {
    await request(test.app.express).get('/api/packs').set('authorization', authorization).expect(401);
    // Whoever shows a key is judged by the key, session or not; a proxy's own password is no key.
    const isKey = authorization.startsWith('Bearer ');
    await custodian
      .get('/api/packs')
      .set('authorization', authorization)
      .expect(isKey ? 401 : 200);
  },
);

it('is refused with the reason: a custodian’s role, a day gone by, more than a year', async () => {
  const refused = async (more: object) =>
    reasons((await custodian.post('/api/keys').send(form(more)).expect(422)).body);
  expect(await refused({ role: 'custodian' })).toEqual({ role: expect.stringContaining('no custodian') });
  expect(await refused({ endsAt: NOW })).toEqual({ endsAt: expect.stringContaining('ended already') });
  expect(await refused({ endsAt: NOW + 400 * DAY_MS })).toEqual({
    endsAt: expect.stringContaining('a year'),
  });
  expect(await refused({ name: ' ' })).toEqual({ name: expect.stringContaining('missing') });
});
