import { Client } from 'pg';
import { v7 as newId } from 'uuid';
import { DAY_MS, MINUTE_MS } from '../src/core/measure';
import type { PackId, PersonId, RecordId } from '../src/core/measure';
import type { RecordDraft } from '../src/core/record';
import { append, chain, insertOf, rebuildPack, recordsOf } from '../src/server/ledger';
import { kept } from '../src/server/ledger/keptLedgers';
import { openRegister } from '../src/server/app';
import type { ChainedRecord } from '../src/server/ledger';
import type { Database, Entities } from '../src/server/platform/database';
import { watched } from '../src/server/testing/watchedStatements';
import { demoRegister } from './largeRegister';
import { lengthened } from './lengthened';
import { median, ms, ratio, say } from './measure';

/** Records of a pack's ledger, and what an append to it may cost beside a bare INSERT. */
const WANTED: readonly (readonly [records: number, ratio: number])[] = [
  [100, 2],
  [450, 2],
  [1_000, 2],
  [5_000, 2.5],
];
const ROUNDS = 40;
/** The first are not counted. */
const WARM_UP = 5;

/**
 * What an append costs beside a bare INSERT transaction of the same row, on ledgers like the made-up register's: charges, flights and
 * moves among the readings. Warm is a pack this process wrote before, cold
 * one whose ledger it has to read.
 */
export async function benchAppend(url: string): Promise<void> {
  const databaseUrl = await demoRegister(url, 'malle_bench_append');
  const database = await openRegister(databaseUrl);
  const model = await busiestPack(database);
  const packs: PackId[] = [];
  for (const [count] of WANTED) packs.push(await layPack(database, model, count));
  const [first] = await database.entities().execute<{ id: PersonId; newest: number }[]>(
    `select id, (select (extract(epoch from max(recorded_at)) * 1000)::float8 from record) as newest
       from person where role = 'custodian' limit 1`,
  );
  let clock = first!.newest + DAY_MS;
  const intake = () => ({ actor: { id: first!.id, role: 'custodian' as const }, recordedAt: clock });
  const draft = (): RecordDraft => {
    clock += 3 * MINUTE_MS;
    return {
      id: newId() as RecordId,
      kind: 'reading',
      at: clock - MINUTE_MS,
      payload: {
        volts: { of: 'cells', cellsMv: [3_824, 3_821, 3_825, 3_820] },
        condition: 'rested',
        instrument: null,
        meterErrorMv: 5,
        temperatureC: null,
        remarks: null,
      },
      supersedes: null,
    };
  };

  const bare = await bareInsert(databaseUrl, (await recordsOf(database.entities(), packs[0]!)).at(-1)!);
  say('Bare INSERT (begin, insert, commit) of the same row', ms(bare.wall), `CPU ${ms(bare.cpu)}`);
  for (const [i, [count, wanted]] of WANTED.entries()) {
    let waited = 0;
    const timing = (em: Entities) =>
      watched(em, async (_sql, run) => {
        const began = performance.now();
        const answer = await run();
        waited += performance.now() - began;
        return answer;
      });
    const write = () => append(timing(database.entities()), packs[i]!, [draft()], intake);
    const cold = await timed(ROUNDS, write, () => kept.clear());
    waited = 0;
    const warm = await timed(ROUNDS, write);
    const statements = waited / (ROUNDS + WARM_UP);
    say(
      `Append to a pack of ${count} records (wanted × ${wanted})`,
      ms(warm.wall),
      ratio(warm.wall / bare.wall),
      `CPU ${ms(warm.cpu)}`,
      ratio(warm.cpu / bare.cpu),
      `its statements alone ${ratio(statements / bare.wall)}`,
      `cold ${ms(cold.wall)}`,
      ratio(cold.wall / bare.wall),
    );
  }
  await database.close();
}

/** The pack of four cells in service with most records; its ledger is what the longer ones are made of. */
export async function busiestPack(database: Database): Promise<PackId> {
  const [row] = await database.entities().execute<{ id: PackId }[]>(
    `select p.id from pack p join pack_type t on t.id = p.type_id join pack_state s on s.pack_id = p.id
      where t.series = 4 and s.life = 'in-service' order by s.seq desc limit 1`,
  );
  return row!.id;
}

/** A pack of the model's type with so many records, told like the model's. */
async function layPack(database: Database, model: PackId, count: number): Promise<PackId> {
  const em = database.entities();
  const id = newId() as PackId;
  await em.execute(
    `insert into pack select (jsonb_populate_record(p, jsonb_build_object('id', ?::text, 'tag', ?::text, 'tag_key', ?::text))).*
       from pack p where p.id = ?`,
    [id, `LONG-${count}`, `LONG${count}`, model],
  );
  const records = (await recordsOf(em, model)).map(({ record }) => record);
  const told = lengthened(records, count).map((record) => ({ ...record, packId: id }));
  const insert = insertOf(chain(told, null));
  await em.execute(insert.sql, insert.params);
  await rebuildPack(em, id);
  return id;
}

async function bareInsert(url: string, { record, hash }: ChainedRecord): Promise<Cost> {
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query('create table bare (like record including all)');
  let seq = 0;
  const cost = await timed(ROUNDS * 4, async () => {
    seq += 1;
    await client.query('begin');
    await client.query('insert into bare values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12)', [
      record.packId,
      seq,
      newId(),
      record.kind,
      new Date(record.at),
      new Date(record.recordedAt),
      record.by,
      JSON.stringify(record.payload),
      null,
      1,
      hash,
      hash,
    ]);
    await client.query('commit');
  });
  await client.end();
  return cost;
}

interface Cost {
  readonly wall: number;
  /** Of this process; what the database works for it is not in it. */
  readonly cpu: number;
}

/** What a piece of work takes, its preparation left out: medians, in milliseconds. */
async function timed(rounds: number, work: () => Promise<unknown>, prepare?: () => void): Promise<Cost> {
  const walls: number[] = [];
  const cpus: number[] = [];
  for (let i = 0; i < rounds + WARM_UP; i += 1) {
    prepare?.();
    const cpuBefore = process.cpuUsage();
    const before = performance.now();
    await work();
    const { user, system } = process.cpuUsage(cpuBefore);
    if (i < WARM_UP) continue;
    walls.push(performance.now() - before);
    cpus.push((user + system) / 1_000);
  }
  return { wall: median(walls), cpu: median(cpus) };
}
