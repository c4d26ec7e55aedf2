import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { PackRow, PlaceAnswer, RegisterAnswer } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import { addPack, addType, LIPO_4S, NOW, openTestApp, readingBody, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';

let test: TestApp;
let custodian: TestAgent;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterAll(() => test.close());

const register = async () => (await custodian.get('/api/register').expect(200)).body as RegisterAnswer;

it('answers everything that puts names to ids, and the rules in force, to whoever may look', async () => {
  await addType(custodian, { name: 'B type' });
  await addType(custodian, { name: 'A type' });
  const reader = await test.as('reader');
  const { body } = await reader.get('/api/register').expect(200);
  const { types, people, rules } = body as RegisterAnswer;
  expect(types.map(({ name }) => name)).toEqual(['A type', 'B type']);
  expect(people.map(({ role }) => role).sort()).toEqual([
    'custodian',
    'deputy',
    'officer',
    'pilot',
    'reader',
  ]);
  expect(JSON.stringify(people)).not.toMatch(/password|hash|login/i);
  expect(rules).toMatchObject({ version: 1, rules: { preset: 'even-keel' } });
});

describe('a place', () => {
  const form = { name: 'Fire cabinet', kind: 'cabinet', fireResistant: true };

  it('is added, changed, and not changed from an older version', async () => {
    const { body } = await custodian.post('/api/places').send(form).expect(201);
    const place = body as PlaceAnswer;
    const change = (name: string) =>
      custodian.put(`/api/places/${place.id}`).send({ ...form, name, version: place.version });
    await change('Fire cabinet, upper').expect(200);
    await change('Fire cabinet, lower').expect(409);
    expect((await register()).places.map(({ name }) => name)).toEqual(['Fire cabinet, upper']);
    await custodian
      .put(`/api/places/${newId()}`)
      .send({ ...form, name: 'None', version: 1 })
      .expect(404);
  });

  it('has a name of its own, a known kind, and nothing else', async () => {
    const again = await custodian
      .post('/api/places')
      .send({ ...form, name: 'Fire cabinet, upper' })
      .expect(422);
    expect(reasons(again.body)).toEqual({ name: 'There is one of this name already.' });
    const odd = await custodian
      .post('/api/places')
      .send({ name: 'a\nb', kind: 'cupboard', fireResistant: 'yes', size: 3 })
      .expect(422);
    expect(Object.keys(reasons(odd.body)).sort()).toEqual(['fireResistant', 'kind', 'name', 'size']);
  });
});

describe('a pack type', () => {
  it.each([
    [{ series: 0 }, 'series'],
    [{ series: 25 }, 'series'],
    [{ series: 2.5 }, 'series'],
    [{ capacityMah: 1 }, 'capacityMah'],
    [{ capacityMah: 'much' }, 'capacityMah'],
    [{ chargeC: 90 }, 'chargeC'],
    [{ chemistry: 'lead' }, 'chemistry'],
    [{ price: -1 }, 'price'],
    [{ dutyClass: 'lazy' }, 'dutyClass'],
    [{ name: '' }, 'name'],
    [{ name: 'x'.repeat(61) }, 'name'],
  ])('%j is refused at its field', async (wrong, field) => {
    const { body } = await custodian
      .post('/api/pack-types')
      .send({ ...LIPO_4S, name: newId(), ...wrong })
      .expect(422);
    expect(Object.keys(reasons(body))).toEqual([field]);
  });

  it('changed, has its packs judged anew', async () => {
    const type = await addType(custodian);
    const pack = await addPack(custodian, type.id, 'T-1');
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [readingBody([3600, 3600, 3600, 3600])] })
      .expect(201);
    const { name } = type;
    await custodian
      .put(`/api/pack-types/${type.id}`)
      .send({ ...LIPO_4S, name, capacityMah: 6600, version: 1 })
      .expect(200);
    const { body } = await custodian.get('/api/today').expect(200);
    expect(JSON.stringify(body)).toContain('T-1');
    const rows = (await custodian.get(`/api/packs?ids=${pack.id}`)).body as PackRow[];
    expect(rows[0]).toMatchObject({ storage: 'low', dueAt: NOW - HOUR_MS + 24 * HOUR_MS, capacityMah: 6600 });
  });

  it('renamed, changes nothing that is said of its packs', async () => {
    const type = await addType(custodian);
    const pack = await addPack(custodian, type.id, 'T-2');
    const em = test.app.database.entities();
    const written = () => em.execute('select xmin::text from pack_state where pack_id = ?', [pack.id]);
    const before: unknown = await written();
    await custodian
      .put(`/api/pack-types/${type.id}`)
      .send({ ...LIPO_4S, name: newId(), price: 90, version: 1 })
      .expect(200);
    expect(await written()).toEqual(before);
  });

  it('changed, and many packs have it: it is answered at once, and all of them are judged soon, which no rules did', async () => {
    const type = await addType(custodian);
    for (let i = 0; i < 25; i++) await addPack(custodian, type.id, `M-${i + 1}`);
    await custodian
      .put(`/api/pack-types/${type.id}`)
      .send({ ...LIPO_4S, name: type.name, capacityMah: 6600, version: 1 })
      .expect(200);
    const judged = async () => {
      const rows = (await custodian.get('/api/packs')).body as PackRow[];
      return rows.filter(({ typeId, capacityMah }) => typeId === type.id && capacityMah === 6600).length;
    };
    await until(judged, (count) => count === 25);
    expect(await test.app.database.entities().execute('select * from verdict_move')).toEqual([]);
  });
});
