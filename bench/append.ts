import { Client } from 'pg';
import { v7 as newId } from 'uuid';
import { append, recordsOf } from '../src/server/ledger';
import { openRegister } from '../src/server/app';
import { medianMs, ms, ratio, say } from './measure';
import { growTo, layRegister, readingDraft } from './register';
import type { BenchRegister } from './register';

/** What an append costs beside a bare INSERT transaction of the same row, on a young pack and on one of 400 records. */
export async function benchAppend(url: string): Promise<BenchRegister> {
  const database = await openRegister(url);
  const register = await layRegister(database);
  await growTo(database, register, 2);
  const [young, old] = register.packs;
  const intake = () => ({ actor: register.person, recordedAt: Date.now() });
  for (let i = 0; i < 4; i++) {
    const batch = Array.from({ length: 100 }, () =>
      readingDraft([3800, 3800, 3800, 3800], Date.now() - 1000),
    );
    await append(database.entities(), old!, batch, intake);
  }

  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query('create table bare (like record including all)');
  const [last] = (await recordsOf(database.entities(), old!)).slice(-1);
  const { record, hash } = last!;
  let seq = 0;
  const bare = await medianMs(300, async () => {
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

  const appendTo = (pack: typeof young) =>
    medianMs(200, () =>
      append(database.entities(), pack!, [readingDraft([3800, 3810, 3800, 3800], Date.now() - 500)], intake),
    );
  const atYoung = await appendTo(young);
  const atOld = await appendTo(old);
  say('Bare INSERT transaction of the same row', ms(bare));
  say('Append to a pack of 4 to 200 records', ms(atYoung), ratio(atYoung / bare));
  say('Append to a pack of 400 to 600 records', ms(atOld), ratio(atOld / bare));
  await database.close();
  return register;
}
