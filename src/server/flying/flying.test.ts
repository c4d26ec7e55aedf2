import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type {
  FlyingAnswer,
  FlyingDayAnswer,
  PackDetails,
  PackRow,
  RegisterAnswer,
  TodayAnswer,
} from '../../contract';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { BLANK_FLIGHT, BLANK_RETURNED, BLANK_TAKEN_OUT } from '../../core/record';
import { addCraft, craftForm, dayForm } from '../testing/bench';
import {
  addPack,
  addType,
  incidentBody,
  NOW,
  openTestApp,
  readingBody,
  reasons,
  recordBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let typeId: string;
let tags = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

/** A pack that rests at these volts, read an hour ago. */
async function aPack(mv = 4180): Promise<PackDetails> {
  const pack = await addPack(custodian, typeId, `F-${++tags}`);
  const reading = readingBody([mv, mv, mv, mv], { at: NOW - HOUR_MS });
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [reading] })
    .expect(201);
  return pack;
}

const takes = (more: object = {}, at = NOW) => recordBody('taken-out', { ...BLANK_TAKEN_OUT, ...more }, at);
const returns = (more: object = {}, at = NOW) => recordBody('returned', { ...BLANK_RETURNED, ...more }, at);
const flies = (more: object = {}, at = NOW) => recordBody('flight', { ...BLANK_FLIGHT, ...more }, at);
const send = (agent: TestAgent, packId: string, ...records: readonly object[]) =>
  agent.post('/api/records').send({ packId, records });
async function row(id: string): Promise<PackRow> {
  const { body } = await custodian.get(`/api/packs?ids=${id}`).expect(200);
  return (body as PackRow[])[0]!;
}
const flying = async () => (await custodian.get('/api/flying').expect(200)).body as FlyingAnswer;

it('a pack that is taken out and comes back tells who has it, what they still owe, and what its landing showed', async () => {
  const craft = await addCraft(custodian);
  const pack = await aPack();
  const dueBackAt = NOW + 6 * HOUR_MS;
  await send(pilot, pack.id, takes({ craftId: craft.id, dueBackAt }, NOW - 40 * MINUTE_MS)).expect(201);
  expect(await row(pack.id)).toMatchObject({
    holderId: test.people.pilot,
    placeId: null,
    out: {
      holder: test.people.pilot,
      dueBackAt,
      wantedBackAt: dueBackAt,
      craftId: craft.id,
      flights: 0,
      alsoWith: null,
    },
  });
  const landing = { volts: { of: 'pack', packMv: 14_000 }, condition: 'loaded' };
  const flight = flies({
    minutes: 10,
    usedMah: 2_700,
    landing,
    craft: craft.name,
    craftId: craft.id,
    craftSetup: 0,
  });
  await send(pilot, pack.id, flight, returns()).expect(201);
  expect(await row(pack.id)).toMatchObject({
    holderId: null,
    out: null,
    owed: { by: test.people.pilot, flownAt: NOW, readFrom: NOW + 30 * MINUTE_MS },
  });
  expect((await flying()).landings.find(({ packId }) => packId === pack.id)).toMatchObject({
    craftId: craft.id,
    loadedMv: 3_500,
    restedMv: null,
    depthPercent: expect.closeTo(81.8, 0) as number,
  });
  await send(pilot, pack.id, readingBody([3680, 3680, 3680, 3680], { at: NOW + 2 * MINUTE_MS })).expect(201);
  expect(await row(pack.id)).toMatchObject({ owed: null });
});

it('a craft’s step is learned from its returns, of the newest set-up alone', async () => {
  const craft = await addCraft(custodian);
  const flown = async (stepMv: number, setup: number) => {
    const pack = await aPack();
    const volts = { of: 'cells', cellsMv: [3500, 3500, 3500, 3500] };
    const rested = 3500 + stepMv;
    await send(
      pilot,
      pack.id,
      flies(
        { landing: { volts, condition: 'loaded' }, craft: craft.name, craftId: craft.id, craftSetup: setup },
        NOW - 40 * MINUTE_MS,
      ),
      readingBody([rested, rested, rested, rested], { at: NOW - MINUTE_MS }),
    ).expect(201);
  };
  const step = async () => (await flying()).steps.find(({ craftId }) => craftId === craft.id);
  for (const mv of [180, 190, 170, 185]) await flown(mv, 0);
  expect(await step()).toMatchObject({ stepMv: 181, returns: 4 });
  await custodian
    .post(`/api/craft/${craft.id}/changes`)
    .send({ at: NOW - HOUR_MS, what: 'Other propellers', newBaseline: true })
    .expect(201);
  for (const mv of [240, 250, 245]) await flown(mv, 1);
  expect(await step()).toMatchObject({ stepMv: 245, returns: 3 });
});

it('two who took the same pack are both told on Today, whoever had no network, until one of them answers', async () => {
  const pack = await aPack();
  const deputy = await test.as('deputy');
  await send(pilot, pack.id, takes({}, NOW - 50 * MINUTE_MS)).expect(201);
  // The deputy’s phone comes back into the network an hour later; its entry takes its own place.
  await send(deputy, pack.id, takes({}, NOW - 60 * MINUTE_MS)).expect(201);
  const told = { holder: test.people.pilot, alsoWith: { person: test.people.deputy } };
  expect((await row(pack.id)).out).toMatchObject(told);
  const today = async () => ((await custodian.get('/api/today').expect(200)).body as TodayAnswer).out;
  expect((await today()).find(({ id }) => id === pack.id)?.out).toMatchObject(told);
  await send(deputy, pack.id, takes({ fromId: test.people.pilot })).expect(201);
  expect((await row(pack.id)).out).toMatchObject({ holder: test.people.deputy, alsoWith: null });
  expect((await today()).find(({ id }) => id === pack.id)).toBeUndefined();
});

it('Today names what should be back: when it was said to be, or as long as the house lets it be out', async () => {
  const [late, silent, inTime] = [await aPack(), await aPack(), await aPack()];
  await send(pilot, late.id, takes({ dueBackAt: NOW - MINUTE_MS }, NOW - 30 * MINUTE_MS)).expect(201);
  await send(pilot, silent.id, takes({}, NOW - 30 * MINUTE_MS)).expect(201);
  await send(pilot, inTime.id, takes({ dueBackAt: NOW + HOUR_MS }, NOW - 30 * MINUTE_MS)).expect(201);
  const { body } = await custodian.get('/api/today').expect(200);
  const named = (body as TodayAnswer).out.map(({ id }) => id);
  expect(named).toContain(late.id);
  expect(named).not.toContain(silent.id);
  expect(named).not.toContain(inTime.id);
});

it('a held pack is not taken out; a return of one nobody took is evidence of where it lies', async () => {
  const pack = await aPack();
  await send(pilot, pack.id, returns()).expect(201);
  const incident = incidentBody([pack.id]);
  await custodian.post('/api/incidents').send(incident).expect(201);
  const refused = await send(pilot, pack.id, takes()).expect(422);
  expect(JSON.stringify(refused.body)).toMatch(/on hold/);
  // What began before it was held is evidence.
  await send(pilot, pack.id, takes({}, NOW - 2 * HOUR_MS)).expect(201);
});

it.each([
  ['a flight of three days', () => flies({ minutes: 5_000 }), /minutes/i],
  [
    'volts of another count',
    () => flies({ landing: { volts: { of: 'cells', cellsMv: [3500, 3500, 3500] }, condition: 'loaded' } }),
    /3 .*4|4 .*3/,
  ],
  ['a craft nobody knows', () => takes({ craftId: newId() }), /craft/],
  ['a flying day nobody knows', () => takes({ dayId: newId() }), /flying day/],
  ['somebody nobody knows', () => takes({ holderId: newId() }), /person/],
  ['a clock an hour ahead', () => takes({}, NOW + HOUR_MS), /not come yet/],
] as const)('%s is refused with the reason, and nothing is kept', async (_name, body, says) => {
  const pack = await aPack();
  const answer = await send(pilot, pack.id, body()).expect(422);
  expect(Object.values(reasons(answer.body)).join(' ')).toMatch(says);
  expect((await row(pack.id)).out).toBeNull();
});

it('a phone that comes back after three weeks lands once, in its own time', async () => {
  const pack = await addPack(custodian, typeId, `F-${++tags}`, { receivedAt: NOW - 60 * 24 * HOUR_MS });
  const then = NOW - 21 * 24 * HOUR_MS;
  const entries = [takes({}, then), flies({ minutes: 9 }, then + HOUR_MS), returns({}, then + 2 * HOUR_MS)];
  await send(pilot, pack.id, ...entries).expect(201);
  await send(pilot, pack.id, ...entries).expect(201);
  const { records } = (await custodian.get(`/api/packs/${pack.id}`).expect(200)).body as PackDetails;
  expect(records.map(({ kind }) => kind)).toEqual(['received', 'taken-out', 'flight', 'returned']);
});

it('what is taken along is settled by the custodian, from the version they saw, and nothing unfit is', async () => {
  const craft = await addCraft(custodian);
  const strong = await addCraft(custodian, { sustainedA: 60 });
  const nickel = await addCraft(custodian, { cutOff: { mode: 'nickel' } });
  const [good, held] = [await aPack(), await aPack()];
  await custodian
    .post('/api/incidents')
    .send(incidentBody([held.id]))
    .expect(201);
  const form = {
    ...dayForm(typeId, 2),
    wants: [{ typeId, packs: 2, craftId: craft.id }],
    personIds: [test.people.pilot],
  };
  const day = (await pilot.post('/api/flying-days').send(form).expect(201)).body as FlyingDayAnswer;
  expect(day).toMatchObject({ personIds: [test.people.pilot], handOut: [] });
  const settle = (version: number, lines: readonly object[], agent = custodian) =>
    agent.put(`/api/flying-days/${day.id}/hand-out`).send({ version, lines });
  const line = (packId: string, craftId: string | null = craft.id) => ({
    packId,
    craftId,
    personId: null,
    spare: false,
    byHand: false,
  });
  await settle(day.version, [line(good.id)], pilot).expect(403);
  expect(reasons((await settle(day.version, [line(held.id)]).expect(422)).body)['lines.0.packId']).toMatch(
    /on hold/,
  );
  expect(
    reasons((await settle(day.version, [line(good.id, strong.id)]).expect(422)).body)['lines.0.packId'],
  ).toMatch(/rated for 66 A/);
  expect(
    reasons((await settle(day.version, [line(good.id, nickel.id)]).expect(422)).body)['lines.0.packId'],
  ).toMatch(/never cuts/);
  await settle(day.version, [line(good.id), line(good.id)]).expect(422);
  const settled = (await settle(day.version, [line(good.id)]).expect(200)).body as FlyingDayAnswer;
  expect(settled.handOut).toEqual([line(good.id)]);
  await settle(day.version, []).expect(409);
  // Describing the day anew leaves its list and its people alone.
  const { personIds: _people, ...described } = form;
  const changed = await custodian
    .put(`/api/flying-days/${day.id}`)
    .send({ ...described, place: 'South bank', version: settled.version })
    .expect(200);
  expect(changed.body).toMatchObject({
    personIds: [test.people.pilot],
    handOut: [line(good.id)],
    place: 'South bank',
  });
});

it('a craft keeps its name to itself, its changes in their order, and its form’s mistakes at their fields', async () => {
  const form = craftForm();
  const { id } = (await custodian.post('/api/craft').send(form).expect(201)).body as { id: string };
  expect(reasons((await custodian.post('/api/craft').send(form).expect(422)).body)).toHaveProperty('name');
  const bad = craftForm({ cells: { least: 6, most: 4 }, chemistries: [], massG: { least: 900, most: 100 } });
  expect(
    Object.keys(reasons((await custodian.post('/api/craft').send(bad).expect(422)).body)).sort(),
  ).toEqual(['facts.cells.most', 'facts.chemistries', 'facts.massG.most']);
  const change = (at: number, what: string) =>
    custodian.post(`/api/craft/${id}/changes`).send({ at, what, newBaseline: false });
  await change(NOW - HOUR_MS, 'second').expect(201);
  await change(NOW - 2 * HOUR_MS, 'first').expect(201);
  expect(reasons((await change(NOW + HOUR_MS, 'tomorrow').expect(422)).body)).toHaveProperty('at');
  const { craft } = (await custodian.get('/api/register').expect(200)).body as RegisterAnswer;
  expect(craft.find((one) => one.id === id)!.changes.map(({ what }) => what)).toEqual(['first', 'second']);
});
