import type TestAgent from 'supertest/lib/agent';
import type { TodayAnswer } from '../../contract';
import { TODAY_LIMIT } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import { addPack, addType, NOW, openTestApp, readingBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterAll(() => test.close());

const today = async () => (await custodian.get('/api/today').expect(200)).body as TodayAnswer;

it('is empty for an empty register', async () => {
  expect(await today()).toMatchObject({
    now: NOW,
    frozen: true,
    counts: { packs: 0 },
    outOfBand: [],
    held: [],
    toMeasure: [],
  });
});

it('sorts every pack to where hands will look for it', async () => {
  const lipo = await addType(custodian);
  const nimh = await addType(custodian, { chemistry: 'nimh', series: 6 });
  const longAgo = { receivedAt: NOW - 90 * DAY_MS };
  const put = async (tag: string, mv: number | null, hoursAgo = 1, typeId = lipo.id) => {
    const pack = await addPack(custodian, typeId, tag, longAgo);
    if (mv === null) return;
    const record = readingBody([mv, mv, mv, mv], { at: NOW - hoursAgo * HOUR_MS });
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [record] })
      .expect(201);
  };
  await put('STORED', 3800, 24);
  await put('FULL', 4200, 10);
  await put('OVERDUE', 4200, 60);
  await put('JUST-DUE', 4200, 48);
  await put('FLAT', 3450, 2);
  await put('LOW', 3650, 5);
  await put('RUINED', 2900, 3);
  await put('NEW', null);
  await put('IDLE', 3800, 31 * 24);
  await put('SOON-IDLE', 3800, 28 * 24);
  await put('TX', null, 0, nimh.id);

  const { counts, outOfBand, held, toMeasure, due } = await today();
  expect(outOfBand.map(({ tag }) => tag)).toEqual(['FLAT', 'OVERDUE', 'JUST-DUE', 'LOW', 'FULL']);
  expect(held.map(({ tag, finding }) => [tag, finding?.rule])).toEqual([['RUINED', 'over-discharged']]);
  expect(toMeasure.map(({ tag, next }) => [tag, next?.do])).toEqual([['NEW', 'measure']]);
  // Every pack was received ninety days ago and never inspected or charged; one is out of use, and nothing routine is asked of it.
  const everyPack = [
    'FLAT',
    'FULL',
    'IDLE',
    'JUST-DUE',
    'LOW',
    'NEW',
    'OVERDUE',
    'SOON-IDLE',
    'STORED',
    'TX',
  ];
  expect(
    due.map((group) => [group.do, group.total, group.overdue, group.packs.map(({ tag }) => tag)]),
  ).toEqual([
    ['complete-baseline', 10, 10, everyPack],
    ['inspect', 10, 10, everyPack],
    ['re-read', 2, 1, ['IDLE', 'SOON-IDLE']],
    ['top-up', 1, 1, ['TX']],
  ]);
  expect(counts).toEqual({
    packs: 11,
    inBand: 3,
    withinAllowance: 3,
    overdue: 2,
    unmeasured: 1,
    outOfUse: 1,
    watch: 1,
    noRule: 1,
  });
});

it('shows the most urgent of very many, and how many more there are', async () => {
  const type = await addType(custodian);
  for (let i = 0; i < TODAY_LIMIT; i++) {
    const pack = await addPack(custodian, type.id, `M-${i}`);
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [readingBody([4200, 4200, 4200, 4200])] });
  }
  const { outOfBand, outOfBandTotal } = await today();
  expect(outOfBand).toHaveLength(TODAY_LIMIT);
  expect(outOfBandTotal).toBe(TODAY_LIMIT + 5);
  expect(outOfBand[0]?.tag).toBe('FLAT');
});
