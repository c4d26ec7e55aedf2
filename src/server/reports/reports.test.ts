import type TestAgent from 'supertest/lib/agent';
import type { PackDetails, ProgressLine, ReportAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { BLANK_CHARGE, BLANK_FLIGHT, BLANK_RETURNED, BLANK_TAKEN_OUT } from '../../core/record';
import {
  addPack,
  addType,
  incidentBody,
  inspectionPayload,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
} from '../testing/testApp';
import { pdfText } from '../testing/pdfText';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
let pack: PackDetails;

const write = (packId: string, ...records: object[]) =>
  custodian.post('/api/records').send({ packId, records }).expect(201);
const START = NOW - 30 * DAY_MS;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian, { name: 'Reported type' })).id;
  pack = await addPack(custodian, typeId, 'RP-1', { receivedAt: START - DAY_MS });
  await write(pack.id, readingBody([3800, 3800, 3800, 3800], { at: START }));
  const other = await addPack(custodian, (await addType(custodian)).id, 'RP-2', { receivedAt: START });
  await write(other.id, readingBody([4200, 4200, 4200, 4200], { at: START }));
  const incident = incidentBody([pack.id], {}, START + 10 * DAY_MS);
  await custodian.post('/api/incidents').send(incident).expect(201);
  await write(
    pack.id,
    recordBody('inspection', inspectionPayload({ occasion: 'after-crash' }), START + 11 * DAY_MS),
    readingBody([3800, 3800, 3800, 3800], { at: START + 11 * DAY_MS }),
  );
  const { records } = (await custodian.get(`/api/packs/${pack.id}`)).body as PackDetails;
  const ids = records.filter(({ kind }) => kind === 'incident').map(({ id }) => id);
  const what = {
    to: 'release',
    answers: [{ rule: 'incident', records: ids }],
    watch: { until: NOW + DAY_MS },
  };
  const seq = records.length;
  await write(
    pack.id,
    recordBody('decision', { basedOnSeq: seq, reason: 'sound', what }, START + 13 * DAY_MS),
  );
  const retire = { to: 'retire', because: ['incident'], secondWanted: false };
  const payload = { basedOnSeq: seq + 1, reason: 'after all', what: retire };
  await write(pack.id, recordBody('decision', payload, START + 20 * DAY_MS));
});
afterAll(() => test.close());

const report = async (more: Record<string, string> = {}) => {
  const query = new URLSearchParams({ from: String(START), to: String(NOW), zone: 'UTC', ...more });
  const { body } = await custodian.get(`/api/reports?${query.toString()}`).expect(200);
  const { tables } = body as ReportAnswer;
  return Object.fromEntries(tables.map(({ key, rows }) => [key, rows]));
};

it('counts storage by type, and nothing of a pack once it is retired', async () => {
  const { storage } = await report();
  const own = storage!.find(([name]) => name === 'Reported type')!;
  const days = own.slice(2, 6).reduce<number>((sum, value) => sum + (value as number), 0);
  expect(days).toBeCloseTo(20, 0);
  const all = storage!.at(-1)!;
  expect(all[1]).toBe(2);
  // The other was left full: two days allowed of thirty.
  expect(all[4]).toBeCloseTo(28, 0);
});

it('tells incidents by kind and cause, holds with their length, retirements by reason and age', async () => {
  const { incidents, holds, retirements, recycled } = await report();
  expect(incidents).toEqual([['Crash or drop', 'not said yet', 1, 1, 1]]);
  expect(holds).toEqual([
    ['RP-1', 'Reported type', 'After an incident', expect.any(String), expect.any(String), 'released', 3],
  ]);
  expect(retirements).toEqual([['After an incident', 1, 0.1, 0.1, 0.1]]);
  expect(recycled).toEqual([]);
});

it('is of the period and the type that were asked for', async () => {
  const { holds, incidents } = await report({ from: String(NOW - 5 * DAY_MS) });
  expect([holds, incidents]).toEqual([[], []]);
  const other = await report({ type: (await addType(custodian)).id });
  expect(other.storage!.at(-1)![1]).toBe(0);
  await custodian.get(`/api/reports?from=${NOW}&to=${START}`).expect(422);
  await custodian.get(`/api/reports?from=${START}&to=${NOW}&zone=Nowhere`).expect(422);
});

it('counts flights by person and craft, and is narrowed to one of either', async () => {
  const type = await addType(custodian);
  const flown = await addPack(custodian, type.id, 'RP-3', { receivedAt: START });
  const flight = (day: number, more: object) =>
    recordBody('flight', { ...BLANK_FLIGHT, minutes: 30, usedMah: 1500, ...more }, START + day * DAY_MS);
  const landed = (mv: number) => ({
    volts: { of: 'cells', cellsMv: [mv, mv + 100, mv + 100, mv + 100] },
    condition: 'loaded',
  });
  await write(
    flown.id,
    flight(1, { pilotId: test.people.pilot, craft: 'Kite', landing: landed(3300) }),
    flight(2, { pilotId: test.people.pilot, craft: 'kite', landing: landed(3700) }),
    flight(3, { craft: 'Hexa' }),
    flight(4, { flownBy: 'Old Jan', craft: 'Hexa' }),
  );
  const { flights } = await report();
  expect(flights).toEqual([
    ['The pilot', 'Kite', type.name, 2, 1, 3, 2, 1, 0, null],
    ['The custodian', 'Hexa', type.name, 1, 0.5, 1.5, 0, 0, 0, null],
    ['Old Jan', 'Hexa', type.name, 1, 0.5, 1.5, 0, 0, 0, null],
  ]);
  expect((await report({ person: test.people.pilot })).flights).toHaveLength(1);
  expect((await report({ craft: ' HEXA ' })).flights).toHaveLength(2);
  const held = await report({ person: test.people.pilot });
  expect(held.storage!.at(-1)!.slice(2, 6)).toEqual([0, 0, 0, 0]);
  expect(held.incidents).toEqual([]);
});

it('tells who landed low or deep, who came back late, and who kept packs full, with the records behind it', async () => {
  const type = await addType(custodian);
  const pack = await addPack(custodian, type.id, 'RP-4', { receivedAt: START });
  const at = (day: number) => START + day * DAY_MS;
  const take = (day: number, dueBackAt: number | null) =>
    recordBody('taken-out', { ...BLANK_TAKEN_OUT, holderId: test.people.pilot, dueBackAt }, at(day));
  await write(
    pack.id,
    take(1, at(1.5)),
    recordBody(
      'flight',
      { ...BLANK_FLIGHT, pilotId: test.people.pilot, craft: 'Deep one', usedMah: 2_970 },
      at(1.1),
    ),
    recordBody('returned', { ...BLANK_RETURNED }, at(1.75)),
    recordBody('charge', { ...BLANK_CHARGE, endCellsMv: [4200, 4200, 4200, 4200] }, at(2)),
    // Nobody said when: the house wants it back after two days. It stays full in these hands for four.
    take(2.5, null),
    recordBody('returned', { ...BLANK_RETURNED, used: false }, at(6.5)),
    take(7, at(8)),
    recordBody('returned', { ...BLANK_RETURNED, used: false }, at(8)),
  );
  const told = await report({ type: type.id });
  expect(told.landings).toEqual([
    ['The pilot', 'Deep one', 'RP-4', expect.stringMatching(/^\d{4}-/), null, null, 90],
  ]);
  const [kept] = told.custody!;
  expect(kept!.slice(0, 5)).toEqual(['The pilot', type.name, 3, 2, 27]);
  expect(kept![5]).toBeGreaterThan(2);
  expect(told['kept-full']).toEqual([['The pilot', 'RP-4', type.name, kept![5]]]);
  expect(told['late-returns']!.map((row) => [row[0], row[1], row[2], row[6]])).toEqual([
    ['The pilot', 'RP-4', 'not noted', 48],
    ['The pilot', 'RP-4', 'not noted', 6],
  ]);
});

it('is exported table by table, and printed', async () => {
  const query = `from=${START}&to=${NOW}&zone=UTC`;
  const { text } = await custodian.get(`/api/reports/holds.csv?${query}&decimals=comma`).expect(200);
  expect(text.split('\r\n')[0]).toBe('\uFEFFPack;Type;Cause;From;To;Ended;Length (days)');
  expect(text).toMatch(/released;3\r\n/);
  await custodian.get(`/api/reports/nothing.csv?${query}`).expect(404);
  const { headers } = await custodian.get(`/api/reports.pdf?${query}`).expect(200);
  expect(headers['content-type']).toBe('application/pdf');
  const handling = await custodian.get(`/api/reports.pdf?${query}&about=handling`).expect(200);
  const words = pdfText(handling.body as Buffer);
  expect(words).toMatch(/Returned late/);
  expect(words).not.toMatch(/Storage compliance/);
  await custodian.get(`/api/reports.pdf?${query}&about=nothing`).expect(422);
  await test.anybody().get(`/api/reports?${query}`).expect(401);
});

it('tells how far it is, and then answers; what was on screen is exported as it was', async () => {
  const query = `from=${START}&to=${NOW}&zone=Europe/Amsterdam`;
  const { headers, body } = await custodian
    .get(`/api/reports?${query}`)
    .set('accept', 'application/x-ndjson')
    .responseType('arraybuffer')
    .expect(200);
  const text = (body as Buffer).toString();
  expect(headers['content-type']).toMatch(/^application\/x-ndjson/);
  const lines = text
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as ProgressLine<ReportAnswer>);
  expect(lines[0]).toEqual({ done: 0, of: 4 });
  const last = lines.at(-1)!;
  const { asOf } = 'answer' in last ? last.answer : { asOf: null };
  expect(asOf).toBe(NOW);
  const incidents = (more: string) => custodian.get(`/api/reports/incidents.csv?${query}${more}`).expect(200);
  const before = (await incidents(`&asOf=${asOf}`)).text;
  await custodian
    .post('/api/incidents')
    .send(incidentBody([], {}, NOW - DAY_MS))
    .expect(201);
  expect((await incidents(`&asOf=${asOf}`)).text).toBe(before);
  expect((await incidents('')).text).not.toBe(before);
  await custodian
    .get(`/api/reports?from=${NOW}&to=${START}`)
    .set('accept', 'application/x-ndjson')
    .expect(422);
});
