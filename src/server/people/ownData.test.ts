import { addPack, addType, bytesOf, openTestApp, readingBody, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { HOLDINGS } from './ownData';

let test: TestApp;
beforeAll(async () => {
  test = await openTestApp();
});
afterAll(() => test.close());

type OwnData = Record<string, Record<string, unknown>[]>;

const ownData = async (role: 'custodian' | 'pilot' | 'reader') => {
  const { bytes, headers } = await bytesOf((await test.as(role)).get('/api/session/data').expect(200));
  expect(headers['content-disposition']).toMatch(/^attachment; filename=".+\.json"$/);
  return { text: bytes.toString(), data: JSON.parse(bytes.toString()) as OwnData };
};

it('is all that names one, and nothing of others', async () => {
  const custodian = await test.as('custodian');
  const pilot = await test.as('pilot');
  const type = await addType(custodian);
  const pack = await addPack(custodian, type.id, 'OWN-1');
  const records = [readingBody([3800, 3800, 3800, 3800]), recordBody('note', { text: 'mine' })];
  await pilot.post('/api/records').send({ packId: pack.id, records }).expect(201);
  const moved = recordBody('moved', { placeId: null, slot: null, holderId: test.people.pilot });
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [moved] })
    .expect(201);
  const { data, text } = await ownData('pilot');
  expect(data.person).toEqual([expect.objectContaining({ id: test.people.pilot, login: 'pilot' })]);
  // Their own records, and the one by which they were given the pack.
  expect(data.record!.map(({ id }) => id).sort()).toEqual([...records, moved].map(({ id }) => id).sort());
  expect(data.packs).toEqual({ [pack.id]: 'OWN-1' });
  expect(data.user_session!.length).toBeGreaterThanOrEqual(2);
  expect(data.register_log!.map(({ did }) => did)).toContain('signed-in');
  expect(text).not.toContain('argon2');
  expect(text).not.toContain('The reader');
  const { data: others } = await ownData('reader');
  expect(others.record).toEqual([]);
});

it('is told in the log, by whom it was taken', async () => {
  await ownData('reader');
  const { data } = await ownData('reader');
  expect(data.register_log).toContainEqual(
    expect.objectContaining({ did: 'exported', name: 'own data', by: test.people.reader }),
  );
});

it('asks every table that names a person, but for what is of the moment or worked out', async () => {
  const named: { at: string }[] = await test.app.database.entities().execute(
    `select conrelid::regclass || '.' || a.attname as at from pg_constraint c
       join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
      where c.contype = 'f' and c.confrelid = 'person'::regclass`,
  );
  const asked = HOLDINGS.flatMap(({ table, by }) => by.map((column) => `${table}.${column}`));
  const OF_THE_MOMENT = ['pack_state.holder_id', 'device_state.taken_by', 'passkey_challenge.person_id'];
  expect(named.length).toBeGreaterThan(10);
  expect(
    named
      .map(({ at }) => at.replaceAll('"', ''))
      .filter((at) => !asked.includes(at) && !OF_THE_MOMENT.includes(at)),
  ).toEqual([]);
});
