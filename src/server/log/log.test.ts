import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { LogEntryAnswer, PersonDetails } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { addPack, addType, LIPO_4S, NOW, openTestApp, PASSWORD, readingBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { toldOtherwise } from '.';
import { verifyLog } from './registerLog';
import { changesBetween } from './subjects';

let test: TestApp;
let custodian: TestAgent;

beforeEach(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterEach(() => test.close());

const log = async (query = '', agent = custodian) =>
  (await agent.get(`/api/log${query}`).expect(200)).body as LogEntryAnswer[];
const newest = async () => (await log())[0]!;
const rows = async () => test.app.database.entities().execute<object[]>('select * from register_log');

describe('the register’s log', () => {
  it('tells who changed a type’s capacity, from what to what', async () => {
    const { id, version, name } = await addType(custodian);
    expect(await newest()).toMatchObject({ did: 'added', subject: 'pack-type', subjectId: id });
    await custodian
      .put(`/api/pack-types/${id}`)
      .send({ ...LIPO_4S, name: 'Estuary 4S', capacityMah: 5_000, version })
      .expect(200);
    const entry = await newest();
    expect(entry).toMatchObject({
      at: NOW,
      by: test.people.custodian,
      through: null,
      did: 'changed',
      subject: 'pack-type',
      subjectId: id,
      name: 'Estuary 4S',
    });
    expect(entry.changes).toMatchObject({
      capacity_mah: [LIPO_4S.capacityMah, 5_000],
      name: [name, 'Estuary 4S'],
    });
    expect(entry.changes).not.toHaveProperty('version');
  });

  it('tells where a place was moved to on the map, and the look at the evidence believes it', async () => {
    const shelf = (name: string, map: object | null) =>
      custodian
        .post('/api/places')
        .send({ name, kind: 'shelf', fireResistant: false, map })
        .expect(201)
        .then(({ body }) => (body as { id: string }).id);
    const [moved, drawn, left] = [
      await shelf('Shelf A', { x: 1, y: 1, w: 4, h: 2 }),
      await shelf('Shelf B', null),
      await shelf('Shelf C', { x: 9, y: 9, w: 4, h: 2 }),
    ];
    const arranged = [
      { id: moved, map: { x: 6, y: 1, w: 4, h: 2 } },
      { id: drawn, map: { x: 1, y: 5, w: 4, h: 2 } },
      { id: left, map: { x: 9, y: 9, w: 4, h: 2 } },
    ];
    await custodian.put('/api/map').send({ places: arranged }).expect(204);
    const entries = (await log('?subject=place')).filter(({ did }) => did === 'changed');
    expect(entries.map(({ name, changes }) => [name, changes])).toEqual([
      ['Shelf B', { 'map.h': [null, 2], 'map.w': [null, 4], 'map.x': [null, 1], 'map.y': [null, 5] }],
      ['Shelf A', { 'map.x': [1, 6] }],
    ]);
    expect(await toldOtherwise(test.app.database.entities())).toEqual([]);
  });

  it('says nothing of an edit that changed nothing, or was refused', async () => {
    const { id, version, name } = await addType(custodian);
    const before = await rows();
    await custodian
      .put(`/api/pack-types/${id}`)
      .send({ ...LIPO_4S, name, version })
      .expect(200);
    await custodian
      .put(`/api/pack-types/${id}`)
      .send({ ...LIPO_4S, capacityMah: -3, version })
      .expect(422);
    await custodian
      .put(`/api/pack-types/${id}`)
      .send({ ...LIPO_4S, capacityMah: 5_000, version: 99 })
      .expect(409);
    await (await test.as('deputy')).put(`/api/people/${test.people.pilot}`).send({}).expect(403);
    expect((await rows()).length - before.length).toBe(1);
    expect(await newest()).toMatchObject({ did: 'signed-in', name: 'The deputy' });
  });

  it('tells of people and sign-ins, and never a password or what may be one', async () => {
    await test.anybody().post('/api/session').send({ login: 'pilot', password: 'wrong guess' }).expect(401);
    expect(await newest()).toMatchObject({
      by: null,
      did: 'was-refused',
      subject: 'session',
      name: 'The pilot',
    });
    await test.anybody().post('/api/session').send({ login: 'my secret phrase', password: 'x' }).expect(401);
    expect(await newest()).toMatchObject({ by: null, did: 'was-refused', name: null });
    const { body } = await custodian
      .post('/api/people')
      .send({ name: 'New', login: 'new', role: 'pilot', active: true, password: 'a password of theirs' })
      .expect(201);
    expect(await newest()).toMatchObject({ did: 'added', subject: 'person', name: 'New' });
    const person = body as PersonDetails;
    const { hasPassword: _password, hasFactor: _factor, id, ...facts } = person;
    await custodian
      .put(`/api/people/${id}`)
      .send({ ...facts, role: 'deputy', password: 'another of theirs' })
      .expect(200);
    expect((await newest()).changes).toEqual({
      role: ['pilot', 'deputy'],
      password_hash: [null, 'not told'],
    });
    const link = await custodian.post(`/api/people/${id}/sign-in-link`).send({}).expect(201);
    expect(await newest()).toMatchObject({ did: 'made-link', name: 'New' });
    const pilot = await test.as('pilot');
    await pilot
      .put('/api/session/password')
      .send({ current: PASSWORD, password: 'a third of theirs' })
      .expect(204);
    expect(await newest()).toMatchObject({ did: 'changed-password', by: test.people.pilot });
    const all = JSON.stringify(await rows());
    for (const secret of [
      'wrong guess',
      'my secret phrase',
      'of theirs',
      PASSWORD,
      (link.body as { secret: string }).secret,
      'argon2',
    ])
      expect(all).not.toContain(secret);
  });

  it('tells of house rules figure by figure, of tags, of keys, and of what was taken out', async () => {
    const { id: typeId } = await addType(custodian);
    const pack = await addPack(custodian, typeId, 'L-1');
    await custodian
      .post('/api/rules')
      .send({
        basedOn: 1,
        preset: 'even-keel',
        changes: [{ path: 'spread.watchMv', value: 25 }],
        reason: 'closer looks',
      })
      .expect(201);
    const adopted = await newest();
    expect(adopted).toMatchObject({ did: 'adopted', subject: 'rules', name: 'version 2' });
    expect(Object.keys(adopted.changes).sort()).toEqual(['reason', 'spread.watchMv']);
    expect(adopted.changes['spread.watchMv']![1]).toBe(25);
    await custodian.get('/api/exports/packs.csv').expect(200);
    expect(await newest()).toMatchObject({ did: 'exported', name: 'packs, for a spreadsheet' });
    await custodian.get('/api/archive').expect(200);
    expect(await newest()).toMatchObject({ did: 'exported', name: 'the whole register' });
    // What is a pack's record is in its ledger and not here.
    const before = (await rows()).length;
    await custodian
      .post('/api/records')
      .send({ packId: pack.id, records: [readingBody([3800, 3800, 3800, 3800])] })
      .expect(201);
    expect((await rows()).length).toBe(before);
  });

  it('is for custodians and safety officers, by person and by kind, page by page', async () => {
    for (const role of ['deputy', 'pilot', 'reader'] as const)
      await (await test.as(role)).get('/api/log').expect(403);
    const officer = await test.as('officer');
    for (let i = 0; i < 130; i += 1)
      await custodian
        .post('/api/instruments')
        .send({ name: `Meter ${i}`, errorMv: 5 })
        .expect(201);
    const first = await log('?subject=meter', officer);
    expect(first).toHaveLength(100);
    expect(first[0]!.name).toBe('Meter 129');
    const second = await log(`?subject=meter&before=${first.at(-1)!.seq}`, officer);
    expect(second.map(({ name }) => name)).toEqual(Array.from({ length: 30 }, (_, i) => `Meter ${29 - i}`));
    expect((await log(`?by=${test.people.officer}`)).every(({ by }) => by === test.people.officer)).toBe(
      true,
    );
    await custodian.get('/api/log?before=x').expect(422);
    await custodian.get('/api/log?subject=weather').expect(422);
    const { text } = await officer.get('/api/log.csv?subject=meter').expect(200);
    expect(text.trim().split('\n')).toHaveLength(131);
  });

  it('is one chain, though fifty write at once', async () => {
    const answers = await Promise.all(
      Array.from({ length: 50 }, (_, i) =>
        custodian.post('/api/instruments').send({ name: `Meter ${i}`, errorMv: 5 }),
      ),
    );
    expect(answers.every(({ status }) => status === 201)).toBe(true);
    const { entries, broken } = await verifyLog(test.app.database.entities());
    expect(entries).toBeGreaterThanOrEqual(50);
    expect(broken).toEqual([]);
  });

  it('tells a script’s key from a session, and from the password of a proxy', async () => {
    const meter = (name: string, authorization: string, agent: TestAgent) =>
      agent
        .post('/api/instruments')
        .set('authorization', authorization)
        .send({ name, errorMv: 5 })
        .expect(201);
    const { body } = await custodian
      .post('/api/keys')
      .send({ id: newId(), name: 'A script', role: 'deputy', endsAt: NOW + 30 * DAY_MS })
      .expect(201);
    await meter('by key', `Bearer ${(body as { secret: string }).secret}`, test.anybody());
    expect(await newest()).toMatchObject({ through: 'key', by: test.people.custodian, name: 'by key' });
    await meter('by hand', 'Basic cHJveHk6cGFzcw==', custodian);
    expect(await newest()).toMatchObject({ through: null, by: test.people.custodian, name: 'by hand' });
  });

  it('goes or stays with what it tells of', async () => {
    const before = await rows();
    await custodian.post('/api/instruments').send({ name: 'Meter', errorMv: 5 }).expect(201);
    await custodian.post('/api/instruments').send({ name: 'Meter', errorMv: 5 }).expect(422);
    expect((await rows()).length - before.length).toBe(1);
  });

  it.each(['update register_log set did = did', 'delete from register_log', 'truncate register_log'])(
    'cannot be changed where the database keeps its own rules: %s',
    async (statement) => {
      await expect(test.app.database.entities().execute(statement)).rejects.toThrow(/append-only/);
    },
  );

  it.each([
    ['another name', `update register_log set name = 'Somebody else' where seq = 2`, /do not match its seal/],
    [
      'another time',
      `update register_log set at = at - interval '1 h' where seq = 2`,
      /do not match its seal/,
    ],
    ['one taken out of the middle', 'delete from register_log where seq = 2', /missing|follow/],
  ])('changed past them, %s shows', async (_, statement, why) => {
    for (const name of ['one', 'two', 'three'])
      await custodian.post('/api/instruments').send({ name, errorMv: 5 }).expect(201);
    const em = test.app.database.entities();
    await em.execute('alter table register_log disable trigger all');
    await em.execute(statement);
    const { broken } = await verifyLog(em);
    expect(broken.map((one) => one.why).join('; ')).toMatch(why);
  });
});

describe('what differs between two rows', () => {
  it.each([
    [null, { a: 1, b: null }, { a: [null, 1] }],
    [{ a: 1 }, null, { a: [1, null] }],
    [{ a: [1, 2] }, { a: [1, 2] }, {}],
    [
      { a: [1, 2] },
      { a: [2, 1] },
      {
        a: [
          [1, 2],
          [2, 1],
        ],
      },
    ],
    [{ a: { b: { c: 1 }, d: 2 } }, { a: { b: { c: 3 }, d: 2 } }, { 'a.b.c': [1, 3] }],
    [{ a: { b: 1 } }, { a: 2 }, { 'a.b': [1, null], a: [null, 2] }],
    [{ id: 1, version: 1, hash: 'x' }, { id: 1, version: 2, hash: 'y' }, { hash: [null, 'not told'] }],
  ])('%j to %j', (before, after, changes) => {
    expect(changesBetween(before as never, after as never)).toEqual(changes);
  });
});
