import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { PackDetails, PlaceAnswer, RegisterAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { addPack, addType, NOW, openTestApp, packBody, readingBody, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pack: PackDetails;
beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pack = await addPack(custodian, (await addType(custodian)).id, 'PL-1', { receivedAt: NOW - 200 * DAY_MS });
});
afterAll(() => test.close());

const add = async (more: object = {}) => {
  const body = { name: `Place ${newId()}`, kind: 'box', fireResistant: true, ...more };
  return (await custodian.post('/api/places').send(body).expect(201)).body as PlaceAnswer;
};
const edit = ({ id, ...place }: PlaceAnswer, more: object) =>
  custodian.put(`/api/places/${id}`).send({ ...place, ...more });
const register = async () => (await custodian.get('/api/register')).body as RegisterAnswer;

it('keeps what a place is, and answers it', async () => {
  const facts = { code: 'P-7', capacity: 8, slots: 4, celsius: 18, map: { x: 0, y: 1, w: 6, h: 3 } };
  const place = await add(facts);
  expect(place).toMatchObject(facts);
  expect((await register()).places.find(({ id }) => id === place.id)).toEqual(place);
});

it('a scan means one thing: no code is a tag, and none is there twice', async () => {
  await add({ code: 'P-9' });
  const wrong = async (code: string) =>
    reasons(
      (
        await custodian
          .post('/api/places')
          .send({ name: newId(), kind: 'box', fireResistant: true, code })
          .expect(422)
      ).body,
    );
  expect(await wrong('pl 1')).toEqual({ code: 'This is, or was, the tag of a pack.' });
  expect((await wrong('p9')).code).toMatch(/has this code already/);
  expect(await wrong('--')).toHaveProperty('code');
});

it('the map is drawn by those who may, and stays on the paper', async () => {
  const place = await add();
  const map = { x: 3, y: 2, w: 5, h: 4 };
  await custodian
    .put('/api/map')
    .send({ places: [{ id: place.id, map }] })
    .expect(204);
  expect((await register()).places.find(({ id }) => id === place.id)?.map).toEqual(map);
  const off = await custodian
    .put('/api/map')
    .send({ places: [{ id: place.id, map: { ...map, x: 24 } }] })
    .expect(422);
  expect(reasons(off.body)).toEqual({ 'places.0.map.x': 'The column lies between 0 and 23.' });
  await (
    await test.as('pilot')
  )
    .put('/api/map')
    .send({ places: [{ id: place.id, map }] })
    .expect(403);
});

it('a map drawn by several hands at once fails for none, and a form opened before is refused', async () => {
  const place = await add();
  const drawn = [1, 2, 3, 4, 5, 6].map((x) =>
    custodian.put('/api/map').send({ places: [{ id: place.id, map: { x, y: 0, w: 4, h: 2 } }] }),
  );
  expect((await Promise.all(drawn)).map(({ status }) => status)).toEqual(drawn.map(() => 204));
  const now = (await register()).places.find(({ id }) => id === place.id)!;
  expect(now.map).toMatchObject({ y: 0, w: 4, h: 2 });
  await edit(place, { name: 'Renamed' }).expect(409);
  await edit(now, { name: `Renamed ${newId()}` }).expect(200);
});

it('a place’s temperature is kept from then on, and packs that lay there are judged by it', async () => {
  const place = await add({ celsius: 25 });
  const lay = {
    id: newId(),
    at: NOW - 100 * DAY_MS,
    kind: 'moved',
    supersedes: null,
    payload: { placeId: place.id, holderId: null },
  };
  const full = readingBody([4200, 4200, 4200, 4200], { at: NOW - 20 * DAY_MS });
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [lay, full] })
    .expect(201);
  const daysFull = async () => {
    const em = test.app.database.entities();
    const [row]: { findings: { rule: string; days?: number }[] }[] = await em.execute(
      'select findings from pack_state where pack_id = ?',
      [pack.id],
    );
    return row!.findings.find(({ rule }) => rule === 'long-full')?.days ?? 0;
  };
  expect(await daysFull()).toBe(0);
  // It was wrong all along: as hot as an attic. The first figure known is corrected by editing, from now on.
  const hot = (await edit(place, { celsius: 45 }).expect(200)).body as PlaceAnswer;
  expect((await register()).placeTemperatures.filter(({ placeId }) => placeId === hot.id)).toEqual([
    { placeId: place.id, since: Date.UTC(2000, 0, 1), celsius: 25 },
    { placeId: place.id, since: NOW, celsius: 45 },
  ]);
});

it('a slot is a number of the place', async () => {
  const place = await add({ slots: 4 });
  const moved = (slot: number) => ({
    packId: pack.id,
    records: [
      {
        id: newId(),
        at: NOW,
        kind: 'moved',
        supersedes: null,
        payload: { placeId: place.id, slot, holderId: null },
      },
    ],
  });
  await custodian.post('/api/records').send(moved(2)).expect(201);
  await custodian.post('/api/records').send(moved(0)).expect(422);
  const [row] = (await custodian.get(`/api/packs?ids=${pack.id}`)).body as { slot: number }[];
  expect(row!.slot).toBe(2);
});

it('and no pack takes a place’s code for its tag', async () => {
  await add({ name: 'The long shelf', code: 'SHELF-1' });
  const type = await addType(custodian);
  const { body } = await custodian.post('/api/packs').send(packBody(type.id, 'shelf 1')).expect(422);
  expect(reasons(body)).toEqual({ tag: 'This is the code of a place: The long shelf.' });
});
