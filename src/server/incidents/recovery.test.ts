import type TestAgent from 'supertest/lib/agent';
import type { PackDetails, PackRow } from '../../contract';
import { answersTo } from '../../core/admission';
import { assess } from '../../core/assess';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { fold } from '../../core/record';
import { PRESET_RULES } from '../../core/rules';
import {
  addPack,
  addType,
  inspectionPayload,
  LIPO_4S,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
  reasons,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

/** An over-discharged pack brought up under supervision, in a house whose school does that. */

const RULES = PRESET_RULES['ready-state'];
const BEGUN = NOW - 30 * HOUR_MS;

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
let made = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
  const { body } = await custodian.get('/api/rules');
  const [inForce] = (body as { versions: { version: number }[] }).versions;
  await custodian
    .post('/api/rules')
    .send({ basedOn: inForce!.version, preset: 'ready-state', changes: [], reason: 'A call may come' })
    .expect(201);
});
afterAll(() => test.close());

const write = (agent: TestAgent, packId: string, ...records: object[]) =>
  agent.post('/api/records').send({ packId, records });
const row = async (id: string) => ((await custodian.get(`/api/packs?ids=${id}`)).body as PackRow[])[0]!;
const begun = (more: object = {}) =>
  recordBody(
    'recovery',
    {
      step: 'begun',
      basedOnSeq: 3,
      cause: 'stored-flat',
      causeText: 'Forgotten in the van over the winter.',
      charger: 'Bench charger',
      currentA: 0.33,
      attendant: 'Ineke',
      ...more,
    },
    BEGUN,
  );
const looked = (feels: 'cool' | 'warm', minutes: number) =>
  recordBody('recovery', { step: 'looked', feels, cellsMv: null }, BEGUN + minutes * MINUTE_MS);
const ended = (how: string, minutes: number, cellsMv: number[] | null = null) =>
  recordBody('recovery', { step: 'ended', how, cellsMv, remarks: null }, BEGUN + minutes * MINUTE_MS);

/** Read flat, then looked over and found whole. */
async function flatPack(cellsMv = [2900, 2950, 2950, 2900]): Promise<PackDetails> {
  const receivedAt = NOW - 60 * HOUR_MS;
  const pack = await addPack(custodian, typeId, `FL-${++made}`, { receivedAt });
  await write(
    custodian,
    pack.id,
    readingBody(cellsMv, { at: NOW - 40 * HOUR_MS }),
    recordBody('inspection', inspectionPayload(), NOW - 35 * HOUR_MS),
  ).expect(201);
  return pack;
}

async function release(pack: PackDetails, watch: unknown) {
  const { seq } = await row(pack.id);
  const { records } = (await custodian.get(`/api/packs/${pack.id}`)).body as PackDetails;
  const facts = { ...LIPO_4S, id: pack.id, fieldPack: false, smart: null, inServiceAt: null };
  const { findings } = assess(fold({ ...facts, placeTemperatures: [] }, records), RULES, NOW);
  const what = { to: 'release', answers: answersTo(findings), watch };
  return write(
    custodian,
    pack.id,
    recordBody('decision', { basedOnSeq: seq, reason: 'It is up.', what }, NOW),
  );
}

it('is for the custodian, at a gentle current, of a known and harmless cause', async () => {
  const pack = await flatPack();
  for (const role of ['pilot', 'deputy', 'reader'] as const)
    await write(await test.as(role), pack.id, begun()).expect(403);
  const refused = async (more: object) =>
    Object.entries(reasons((await write(custodian, pack.id, begun(more)).expect(422)).body));
  expect(await refused({ currentA: 0.34 })).toEqual([
    ['records.0.payload.currentA', 'Too much: up to 0.33 A for this pack.'],
  ]);
  expect(await refused({ cause: 'unknown' })).toEqual([
    ['records.0.payload.step', 'No recovery: The cause must be known, and not be damage.'],
  ]);
  expect(await refused({ causeText: ' ', attendant: '' })).toEqual([
    ['records.0.payload.causeText', expect.stringMatching(/is missing/)],
    ['records.0.payload.attendant', expect.stringMatching(/is missing/)],
  ]);
  await write(custodian, pack.id, begun({ basedOnSeq: 2 })).expect(409);
  expect(await row(pack.id)).toMatchObject({ verdict: 'hold', seq: 3 });
});

it('of a pack with a cell too low, or nobody looked at, does not begin', async () => {
  const low = await flatPack([2400, 2900, 2900, 2900]);
  const { body } = await write(custodian, low.id, begun()).expect(422);
  expect(Object.values(reasons(body))).toEqual(['No recovery: A cell went too low to be brought back.']);
  const unseen = await addPack(custodian, typeId, `FL-${++made}`, { receivedAt: NOW - 60 * HOUR_MS });
  const reading = readingBody([2900, 2950, 2950, 2900], { at: NOW - 40 * HOUR_MS });
  await write(custodian, unseen.id, reading).expect(201);
  const { body: other } = await write(custodian, unseen.id, begun({ basedOnSeq: 2 })).expect(422);
  expect(Object.values(reasons(other))[0]).toMatch(/It was not inspected since/);
});

it('holds the pack while it runs, comes up, rests, and is released to caution for life', async () => {
  const pack = await flatPack();
  await write(custodian, pack.id, begun()).expect(201);
  expect(await row(pack.id)).toMatchObject({
    verdict: 'hold',
    mayFly: 'no',
    next: { do: 'attend-recovery' },
  });
  await write(custodian, pack.id, begun({ basedOnSeq: 4 })).expect(422);
  const short = await write(custodian, pack.id, ended('reached', 20, [3300, 3300])).expect(422);
  expect(Object.keys(reasons(short.body))).toEqual(['records.0.payload.cellsMv']);
  await write(custodian, pack.id, looked('cool', 5), ended('reached', 20, [3300, 3310, 3300, 3300])).expect(
    201,
  );
  const early = await release(pack, 'for-good');
  expect(early.status).toBe(422);
  expect(Object.values(reasons(early.body))[0]).toMatch(/Read it rested after its rest/);
  // A reading within the rest says nothing of what it holds.
  const rested = (hours: number) => readingBody([3790, 3800, 3795, 3800], { at: BEGUN + hours * HOUR_MS });
  await write(custodian, pack.id, rested(10)).expect(201);
  expect((await release(pack, 'for-good')).status).toBe(422);
  await write(custodian, pack.id, rested(26)).expect(201);
  const some = await release(pack, { until: NOW + 100 * HOUR_MS });
  expect(Object.values(reasons(some.body))).toEqual(['A recovered pack stays on caution for good.']);
  expect((await release(pack, 'for-good')).status).toBe(201);
  expect(await row(pack.id)).toMatchObject({ verdict: 'watch', outSince: null });
});

it('that got warm ends as warm, is not tried again, and the pack goes', async () => {
  const pack = await flatPack();
  await write(custodian, pack.id, begun(), looked('warm', 4)).expect(201);
  const { body } = await write(custodian, pack.id, ended('reached', 6)).expect(422);
  expect(Object.values(reasons(body))[0]).toMatch(/It got warm/);
  await write(custodian, pack.id, ended('warm', 6)).expect(201);
  expect(await row(pack.id)).toMatchObject({ verdict: 'retire-advised', mayFly: 'no' });
  const again = await write(custodian, pack.id, begun({ basedOnSeq: 6 })).expect(422);
  expect(Object.values(reasons(again.body))[0]).toMatch(/It was tried before/);
});

it('that ran past its time did not come up, whatever the cells show', async () => {
  const pack = await flatPack();
  await write(custodian, pack.id, begun()).expect(201);
  const { body } = await write(custodian, pack.id, ended('reached', 31, [3300, 3300, 3300, 3300])).expect(
    422,
  );
  expect(Object.values(reasons(body))[0]).toMatch(/The time was over/);
  await write(custodian, pack.id, ended('time', 31)).expect(201);
  expect(await row(pack.id)).toMatchObject({ verdict: 'retire-advised' });
});
