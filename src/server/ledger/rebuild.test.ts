import type TestAgent from 'supertest/lib/agent';
import type { PackId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { addPack, addType, openTestApp, readingBody, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { HeavyWork } from '../platform/heavy';
import { REBUILD, rebuildPack, rebuildPacks } from './rebuild';

let test: TestApp;
let custodian: TestAgent;
let em: Entities;
const packs: PackId[] = [];

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  em = test.app.database.entities();
  const { id: typeId } = await addType(custodian);
  for (let i = 0; i < 6; i += 1) {
    const { id } = await addPack(custodian, typeId, `R-${i}`);
    packs.push(id);
    // The last ledger is too long to be read together with others.
    const notes = Array.from({ length: i === 5 ? 500 : i }, (_, n) =>
      recordBody('note', { text: `note ${n}` }),
    );
    const mv = 3_700 + i * 100;
    for (let times = 0; times < (i === 5 ? 9 : 1); times += 1)
      await custodian
        .post('/api/records')
        .send({
          packId: id,
          records: [
            readingBody([mv, mv, mv, mv]),
            ...notes.map((one) => ({ ...one, id: crypto.randomUUID() })),
          ].slice(0, 500),
        })
        .expect(201);
  }
});
afterAll(() => test.close());

const states = async () => em.execute<object[]>('select * from pack_state order by pack_id');
const spoil = async () =>
  em.execute(`update pack_state set verdict = 'hold', findings = '[]', lapses = '[]'`);

it('judging several packs at once writes what judging each by itself writes', async () => {
  const before = await states();
  await spoil();
  expect(await states()).not.toEqual(before);
  expect([...(await rebuildPacks(em, packs))].sort()).toEqual([...packs].sort());
  expect(await states()).toEqual(before);
  await spoil();
  for (const id of packs) await rebuildPack(em, id);
  expect(await states()).toEqual(before);
});

it('a pack that is being written to is passed over, and waited for when it is judged by itself', async () => {
  const [held, ...others] = packs;
  let release: () => void = () => undefined;
  const isReleased = new Promise<void>((done) => (release = done));
  let isHeld: () => void = () => undefined;
  const holding = new Promise<void>((done) => (isHeld = done));
  const writer = test.app.database.entities().transactional(async (tx) => {
    await tx.execute('select 1 from pack where id = ? for no key update', [held]);
    isHeld();
    await isReleased;
  });
  await holding;
  expect([...(await rebuildPacks(em, packs))].sort()).toEqual([...others].sort());
  let isDone = false;
  const waiting = rebuildPack(test.app.database.entities(), held!).then(() => (isDone = true));
  await new Promise((done) => setTimeout(done, 150));
  expect(isDone).toBe(false);
  release();
  await Promise.all([writer, waiting]);
  expect(isDone).toBe(true);
});

it('nobody and nothing is judged where there is nobody', async () => {
  expect(await rebuildPacks(em, [])).toEqual([]);
  expect(await rebuildPacks(em, [crypto.randomUUID() as PackId])).toEqual([]);
});

it('a pack whose whole ledger is gone is not asked for for ever', async () => {
  const [gone] = packs;
  await em.execute('alter table record disable trigger all');
  await em.execute('delete from record where pack_id = ?', [gone]);
  await em.execute('alter table record enable trigger all');
  await em.execute('update pack_state set rules_version = 0 where pack_id = ?', [gone]);
  await rebuildPacks(em, packs);
  const [state] = await em.execute<{ rules_version: number; seq: number }[]>(
    'select rules_version, seq from pack_state where pack_id = ?',
    [gone],
  );
  expect(state).toEqual({ rules_version: 1, seq: 2 });
});

it('workers judge what was judged under older rules, and leave what another has judged', async () => {
  const served = packs.slice(1);
  const theirs = async () =>
    (await states()).filter((row) => served.includes((row as { pack_id: PackId }).pack_id));
  const before = await theirs();
  const heavy = new HeavyWork();
  const judge = (ids: readonly PackId[]) => heavy.ownWork(REBUILD, { databaseUrl: test.url, ids });
  expect(await judge(served)).toEqual([]);
  await spoil();
  await em.execute('update pack_state set rules_version = 0 where pack_id = any(?::uuid[])', [
    `{${served.join(',')}}`,
  ]);
  const [some, others] = [await judge(served.slice(0, 2)), await judge(served)];
  expect([...some].sort()).toEqual(served.slice(0, 2).sort());
  expect([...others].sort()).toEqual(served.slice(2).sort());
  expect(await theirs()).toEqual(before);
  await heavy.close();
  await expect(judge(served)).rejects.toThrow();
});
