import { Client } from 'pg';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { AppendAnswer, PackDetails, PackRow } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { PackId } from '../../core/measure';
import { addPack, addType, NOW, openTestApp, readingBody, reasons, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { ledgersAsJson, rebuildAll, recordsOfMany, verifyLedger } from '.';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
let counter = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

const newPack = () => addPack(custodian, typeId, `L-${++counter}`);
const append = (packId: string, records: object[], agent = custodian) =>
  agent.post('/api/records').send({ packId, records });
const ledgerOf = async (packId: string) =>
  ((await custodian.get(`/api/packs/${packId}`)).body as PackDetails).records;
const rowOf = async (packId: string) =>
  ((await custodian.get(`/api/packs?ids=${packId}`)).body as PackRow[])[0]!;

async function sql(statement: string, params: unknown[] = []) {
  const client = new Client({ connectionString: test.url });
  await client.connect();
  try {
    return await client.query(statement, params);
  } finally {
    await client.end();
  }
}

describe('appending', () => {
  it('keeps a record, judges the pack, and says so', async () => {
    const pack = await newPack();
    const { body } = await append(pack.id, [readingBody([4200, 4190, 4200, 4200])]).expect(201);
    expect((body as AppendAnswer).records).toMatchObject([
      { seq: 2, kind: 'reading', recordedAt: NOW, by: test.people.custodian, rulesVersion: 1 },
    ]);
    expect(await rowOf(pack.id)).toMatchObject({
      verdict: 'fit',
      storage: 'high',
      since: NOW - HOUR_MS,
      dueAt: NOW + 47 * HOUR_MS,
      allowanceHours: 48,
      cellsMv: [4200, 4190, 4200, 4200],
      next: { do: 'store-down', dueAt: NOW + 47 * HOUR_MS },
      seq: 2,
    });
  });

  it('is harmless to repeat, and refuses an id that was something else', async () => {
    const pack = await newPack();
    const record = readingBody([3800, 3800, 3800, 3800]);
    const answers = await Promise.all([1, 2, 3, 4].map(() => append(pack.id, [record])));
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201, 201]);
    expect(await ledgerOf(pack.id)).toHaveLength(2);
    const other = await append(pack.id, [{ ...readingBody([3700, 3700, 3700, 3700]), id: record.id }]).expect(
      409,
    );
    expect(other.body).toMatchObject({ type: '/problems/id-taken' });
  });

  it('keeps all records of a request or none', async () => {
    const pack = await newPack();
    const { body } = await append(pack.id, [
      readingBody([3800, 3800, 3800, 3800]),
      readingBody([3800, 3800]),
    ]).expect(422);
    expect(reasons(body)).toEqual({
      'records.1.payload.volts':
        'This pack has 4 cells, but 2 voltages came. Check the tag and type every cell once.',
    });
    expect(await ledgerOf(pack.id)).toHaveLength(1);
  });

  it('loses nothing when two people write the same pack at once', async () => {
    const pack = await newPack();
    const pilot = await test.as('pilot');
    const notes = Array.from({ length: 40 }, (_, i) => ({
      id: newId(),
      kind: 'note',
      at: NOW,
      supersedes: null,
      payload: { text: `note ${i}` },
    }));
    const answers = await Promise.all(
      notes.map((record, i) => append(pack.id, [record], i % 2 ? pilot : custodian)),
    );
    expect(answers.every(({ status }) => status === 201)).toBe(true);
    const ledger = await ledgerOf(pack.id);
    expect(ledger.map(({ seq }) => seq)).toEqual(Array.from({ length: 41 }, (_, i) => i + 1));
    expect(new Set(ledger.map(({ id }) => id)).size).toBe(41);
  });

  it('gives a late record its own place in time', async () => {
    const pack = await newPack();
    await append(pack.id, [readingBody([3800, 3800, 3800, 3800], { at: NOW - HOUR_MS })]).expect(201);
    await append(pack.id, [readingBody([4200, 4200, 4200, 4200], { at: NOW - 5 * HOUR_MS })]).expect(201);
    expect(await rowOf(pack.id)).toMatchObject({
      storage: 'in-band',
      cellsMv: [3800, 3800, 3800, 3800],
      seq: 3,
    });
  });

  it('judges by what a correction says', async () => {
    const pack = await newPack();
    const slip = readingBody([3800, 2800, 3800, 3800]);
    await append(pack.id, [slip]).expect(201);
    expect(await rowOf(pack.id)).toMatchObject({ verdict: 'retire-advised', mayFly: 'no' });
    const { kind, payload } = readingBody([3800, 3800, 3800, 3800]);
    const fix = {
      id: newId(),
      kind: 'correction',
      at: NOW,
      supersedes: slip.id,
      payload: { reason: 'mistyped', replacement: { kind, payload } },
    };
    await append(pack.id, [fix]).expect(201);
    expect(await rowOf(pack.id)).toMatchObject({ verdict: 'fit', mayFly: 'yes' });
  });
});

describe('bad input', () => {
  it.each<[string, object, string, RegExp]>([
    [
      'a time in the future',
      readingBody([3800, 3800, 3800, 3800], { at: NOW + HOUR_MS }),
      'at',
      /has not come yet/,
    ],
    [
      'a time before the pack was there',
      readingBody([3800, 3800, 3800, 3800], { at: NOW - 900 * HOUR_MS }),
      'at',
      /before the pack was received/,
    ],
    [
      'an absurd voltage',
      readingBody([3800, 3800, 9000, 3800]),
      'payload.volts',
      /Cell 3 at 9.00 V cannot be/,
    ],
    ['half a millivolt', readingBody([3800.5, 3800, 3800, 3800]), 'payload.volts.cellsMv.0', /whole number/],
    ['volts as text', readingBody(['3.8'] as never), 'payload.volts.cellsMv.0', /not a number/],
    [
      'the total only',
      { ...readingBody([]), payload: { ...readingBody([]).payload, volts: { of: 'pack', packMv: 15_200 } } },
      'payload.volts',
      /all 4 cells/,
    ],
    [
      'an unknown field',
      { ...readingBody([3800, 3800, 3800, 3800]), colour: 'red' },
      'colour',
      /not known here/,
    ],
    [
      'an unknown field inside',
      readingBody([3800, 3800, 3800, 3800], {}, { mood: 'good' }),
      'payload.mood',
      /not known here/,
    ],
    [
      'an unknown kind',
      { id: newId(), kind: 'explosion', at: NOW, payload: {}, supersedes: null },
      'kind',
      /not known here/,
    ],
    [
      'a wrong condition',
      readingBody([3800, 3800, 3800, 3800], {}, { condition: 'sleepy' }),
      'payload.condition',
      /rested, settling or loaded/,
    ],
    [
      'an absurd temperature',
      readingBody([3800, 3800, 3800, 3800], {}, { temperatureC: 900 }),
      'payload.temperatureC',
      /between -60 and 200/,
    ],
    [
      'an empty note',
      { id: newId(), kind: 'note', at: NOW, supersedes: null, payload: { text: '  ' } },
      'payload.text',
      /missing/,
    ],
    [
      'a place nobody knows',
      {
        id: newId(),
        kind: 'moved',
        at: NOW,
        supersedes: null,
        payload: { placeId: newId(), holderId: null },
      },
      'payload.placeId',
      /not in the register/,
    ],
    [
      'a person nobody knows',
      {
        id: newId(),
        kind: 'moved',
        at: NOW,
        supersedes: null,
        payload: { placeId: null, holderId: newId() },
      },
      'payload.holderId',
      /not in the register/,
    ],
    [
      'a second receipt',
      { id: newId(), kind: 'received', at: NOW, supersedes: null, payload: { source: null, placeId: null } },
      'kind',
      /received already/,
    ],
    [
      'a correction of nothing',
      {
        id: newId(),
        kind: 'correction',
        at: NOW,
        supersedes: newId(),
        payload: { reason: 'x', replacement: null },
      },
      'supersedes',
      /no such record/,
    ],
    [
      'a correction without a reason',
      {
        id: newId(),
        kind: 'correction',
        at: NOW,
        supersedes: newId(),
        payload: { reason: '', replacement: null },
      },
      'payload.reason',
      /missing/,
    ],
    [
      'a character that cannot be kept',
      { id: newId(), kind: 'note', at: NOW, supersedes: null, payload: { text: 'a\u0000b' } },
      'payload.text',
      /cannot be kept/,
    ],
    [
      'half of a character',
      { id: newId(), kind: 'note', at: NOW, supersedes: null, payload: { text: 'a\ud800b' } },
      'payload.text',
      /cannot be kept/,
    ],
  ])('%s is refused at its field', async (_, record, field, message) => {
    const pack = await newPack();
    const { body } = await append(pack.id, [record]).expect(422);
    const found = reasons(body);
    expect(Object.keys(found)).toEqual([`records.0.${field}`]);
    expect(found[`records.0.${field}`]).toMatch(message);
    expect(await ledgerOf(pack.id)).toHaveLength(1);
  });

  it('a pack nobody knows, no records, too many, a huge body, no JSON at all', async () => {
    const pack = await newPack();
    await append(newId(), [readingBody([3800])]).expect(404);
    await append(pack.id, []).expect(422);
    await append(
      pack.id,
      Array.from({ length: 501 }, () => readingBody([3800, 3800, 3800, 3800])),
    ).expect(422);
    const huge = {
      id: newId(),
      kind: 'note',
      at: NOW,
      supersedes: null,
      payload: { text: 'x'.repeat(600_000) },
    };
    await append(pack.id, [huge]).expect(413);
    const { body } = await custodian
      .post('/api/records')
      .set('content-type', 'application/json')
      .send('{"packId":')
      .expect(400);
    expect(body).toMatchObject({ type: '/problems/not-json' });
    await custodian.post('/api/records').send([]).expect(422);
    await custodian.get('/api/nowhere').expect(404);
  });
});

describe('the evidence', () => {
  it.each(['update record set payload = payload', 'delete from record', 'truncate record cascade'])(
    'the database itself refuses: %s',
    async (statement) => {
      await newPack();
      await expect(sql(statement)).rejects.toThrow(/append-only/);
    },
  );

  it('every chain of the register holds', async () => {
    const { records, broken } = await verifyLedger(test.app.database.entities());
    expect(records).toBeGreaterThan(20);
    expect(broken).toEqual([]);
  });

  it('is told as the database writes it exactly as it was kept', async () => {
    const pack = await newPack();
    const odd = 'A “quote”, "another", \\ a stroke, a tab\t, two\nlines, Ü, 日本, 🔋, \u2028, </script>';
    const note = recordBody('note', { text: odd }, NOW - HOUR_MS - 1);
    await append(pack.id, [note, readingBody([4200, 4190, 4200, 4200])]).expect(201);
    const replacement = { kind: 'note', payload: { text: `${odd} again` } };
    const fix = recordBody('correction', { reason: odd, replacement });
    await append(pack.id, [{ ...fix, supersedes: note.id }]).expect(201);
    const em = test.app.database.entities();
    const all: { id: PackId }[] = await em.execute('select id from pack');
    const kept = await recordsOfMany(
      em,
      all.map(({ id }) => id),
    );
    const told = await ledgersAsJson(
      em,
      all.map(({ id }) => id),
    );
    expect(told.size).toBe(kept.size);
    for (const [id, { json, count }] of told) {
      expect(JSON.parse(json)).toEqual(kept.get(id));
      expect(count).toBe(kept.get(id)!.length);
    }
    expect((await ledgerOf(pack.id)).map(({ seq }) => seq)).toEqual([1, 2, 3, 4]);
  });

  it('rebuilding every pack’s state from the ledger changes nothing', async () => {
    const states = async () => (await sql('select * from pack_state order by pack_id')).rows as unknown[];
    const before = await states();
    await rebuildAll(test.app.database.entities());
    expect(await states()).toEqual(before);
    expect(before.length).toBeGreaterThan(10);
  });
});

describe('a tampered copy', () => {
  const tamperings: [string, string, RegExp][] = [
    [
      'a changed figure',
      `update record set payload = jsonb_set(payload, '{volts,cellsMv,0}', '3900') where seq = 2`,
      /do not match its seal/,
    ],
    ['a changed time', `update record set at = at - interval '1 day' where seq = 2`, /do not match its seal/],
    ['another name', `update record set by = '%OTHER%' where seq = 3`, /do not match its seal/],
    ['a record taken out of the middle', 'delete from record where seq = 2', /missing/],
    ['the newest record taken away', 'delete from record where seq = 3', /does not end where/],
  ];

  it.each(tamperings)('%s is found', async (_, statement, why) => {
    const copy = await openTestApp();
    const agent = await copy.as('custodian');
    const type = await addType(agent);
    const pack = await addPack(agent, type.id, 'T-1');
    for (const mv of [3800, 3810]) {
      await agent
        .post('/api/records')
        .send({ packId: pack.id, records: [readingBody([mv, mv, mv, mv])] })
        .expect(201);
    }
    const client = new Client({ connectionString: copy.url });
    await client.connect();
    await client.query('alter table record disable trigger all');
    await client.query(statement.replace('%OTHER%', copy.people.pilot));
    await client.end();
    const { broken } = await verifyLedger(copy.app.database.entities());
    expect(broken.map((link) => link.why).join('; ')).toMatch(why);
    expect(broken.every(({ packId }) => packId === pack.id)).toBe(true);
    await copy.close();
  });
});
