import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { PackDetails, RoundAnswer, RoundDetails, RoundRowAnswer, TodayAnswer } from '../../contract';
import {
  addPack,
  addType,
  inspectionPayload,
  NOW,
  openTestApp,
  readingBody,
  reasons,
  roundBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let packs: PackDetails[];

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  const type = await addType(custodian);
  packs = [];
  for (let i = 1; i <= 6; i++) packs.push(await addPack(custodian, type.id, `RD-${i}`));
});
afterAll(() => test.close());

const STORED = [3800, 3810, 3800, 3800];
const begin = async (more: object = {}, agent = custodian): Promise<RoundDetails> => {
  const body = roundBody({ packIds: packs.slice(0, 4).map(({ id }) => id), ...more });
  return (await agent.post('/api/rounds').send(body).expect(201)).body as RoundDetails;
};
const row = (packId: string, more: object = {}) => ({
  packId,
  records: [readingBody(STORED)],
  outcome: 'done',
  reason: null,
  at: NOW,
  ...more,
});
const work = (agent: TestAgent, round: { id: string }, body: object) =>
  agent.post(`/api/rounds/${round.id}/rows`).send(body);
const look = async (round: { id: string }) =>
  (await custodian.get(`/api/rounds/${round.id}`).expect(200)).body as RoundDetails;
const recordsOf = async (id: string) =>
  ((await custodian.get(`/api/packs/${id}`)).body as PackDetails).records.length;

it('begins with its packs in order, once however often it is sent', async () => {
  const body = roundBody({ packIds: packs.slice(0, 3).map(({ id }) => id) });
  const answers = await Promise.all([1, 2, 3].map(() => custodian.post('/api/rounds').send(body)));
  expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
  const round = await look(body);
  expect(round.rows.map(({ packId }) => packId)).toEqual(body.packIds);
  expect(round).toMatchObject({ packs: 3, worked: 0, startedBy: test.people.custodian, closedAt: null });
});

it('a row and its records arrive together, with who and when', async () => {
  const round = await begin();
  const inspection = {
    id: newId(),
    at: NOW,
    kind: 'inspection',
    supersedes: null,
    payload: inspectionPayload(),
  };
  const records = [inspection, readingBody(STORED, { at: NOW })];
  const { body } = await work(pilot, round, row(packs[0]!.id, { records })).expect(201);
  const answer = body as RoundRowAnswer;
  expect(answer.records.map(({ kind }) => kind)).toEqual(['inspection', 'reading']);
  expect(answer.row).toEqual({
    packId: packs[0]!.id,
    outcome: 'done',
    by: test.people.pilot,
    at: NOW,
    reason: null,
  });
  expect(await look(round)).toMatchObject({ packs: 4, worked: 1 });
});

it('a refused record leaves its row open and nothing in the ledger', async () => {
  const round = await begin();
  const before = await recordsOf(packs[1]!.id);
  const records = [readingBody(STORED), readingBody([3800, 3800])];
  const { body } = await work(custodian, round, row(packs[1]!.id, { records })).expect(422);
  expect(Object.values(reasons(body))[0]).toMatch(/4 cells, but 2/);
  expect(await recordsOf(packs[1]!.id)).toBe(before);
  expect((await look(round)).worked).toBe(0);
});

it('sent again, a row is harmless', async () => {
  const round = await begin();
  const body = row(packs[2]!.id);
  const before = await recordsOf(packs[2]!.id);
  await Promise.all([1, 2, 3, 4].map(() => work(custodian, round, body).expect(201)));
  expect(await recordsOf(packs[2]!.id)).toBe(before + 1);
});

it('of two people at one row the first has it, and what both measured is kept', async () => {
  const round = await begin();
  const before = await recordsOf(packs[3]!.id);
  const answers = await Promise.all([
    work(custodian, round, row(packs[3]!.id)),
    work(
      pilot,
      round,
      row(packs[3]!.id, { outcome: 'skipped', reason: 'not mine', records: [readingBody(STORED)] }),
    ),
  ]);
  expect(answers.map(({ status }) => status)).toEqual([201, 201]);
  const [kept] = (await look(round)).rows.filter(({ packId }) => packId === packs[3]!.id);
  // Whichever came first, work done outweighs work left out.
  expect(kept).toMatchObject({ outcome: 'done', by: test.people.custodian });
  expect(await recordsOf(packs[3]!.id)).toBe(before + 2);
});

it('a pack that was scanned in joins at the end; an unknown one does not', async () => {
  const round = await begin();
  await work(pilot, round, row(packs[5]!.id)).expect(201);
  expect((await look(round)).rows.at(-1)).toMatchObject({ packId: packs[5]!.id, outcome: 'done' });
  await work(pilot, round, row(newId())).expect(404);
  await work(pilot, { id: newId() }, row(packs[0]!.id)).expect(404);
});

it('leaving a pack out needs a reason; a pack left out can still be done', async () => {
  const round = await begin();
  const skip = { records: [], outcome: 'skipped' };
  const { body } = await work(custodian, round, row(packs[0]!.id, skip)).expect(422);
  expect(reasons(body)).toEqual({ reason: 'Say why it is left out.' });
  await work(custodian, round, row(packs[0]!.id, { ...skip, reason: 'at the repair bench' })).expect(201);
  await work(custodian, round, row(packs[0]!.id)).expect(201);
  expect((await look(round)).rows[0]).toMatchObject({ outcome: 'done', reason: null });
});

it('a row under way stays open and says who is at it', async () => {
  const round = await begin({ kind: 'season-start', checklist: true });
  await work(custodian, round, row(packs[0]!.id, { outcome: null })).expect(201);
  expect((await look(round)).rows[0]).toMatchObject({ outcome: null, by: test.people.custodian, at: NOW });
});

it('closed, it stays as it was; late work still counts for the pack', async () => {
  const round = await begin();
  await custodian.post(`/api/rounds/${round.id}/close`).send({}).expect(201);
  const before = await recordsOf(packs[1]!.id);
  const { body } = await work(custodian, round, row(packs[1]!.id)).expect(201);
  expect((body as RoundRowAnswer).row.outcome).toBeNull();
  expect(await recordsOf(packs[1]!.id)).toBe(before + 1);
  expect(await look(round)).toMatchObject({ closedAt: NOW, worked: 0 });
});

it('open rounds stand on Today and at the top of the list', async () => {
  const round = await begin({ title: 'The one under way' });
  const { body: list } = await pilot.get('/api/rounds').expect(200);
  const titles = (list as RoundAnswer[]).map(({ title, closedAt }) => [title, closedAt === null] as const);
  expect(titles).toContainEqual(['The one under way', true]);
  expect(titles.findIndex(([, open]) => !open)).toBeGreaterThan(titles.findLastIndex(([, open]) => open));
  const { openRounds } = (await pilot.get('/api/today')).body as TodayAnswer;
  expect(openRounds.map(({ id }) => id)).toContain(round.id);
});

it('is refused where it makes no sense', async () => {
  const wrong = (body: object) => custodian.post('/api/rounds').send(roundBody(body)).expect(422);
  expect(reasons((await wrong({ kind: 'idle-chat' })).body)).toHaveProperty('kind');
  expect(reasons((await wrong({ title: '  ' })).body)).toEqual({ title: 'The title is missing.' });
  expect(reasons((await wrong({ mood: 'good' })).body)).toHaveProperty('mood');
  expect(reasons((await wrong({ placeId: newId() })).body)).toEqual({
    placeId: 'This place is not in the register.',
  });
  await custodian
    .post('/api/rounds')
    .send(roundBody({ packIds: [newId()] }))
    .expect(404);
});
