import Papa from 'papaparse';
import type TestAgent from 'supertest/lib/agent';
import type { PackDetails } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import { BLANK_CHARGE, BLANK_FLIGHT } from '../../core/record';
import { pdfText } from '../testing/pdfText';
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
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pack: PackDetails;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  const type = await addType(custodian, { name: 'Quad' });
  pack = await addPack(custodian, type.id, 'LS-1', { owner: '=SUM(A1)' });
  const reading = readingBody([3853, 3851, 3850, 3840]);
  const records = [
    recordBody('charge', { ...BLANK_CHARGE, movedMah: 2100.5, minutes: 48 }, NOW - 5 * HOUR_MS),
    recordBody('flight', { ...BLANK_FLIGHT, minutes: 12.5, pilotId: test.people.pilot }, NOW - 4 * HOUR_MS),
    recordBody('flight', { ...BLANK_FLIGHT, minutes: 9, flownBy: 'Old Jan' }, NOW - 3 * HOUR_MS),
    reading,
  ];
  await custodian.post('/api/records').send({ packId: pack.id, records }).expect(201);
  const replacement = {
    kind: 'reading',
    payload: { ...reading.payload, volts: { of: 'cells', cellsMv: [3853, 3851, 3850, 3830] } },
  };
  const put = { ...recordBody('correction', { reason: 'Misread.', replacement }), supersedes: reading.id };
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [put] })
    .expect(201);
});
afterAll(() => test.close());

async function table(path: string, query: object = {}) {
  const { text } = await custodian.get(`/api${path}`).query(query).expect(200);
  return Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, '').trim(), { header: true }).data;
}

it('lists packs, and lets no owner’s name run as a formula', async () => {
  expect(await table('/exports/packs.csv')).toMatchObject([
    {
      Tag: 'LS-1',
      Type: 'Quad',
      Chemistry: 'LiPo',
      Cells: '4S',
      'Capacity (mAh)': '3300',
      Owner: "'=SUM(A1)",
    },
  ]);
});

it('lists what counts: a reading as it was corrected, flights by whoever flew them', async () => {
  expect(await table('/exports/readings.csv')).toMatchObject([
    { Tag: 'LS-1', Time: '2026-03-02 18:00', 'Cells (V)': '3.853 3.851 3.850 3.830', 'Lowest (V)': '3.83' },
  ]);
  expect((await table('/exports/flights.csv')).map(({ Pilot }) => Pilot)).toEqual(['The pilot', 'Old Jan']);
  expect(await table('/exports/charges.csv', { decimals: 'comma' })).toMatchObject([
    { 'Charge moved (mAh)': '2100,5' },
  ]);
});

it('keeps to the period, in the reader’s zone, and knows its lists', async () => {
  expect(await table('/exports/flights.csv', { from: NOW - 3.5 * HOUR_MS, to: NOW })).toHaveLength(1);
  const [reading] = await table('/exports/readings.csv', { zone: 'Asia/Tokyo' });
  expect(reading!.Time).toBe('2026-03-03 03:00');
  await custodian.get('/api/exports/passwords.csv').expect(404);
  await custodian.get('/api/exports/packs.csv').query({ zone: 'Nowhere/Here' }).expect(422);
});

it('a pack’s whole life: every record as written, with what corrected it', async () => {
  const rows = await table(`/packs/${pack.id}/life.csv`);
  expect(rows.map((row) => row.What)).toEqual([
    'Received',
    'Charge',
    'Flight',
    'Flight',
    'Reading',
    'Correction',
  ]);
  expect(rows[4]).toMatchObject({ Figures: expect.stringContaining('3.84'), 'Corrected by no.': '6' });
  expect(rows[5]!.Words).toContain('of no. 5: Misread. · now');
  const { body } = await custodian.get(`/api/packs/${pack.id}/life.pdf`).buffer(true).expect(200);
  const text = pdfText(body as Buffer);
  for (const words of ['LS-1', 'Old Jan', 'corrected by no. 6', 'Misread']) expect(text).toContain(words);
});

it('has holds, inspections and incidents too, and every list on paper', async () => {
  const incident = incidentBody([pack.id], { place: 'North dyke', what: 'It fell.' });
  await custodian.post('/api/incidents').send(incident).expect(201);
  const look = recordBody('inspection', inspectionPayload({ occasion: 'after-crash' }), NOW);
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [look] })
    .expect(201);
  expect(await table('/exports/incidents.csv')).toMatchObject([
    { Kind: 'Crash or drop', Packs: 'LS-1', Place: 'North dyke', 'Reported by': 'The custodian', Closed: '' },
  ]);
  expect(await table('/exports/holds.csv')).toMatchObject([
    { Tag: 'LS-1', Verdict: 'hold', Because: expect.stringContaining('Crash or drop') },
  ]);
  expect(await table('/exports/inspections.csv')).toMatchObject([
    { Occasion: 'after a crash or drop', Found: 'all in order' },
  ]);
  for (const name of ['packs', 'holds', 'readings', 'charges', 'flights', 'inspections', 'incidents']) {
    const { body } = await custodian.get(`/api/exports/${name}.pdf`).buffer(true).expect(200);
    expect(pdfText(body as Buffer)).toContain('LS-1');
  }
  const { body } = await custodian.get(`/api/incidents/${incident.id}/report.pdf`).buffer(true).expect(200);
  for (const words of ['Crash or drop', 'North dyke', 'It fell.', 'LS-1', 'The custodian', 'not named yet'])
    expect(pdfText(body as Buffer)).toContain(words);
});
