import { inflateRawSync } from 'node:zlib';
import { Client } from 'pg';
import type TestAgent from 'supertest/lib/agent';
import type { HistoriesAnswer, PackDetails } from '../../contract';
import { seededRandom } from '../../core/cellsim';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { PackId } from '../../core/measure';
import { addPack, addType, NOW, openTestApp, readingBody, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { KeptLedgers } from './keptLedgers';
import { ledgersAsJson, packedLedgers, recordsOfMany, unpacked } from './packed';
import { packLedgers } from './packing';
import { rebuildPack } from './rebuild';
import { recordsOf } from './rows';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
let tags = 0;
let written = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

const em = () => test.app.database.entities();
const newPack = async () =>
  (await addPack(custodian, typeId, `P-${(tags += 1)}`, { receivedAt: NOW - 366 * 24 * HOUR_MS })).id;
const ODD = 'A “quote”, "another", \\ a stroke, a tab\t, two\nlines, Ü, 日本, 🔋, \u2028, ],[ }{';
/** Writes records of a few kinds, none like another, a year back and later. */
async function write(packId: PackId, count: number): Promise<void> {
  const records = Array.from({ length: count }, () => {
    written += 1;
    const at = NOW - 365 * 24 * HOUR_MS + written * MINUTE_MS;
    return written % 3 === 0
      ? readingBody([3800, 3790 + (written % 9), 3801, 3799], { at })
      : recordBody('note', { text: `${ODD} ${written}` }, at);
  });
  for (let first = 0; first < count; first += 40)
    await custodian
      .post('/api/records')
      .send({ packId, records: records.slice(first, first + 40) })
      .expect(201);
}
const packedUpTo = async (packId: PackId): Promise<number | null> =>
  (await em().execute<{ seq: number }[]>('select seq from packed_ledger where pack_id = ?', [packId]))[0]
    ?.seq ?? null;

/** Every way to a ledger answers what its rows hold. */
async function expectSame(ids: readonly PackId[]): Promise<void> {
  const [records, texts, ledgers] = [
    await recordsOfMany(em(), ids),
    await ledgersAsJson(em(), ids),
    await packedLedgers(em(), ids),
  ];
  for (const id of ids) {
    const rows = await recordsOf(em(), id);
    const expected = rows.map(({ record }) => record);
    const head = { seq: rows.length, hash: rows.at(-1)!.hash };
    expect(records.get(id)).toEqual(expected);
    expect(texts.get(id)!.count).toBe(rows.length);
    expect(JSON.parse(texts.get(id)!.json)).toEqual(expected);
    expect(ledgers.get(id)).toMatchObject({ count: head.seq, hash: head.hash });
    expect(await new KeptLedgers().upTo(em(), id, head)).toEqual(expected);
    const { body } = await custodian.get(`/api/packs/${id}`).expect(200);
    expect((body as PackDetails).records).toEqual(expected);
  }
}

it('a ledger is what its rows are, whether all of it is packed, some of it or nothing', async () => {
  const ids: PackId[] = [];
  for (const count of [0, 30, 31, 90]) {
    const id = await newPack();
    if (count > 0) await write(id, count);
    ids.push(id);
  }
  await expectSame(ids);
  await packLedgers(em());
  // The first record of each is that it was received.
  expect(await Promise.all(ids.map(packedUpTo))).toEqual([null, null, 32, 91]);
  await expectSame(ids);
  for (const id of ids) await write(id, 1 + ids.indexOf(id));
  await expectSame(ids);
});

it('packs again what has grown by as much as is worth it, and nothing else', async () => {
  const [short, long] = [await newPack(), await newPack()];
  await write(short, 40);
  await write(long, 799);
  await packLedgers(em());
  expect(await packLedgers(em())).toBe(0);
  await write(short, 31);
  await write(long, 52);
  expect(await packLedgers(em())).toBe(0);
  await write(short, 1);
  await write(long, 1);
  expect(await packLedgers(em())).toBe(2);
  expect([await packedUpTo(short), await packedUpTo(long)]).toEqual([73, 853]);
  await expectSame([short, long]);
});

it('what was packed of another past, or of more than there is, counts for nothing', async () => {
  const [one, other] = [await newPack(), await newPack()];
  for (const id of [one, other]) await write(id, 40);
  await packLedgers(em());
  for (const change of [
    `hash = 'another'`,
    `seq = 39`,
    `seq = 400`,
    // The seal of an earlier record: it is not the one at that number.
    `hash = (select hash from record where pack_id = '${one}' and seq = 20)`,
    `hash = (select hash from packed_ledger where pack_id = '${other}')`,
  ]) {
    const kept = await em().execute<{ seq: number; hash: string }[]>(
      'select seq, hash from packed_ledger where pack_id = ?',
      [one],
    );
    await em().execute(`update packed_ledger set ${change} where pack_id = ?`, [one]);
    expect((await packedLedgers(em(), [one])).get(one)!.packed).toBeNull();
    await expectSame([one]);
    const { seq, hash } = kept[0]!;
    await em().execute('update packed_ledger set seq = ?, hash = ? where pack_id = ?', [seq, hash, one]);
  }
  expect((await packedLedgers(em(), [one])).get(one)!.packed).not.toBeNull();
});

it('packs for itself while one process packs, and waits for nobody while another does', async () => {
  const id = await newPack();
  await write(id, 40);
  const another = new Client({ connectionString: test.url });
  await another.connect();
  await another.query('begin');
  await another.query('select pg_advisory_xact_lock($1)', [0x7061636b]);
  expect(await packLedgers(em())).toBe(0);
  await another.query('rollback');
  await another.end();
  expect(await packLedgers(em(), () => false)).toBe(1);
});

it('may be done while records are written', async () => {
  const ids = [await newPack(), await newPack(), await newPack()];
  const random = seededRandom(5);
  let writing = true;
  const packing = (async () => {
    while (writing) await packLedgers(em());
  })();
  await Promise.all(
    ids.map(async (id) => {
      for (let i = 0; i < 12; i++) await write(id, 1 + Math.floor(random() * 30));
    }),
  );
  writing = false;
  await packing;
  await packLedgers(em());
  expect((await Promise.all(ids.map(packedUpTo))).every((seq) => seq !== null)).toBe(true);
  await expectSame(ids);
});

it('goes as it is to whoever unpacks it, and whole to everybody else, with how each pack stands', async () => {
  const [long, short] = [await newPack(), await newPack()];
  await write(long, 50);
  await packLedgers(em());
  await write(long, 2);
  await custodian
    .post('/api/records')
    .send({ packId: short, records: [readingBody([4200, 4200, 4200, 4200], { at: NOW - 72 * HOUR_MS })] })
    .expect(201);
  const ask = async (query: Record<string, string>) =>
    (
      await custodian
        .get('/api/histories')
        .query({ ids: `${long},${short}`, ...query })
        .expect(200)
    ).body as HistoriesAnswer;
  const plain = await ask({});
  const asPacked = await ask({ packed: 'yes' });
  expect(plain.packs.map(({ packed }) => packed)).toEqual([null, null]);
  const [first, second] = asPacked.packs;
  expect(first!.records).toHaveLength(2);
  const before = JSON.parse(
    inflateRawSync(Buffer.from(first!.packed!, 'base64')).toString(),
  ) as HistoriesAnswer['packs'][number]['records'];
  expect([...before, ...first!.records]).toEqual(plain.packs[0]!.records);
  expect(asPacked.packs.map(({ count }) => count)).toEqual(plain.packs.map(({ records }) => records.length));
  expect(second).toEqual(plain.packs[1]);
  expect(second!.standing).toEqual({
    verdict: 'fit',
    dueAt: NOW - 24 * HOUR_MS,
    found: { 'storage-high': 'note', 'baseline-missing': 'note', 'inspection-due': 'note' },
  });
  await em().execute('update pack_state set rules_version = 0 where pack_id = ?', [short]);
  expect((await ask({})).packs[1]!.standing).toBeNull();
  await custodian.get('/api/histories?packed=maybe').expect(422);
});

it('of a ledger that somebody takes as it stands nothing counts that was packed before', async () => {
  const id = await newPack();
  await write(id, 40);
  await packLedgers(em());
  const client = new Client({ connectionString: test.url });
  await client.connect();
  await client.query('set session_replication_role = replica');
  await client.query(`update record set payload = '{"text": "otherwise"}' where pack_id = $1 and seq = 3`, [
    id,
  ]);
  await client.end();
  const third = async () => (await recordsOfMany(em(), [id])).get(id)![2]!.payload;
  expect(await third()).not.toEqual({ text: 'otherwise' });
  await rebuildPack(em(), id, true);
  expect(await third()).toEqual({ text: 'otherwise' });
  await packLedgers(em());
  expect(await packedUpTo(id)).toBe(41);
  await expectSame([id]);
});

it('comes in shares, each pack in one of them', async () => {
  // More than one answer looks at, of whichever share.
  const model = await newPack();
  await em().execute(
    `with copied as (
       insert into pack select (jsonb_populate_record(p, jsonb_build_object('id', gen_random_uuid(), 'tag', 'SH-' || n, 'tag_key', 'SH' || n))).*
         from pack p, generate_series(1, 450) n where p.id = ? returning id)
     insert into pack_state select (jsonb_populate_record(s, jsonb_build_object('pack_id', c.id))).*
       from pack_state s, copied c where s.pack_id = ?`,
    [model, model],
  );
  const all = new Set(
    (await em().execute<{ id: PackId }[]>('select pack_id as id from pack_state')).map(({ id }) => id),
  );
  const seen: PackId[] = [];
  for (const share of [0, 1, 2]) {
    let after: PackId | null = null;
    do {
      const query: Record<string, string | number> = { share, shares: 3, ...(after ? { after } : {}) };
      const { body } = await custodian.get('/api/histories').query(query).expect(200);
      const { packs, total, next } = body as HistoriesAnswer;
      expect(total).toBe(all.size);
      expect(packs.length).toBeLessThan(all.size);
      seen.push(...packs.map(({ facts }) => facts.id));
      after = next;
    } while (after !== null);
  }
  expect(seen).toHaveLength(all.size);
  expect(new Set(seen)).toEqual(all);
  await custodian.get('/api/histories?shares=0').expect(422);
  await custodian.get('/api/histories?share=-1').expect(422);
  const none = await custodian.get('/api/histories?share=3&shares=3').expect(200);
  expect((none.body as HistoriesAnswer).packs).toEqual([]);
  await em().execute(`delete from pack_state where pack_id in (select id from pack where tag like 'SH-%')`);
  await em().execute(`delete from pack where tag like 'SH-%'`);
});

it('one that cannot be unpacked says so rather than be read as something else', async () => {
  const id = await newPack();
  await write(id, 40);
  await packLedgers(em());
  await em().execute(`update packed_ledger set records = '\\x00' where pack_id = ?`, [id]);
  const ledger = (await packedLedgers(em(), [id])).get(id)!;
  expect(() => unpacked(ledger)).toThrow();
});
