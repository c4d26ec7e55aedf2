import ICAL from 'ical.js';
import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { CalendarAnswer, PackDetails } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import type { Instant } from '../../core/measure';
import { addPack, addType, inspectionPayload, NOW, openTestApp, readingBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let packs: PackDetails[];
/** Sixty days on, clocks in Europe have gone forward: the due instant lies on the other side of the change. */
const INSPECTED: Instant = Date.UTC(2026, 1, 10, 18, 30);

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  const type = await addType(custodian);
  packs = [];
  for (const tag of ['CA-1', 'CA-2'])
    packs.push(await addPack(custodian, type.id, tag, { receivedAt: INSPECTED - DAY_MS }));
  for (const pack of packs) {
    const inspection = {
      id: newId(),
      at: INSPECTED,
      kind: 'inspection',
      supersedes: null,
      payload: inspectionPayload(),
    };
    const reading = readingBody([3800, 3800, 3800, 3800], { at: INSPECTED + HOUR_MS });
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [inspection, reading] })
      .expect(201);
  }
  await custodian
    .post('/api/records')
    .send({ packId: packs[1]!.id, records: [readingBody([4200, 4200, 4200, 4200], { at: NOW - HOUR_MS })] })
    .expect(201);
});
afterAll(() => test.close());

const address = async (agent: TestAgent) =>
  ((await agent.post('/api/calendar').send({}).expect(201)).body as CalendarAnswer).path!;
const events = async (path: string) => {
  const { text, headers } = await test.anybody().get(path).expect(200);
  expect(headers['content-type']).toMatch(/^text\/calendar/);
  const calendar = new ICAL.Component(ICAL.parse(text) as never[]);
  return calendar.getAllSubcomponents('vevent').map((one) => new ICAL.Event(one));
};

it('is a calendar that an independent parser reads, with the right instants across a clock change', async () => {
  const found = await events(await address(custodian));
  const inspect = found.find(({ summary }) => summary === 'CA-1: inspect it')!;
  const dueAt = INSPECTED + 60 * DAY_MS;
  expect(inspect.startDate.toJSDate().getTime()).toBe(dueAt);
  // 19:30 on the wall in winter, 20:30 in summer: elapsed days, not a wall clock's.
  const wall = (at: Instant) =>
    new Intl.DateTimeFormat('en-GB', { timeZone: 'Europe/Amsterdam', timeStyle: 'short' }).format(at);
  expect([wall(INSPECTED), wall(inspect.startDate.toJSDate().getTime())]).toEqual(['19:30', '20:30']);
  expect(inspect.endDate.toJSDate().getTime() - dueAt).toBe(HOUR_MS / 2);
  expect(inspect.component.getFirstPropertyValue('url')).toContain(`/packs/${packs[0]!.id}`);
});

it('tells storage hours too, and every appointment keeps its identity from one fetch to the next', async () => {
  const path = await address(custodian);
  const [first, again] = [await events(path), await events(path)];
  expect(first.map(({ uid }) => uid)).toEqual(again.map(({ uid }) => uid));
  expect(new Set(first.map(({ uid }) => uid)).size).toBe(first.length);
  const storage = first.find(({ summary }) => summary === 'CA-2: discharge to storage')!;
  expect(storage.startDate.toJSDate().getTime()).toBe(NOW - HOUR_MS + 48 * HOUR_MS);
});

it('shows a pilot what is in their hands only', async () => {
  const pilot = await test.as('pilot');
  const path = await address(pilot);
  expect(await events(path)).toEqual([]);
  const moved = {
    id: newId(),
    at: NOW,
    kind: 'moved',
    supersedes: null,
    payload: { placeId: null, holderId: test.people.pilot },
  };
  await custodian
    .post('/api/records')
    .send({ packId: packs[0]!.id, records: [moved] })
    .expect(201);
  const tags = new Set((await events(path)).map(({ summary }) => summary.split(':')[0]));
  expect([...tags]).toEqual(['CA-1']);
});

it('its address is the person’s own: unknown until asked for, ended by a new one, and by leaving', async () => {
  const deputy = await test.as('deputy');
  expect((await deputy.get('/api/calendar')).body).toEqual({ path: null });
  const first = await address(deputy);
  expect((await deputy.get('/api/calendar')).body).toEqual({ path: first });
  const second = await address(deputy);
  await test.anybody().get(first).expect(404);
  await test.anybody().get(second).expect(200);
  await test.app.database
    .entities()
    .execute('update person set active = false where id = ?', [test.people.deputy]);
  await test.anybody().get(second).expect(404);
  await test.anybody().get('/api/calendar/guess.ics').expect(404);
  await test.anybody().get('/api/calendar').expect(401);
});
