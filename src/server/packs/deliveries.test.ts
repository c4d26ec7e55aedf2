import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { PackDetails, PackRow } from '../../contract';
import { addType, inspectionPayload, NOW, openTestApp, readingBody, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

const delivery = (tags: readonly string[], more: object = {}) => ({
  id: newId(),
  typeId,
  packs: tags.map((tag) => ({ id: newId(), recordId: newId(), tag })),
  owner: 'The cooperative',
  homePlaceId: null,
  fieldPack: false,
  smart: null,
  receivedAt: NOW,
  source: 'order 12',
  ...more,
});
const receive = (body: object, agent = custodian) => agent.post('/api/deliveries').send(body);
const count = async () => ((await custodian.get('/api/packs')).body as PackRow[]).length;

it('makes its packs, each with its receipt, and each knows its siblings', async () => {
  const body = delivery(['DL-01', 'DL-02', 'DL-03']);
  const { body: rows } = await receive(body).expect(201);
  expect((rows as PackRow[]).map(({ tag }) => tag)).toEqual(['DL-01', 'DL-02', 'DL-03']);
  const pack = (await custodian.get(`/api/packs/${body.packs[1]!.id}`)).body as PackDetails;
  expect(pack).toMatchObject({ deliveryId: body.id, owner: 'The cooperative' });
  expect(pack.records).toMatchObject([{ kind: 'received', payload: { source: 'order 12' } }]);
  expect((rows as PackRow[])[0]!.tasks.map((task) => task.do)).toContain('complete-baseline');
});

it('sent again, makes nothing new', async () => {
  const body = delivery(['DL-11', 'DL-12']);
  await receive(body).expect(201);
  const before = await count();
  await Promise.all([receive(body).expect(201), receive(body).expect(201)]);
  expect(await count()).toBe(before);
});

it('is taken whole or not at all, with every tag that is taken named', async () => {
  await receive(delivery(['DL-22'])).expect(201);
  const before = await count();
  const { body } = await receive(delivery(['DL-21', 'dl 22', 'DL-23', 'DL-21'])).expect(422);
  expect(reasons(body)).toEqual({ 'packs.3.tag': 'DL-21 is in this delivery twice.' });
  const taken = await receive(delivery(['DL-21', 'dl 22', 'DL-23'])).expect(422);
  expect(reasons(taken.body)).toEqual({ 'packs.1.tag': 'dl 22: DL-22 has this tag already.' });
  expect(await count()).toBe(before);
});

it('what concerns all of them is said once', async () => {
  const { body } = await receive(delivery(['DL-31', 'DL-32'], { typeId: newId() })).expect(422);
  expect(reasons(body)).toEqual({ typeId: 'This pack type is not in the register.' });
  expect(reasons((await receive(delivery([])).expect(422)).body)).toEqual({
    packs: 'A delivery has at least one pack.',
  });
  await receive(delivery(['DL-41']), await test.as('pilot')).expect(403);
});

it('a pack that came far from storage volts is to go back', async () => {
  const body = delivery(['DL-51']);
  await receive(body).expect(201);
  const packId = body.packs[0]!.id;
  const records = [
    {
      id: newId(),
      at: NOW,
      kind: 'inspection',
      supersedes: null,
      payload: inspectionPayload({ occasion: 'receipt' }),
    },
    readingBody([3400, 3410, 3400, 3400], { at: NOW }),
  ];
  await custodian.post('/api/records').send({ packId, records }).expect(201);
  const [row] = (await custodian.get(`/api/packs?ids=${packId}`)).body as PackRow[];
  expect(row).toMatchObject({ verdict: 'watch' });
  const em = test.app.database.entities();
  const [state]: { findings: { rule: string }[] }[] = await em.execute(
    'select findings from pack_state where pack_id = ?',
    [packId],
  );
  expect(state!.findings.map(({ rule }) => rule)).toContain('not-as-delivered');
});
