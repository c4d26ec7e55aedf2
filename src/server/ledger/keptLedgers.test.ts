import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import { seededRandom } from '../../core/cellsim';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { PackId, RecordId } from '../../core/measure';
import type { PackRecord } from '../../core/record';
import type { Entities } from '../platform/database';
import { addPack, addType, NOW, openTestApp, readingBody, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { watched } from '../testing/watchedStatements';
import { append } from './append';
import { KeptLedgers, kept } from './keptLedgers';
import { rebuildPack, rebuildPacks } from './rebuild';
import { chain, insertOf, recordsOf } from './rows';
import { verifyLedger } from './verify';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;
let em: Entities;
let tags = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
  em = test.app.database.entities();
});
afterAll(() => test.close());

const newPack = async () => (await addPack(custodian, typeId, `K-${(tags += 1)}`)).id;
const send = (packId: PackId, ...records: object[]) =>
  custodian.post('/api/records').send({ packId, records });
const note = (text: string, at = NOW) => recordBody('note', { text }, at);
const stored = async (packId: PackId) => (await recordsOf(em, packId)).map(({ record }) => record);
const headOf = async (packId: PackId) => {
  const last = (await recordsOf(em, packId)).at(-1)!;
  return { seq: last.record.seq, hash: last.hash };
};
const stateOf = async (packId: PackId) =>
  (await em.execute<object[]>('select * from pack_state where pack_id = ?', [packId]))[0];

/** Counts the records that were read through it. */
function counting(): { em: Entities; records: number } {
  const counter = { em, records: 0 };
  counter.em = watched(em, async (_sql, run) => {
    const rows = (await run()) as readonly { rest?: string }[];
    for (const { rest } of rows)
      counter.records += rest === undefined ? 1 : (JSON.parse(rest) as unknown[]).length;
    return rows;
  });
  return counter;
}

describe('ledgers that are kept', () => {
  it('are what the database holds at every step, whichever process wrote it', async () => {
    const random = seededRandom(11);
    const packs = [await newPack(), await newPack(), await newPack()];
    const processes = [new KeptLedgers(), new KeptLedgers()];
    const written: { packId: PackId; id: string; mv: number }[] = [];
    for (let step = 0; step < 60; step += 1) {
      const packId = packs[Math.floor(random() * packs.length)]!;
      const mine = written.filter((one) => one.packId === packId);
      const mv = 3_700 + Math.floor(random() * 200);
      const at = NOW - Math.floor(random() * 300) * MINUTE_MS;
      const reading = readingBody([mv, mv, mv, mv], { at });
      if (mine.length > 0 && random() < 0.25) {
        const { kind, payload } = readingBody([mv, mv, mv, mv]);
        const slip = mine[Math.floor(random() * mine.length)]!;
        const replacement = random() < 0.3 ? null : { kind, payload };
        await send(packId, {
          ...recordBody('correction', { reason: 'a slip', replacement }),
          supersedes: slip.id,
        });
      } else {
        await send(packId, reading, ...(random() < 0.2 ? [note('two at once')] : [])).expect(201);
        written.push({ packId, id: reading.id, mv });
      }
      for (const one of processes) {
        if (random() < 0.5) continue;
        const asked = packs[Math.floor(random() * packs.length)]!;
        expect(await one.upTo(em, asked, await headOf(asked))).toEqual(await stored(asked));
      }
    }
    for (const packId of packs) {
      expect(await kept.upTo(em, packId, await headOf(packId))).toEqual(await stored(packId));
      const byKept = await stateOf(packId);
      kept.clear();
      await rebuildPack(em, packId);
      expect(await stateOf(packId)).toEqual(byKept);
    }
    expect((await verifyLedger(em)).broken).toEqual([]);
  });

  it('are read once, and after that only by what came since', async () => {
    const packId = await newPack();
    await send(packId, ...Array.from({ length: 40 }, (_, i) => note(`note ${i}`))).expect(201);
    const ledgers = new KeptLedgers();
    const counter = counting();
    await ledgers.upTo(counter.em, packId, await headOf(packId));
    expect(counter.records).toBe(41);
    await ledgers.upTo(counter.em, packId, await headOf(packId));
    expect(counter.records).toBe(41);
    await send(packId, note('one more'), note('and another')).expect(201);
    await ledgers.upTo(counter.em, packId, await headOf(packId));
    expect(counter.records).toBe(43);
  });

  it('that are ahead, because a transaction came to nothing, are read anew', async () => {
    const packId = await newPack();
    await send(packId, note('kept')).expect(201);
    const intake = () => ({
      actor: { id: test.people.custodian, role: 'custodian' as const },
      recordedAt: NOW,
    });
    const lost = em.transactional(async (tx) => {
      await append(tx, packId, [note('never written') as never], intake);
      throw new Error('the server lost its connection');
    });
    await expect(lost).rejects.toThrow('lost its connection');
    const { body } = await send(packId, note('after it')).expect(201);
    expect((body as { records: PackRecord[] }).records[0]!.seq).toBe(3);
    expect((await stored(packId)).map(({ payload }) => ('text' in payload ? payload.text : null))).toEqual([
      null,
      'kept',
      'after it',
    ]);
    expect((await verifyLedger(em)).broken).toEqual([]);
  });

  it('that are wrong, as long as the right one or longer, are read anew', async () => {
    const packId = await newPack();
    await send(packId, note('one'), note('two')).expect(201);
    const head = await headOf(packId);
    const before = (await stored(packId)).slice(0, 1);
    const other = (n: number) =>
      chain(
        Array.from({ length: n }, (_, i) => ({ ...before[0]!, id: newId() as RecordId, seq: i + 2 })),
        'f'.repeat(64),
      );
    for (const strange of [1, 2, 5]) {
      const ledgers = new KeptLedgers();
      ledgers.add(packId, before, other(strange));
      expect(await ledgers.upTo(em, packId, head)).toEqual(await stored(packId));
    }
  });

  it('are folded anew where the pack itself has become another since', async () => {
    const packId = await newPack();
    const level = (mv: number) => readingBody([mv, mv, mv, mv]);
    await send(packId, level(3_800)).expect(201);
    await em.execute('update pack set field_pack = true where id = ?', [packId]);
    await send(packId, level(4_190)).expect(201);
    const said = await stateOf(packId);
    kept.clear();
    await rebuildPack(em, packId);
    expect(await stateOf(packId)).toEqual(said);
  });

  it('hold a record as it will be read: what is undefined is not there', async () => {
    const packId = await newPack();
    const [received] = await stored(packId);
    const record = {
      ...note('x'),
      packId,
      seq: 2,
      recordedAt: NOW,
      by: test.people.custodian,
      rulesVersion: 1,
    };
    const odd = { ...record, payload: { text: 'x', more: undefined } } as never as PackRecord;
    const fresh = chain([odd], (await headOf(packId)).hash);
    const insert = insertOf(fresh);
    await em.execute(insert.sql, insert.params);
    const ledgers = new KeptLedgers();
    ledgers.add(packId, [received!], fresh);
    const read = await ledgers.upTo(em, packId, { seq: 2, hash: fresh[0]!.hash });
    expect(read).toStrictEqual(await stored(packId));
    await em.execute('update pack_state set seq = 2, head_hash = ? where pack_id = ?', [
      fresh[0]!.hash,
      packId,
    ]);
  });

  it('are let go of when they are many, the longest unused first', async () => {
    const ledgers = new KeptLedgers(30);
    const counter = counting();
    const packs = [await newPack(), await newPack()];
    for (const packId of packs)
      await send(packId, ...Array.from({ length: 19 }, (_, i) => note(`note ${i}`))).expect(201);
    for (const packId of packs) await ledgers.upTo(counter.em, packId, await headOf(packId));
    expect(counter.records).toBe(40);
    await ledgers.upTo(counter.em, packs[1]!, await headOf(packs[1]!));
    expect(counter.records).toBe(40);
    await ledgers.upTo(counter.em, packs[0]!, await headOf(packs[0]!));
    expect(counter.records).toBe(60);
  });
});

describe('a record that somebody else is quicker than', () => {
  const intake = () => ({
    actor: { id: test.people.custodian, role: 'custodian' as const },
    recordedAt: NOW,
  });
  /** Lets something happen before the first statement that is like this, within a transaction or without, and counts all that are. */
  function interrupted(like: RegExp, happen: () => Promise<unknown>) {
    const seen = { em: em.fork(), count: 0 };
    seen.em = watched(seen.em, async (sql, run) => {
      if (like.test(sql) && (seen.count += 1) === 1) await happen();
      return run();
    });
    return seen;
  }
  const WRITING = /^with held as/;
  const READING = /from record where pack_id = .* and seq >/;
  const waitsForJudgement = (packId: PackId) =>
    em.execute('update pack_state set rules_version = 0 where pack_id = ?', [packId]);
  /** What is said of the pack is what its records and its type say, and nothing is missing. */
  const holds = async (packId: PackId, texts: readonly string[]) => {
    const records = await stored(packId);
    expect(records.flatMap(({ payload }) => ('text' in payload ? payload.text : []))).toEqual(texts);
    const said = await stateOf(packId);
    kept.clear();
    await rebuildPack(em, packId);
    expect(await stateOf(packId)).toEqual(said);
    expect((await verifyLedger(em)).broken).toEqual([]);
  };

  it.each<[string, RegExp, (packId: PackId) => Promise<unknown>, readonly string[]]>([
    ['another record came', WRITING, (packId) => send(packId, note('theirs')), ['theirs', 'mine']],
    [
      'another came while its ledger was read',
      READING,
      (packId) => send(packId, note('theirs')),
      ['theirs', 'mine'],
    ],
    ['the pack was judged anew', WRITING, (packId) => rebuildPack(em, packId), ['mine']],
    ['its type was changed, and it waits to be judged', WRITING, waitsForJudgement, ['mine']],
  ])('is judged once more where %s', async (_, like, happen, texts) => {
    const packId = await newPack();
    kept.clear();
    const asking = interrupted(like, () => happen(packId));
    const answers = await append(asking.em, packId, [note('mine') as never], intake);
    expect(answers).toEqual((await stored(packId)).slice(-1));
    expect(asking.count).toBe(like === WRITING ? 2 : 1);
    await holds(packId, texts);
  });

  it('is judged once more where its type was changed, though the pack was held', async () => {
    const packId = await newPack();
    const asking = interrupted(WRITING, () => waitsForJudgement(packId));
    await asking.em.transactional((tx) => append(tx, packId, [note('mine') as never], intake));
    expect(asking.count).toBe(2);
    await holds(packId, ['mine']);
  });

  it('waits for whoever holds the pack, and sees what they made of it', async () => {
    const packId = await newPack();
    let mine: Promise<unknown> = Promise.resolve();
    await em.fork().transactional(async (tx) => {
      await append(tx, packId, [note('theirs') as never], intake);
      mine = append(em.fork(), packId, [note('mine') as never], intake);
      // Long enough to be judged and to stand waiting at the pack.
      await new Promise((goOn) => setTimeout(goOn, 300));
      expect(await stored(packId)).toHaveLength(1);
    });
    await mine;
    await holds(packId, ['theirs', 'mine']);
  });

  it('is written once though it comes twice at the same moment', async () => {
    const packId = await newPack();
    const record = note('mine') as never;
    const asking = interrupted(WRITING, () => append(em.fork(), packId, [record], intake));
    const answers = await append(asking.em, packId, [record], intake);
    expect(answers.map(({ seq }) => seq)).toEqual([2]);
    await holds(packId, ['mine']);
  });

  it('leaves a pack that is judged anew to wait where its type is changed meanwhile', async () => {
    const packId = await newPack();
    await waitsForJudgement(packId);
    const asking = interrupted(/^insert into pack_state/, () => waitsForJudgement(packId));
    const done = await rebuildPacks(asking.em, [packId]);
    expect(done).toEqual([]);
    expect(await stateOf(packId)).toMatchObject({ rules_version: 0 });
    expect(await rebuildPacks(em.fork(), [packId])).toEqual([packId]);
    expect(await stateOf(packId)).toMatchObject({ rules_version: 1 });
  });
});

describe('a ledger that was cut or changed past the application', () => {
  const tampered = async (packId: PackId, statement: string) => {
    await em.transactional(async (tx) => {
      await tx.execute('alter table record disable trigger all');
      await tx.execute(statement.replace('%PACK%', `'${packId}'`));
      await tx.execute('alter table record enable trigger all');
    });
  };
  it.each([
    ['its newest record taken away', 'delete from record where pack_id = %PACK% and seq = 4'],
    ['its last two taken away', 'delete from record where pack_id = %PACK% and seq > 2'],
    ['all of it taken away', 'delete from record where pack_id = %PACK%'],
    [
      'another seal',
      `update record set hash = repeat('a', 64), payload = '{"text":"never said"}' where pack_id = %PACK% and seq = 4`,
    ],
    [
      'one more, from elsewhere',
      `insert into record select pack_id, 5, gen_random_uuid(), kind, at, recorded_at, by, payload, null, rules_version, hash, repeat('b', 64)
         from record where pack_id = %PACK% and seq = 4`,
    ],
  ])('%s at its end: it is not written on, and judging anew does not hide it', async (_, statement) => {
    const packId = await newPack();
    for (const text of ['one', 'two', 'three']) await send(packId, note(text, NOW - HOUR_MS)).expect(201);
    await tampered(packId, statement);
    for (const isCold of [false, true]) {
      if (isCold) kept.clear();
      const { body } = await send(packId, note('written on')).expect(409);
      expect(body).toMatchObject({ type: '/problems/ledger-broken' });
    }
    await rebuildPack(em, packId);
    await send(packId, note('written on')).expect(409);
    const { broken } = await verifyLedger(em);
    expect(broken.filter((link) => link.packId === packId).map(({ why }) => why)).toContain(
      'the chain does not end where the pack’s state says it does',
    );
    // A person who looked into it may take it as it stands.
    await rebuildPack(em, packId, true);
    if ((await recordsOf(em, packId)).length > 0) await send(packId, note('written on')).expect(201);
  });

  it('with a record taken out of its middle is not written on by a process that has to read it', async () => {
    const packId = await newPack();
    for (const text of ['one', 'two', 'three']) await send(packId, note(text, NOW - HOUR_MS)).expect(201);
    await tampered(packId, 'delete from record where pack_id = %PACK% and seq = 3');
    kept.clear();
    const { body } = await send(packId, note('written on')).expect(409);
    expect(body).toMatchObject({ type: '/problems/ledger-broken' });
    // Another pack's ledger is none of its business.
    await send(await newPack(), note('one')).expect(201);
  });
});
