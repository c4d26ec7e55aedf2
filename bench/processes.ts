import { Client } from 'pg';
import { SignedInAsker } from './asker';
import { demoRegister, largeRegister, serve } from './largeRegister';
import { cpuMs, median, medianMs, ms, ratio, say } from './measure';

const PROCESSES = [1, 2, 4] as const;
const APPENDS = 60;
const INSERTS = 200;

/**
 * What grows with the register and with the number of server processes, for sums about larger ones: the room a record takes, an INSERT into a large
 * ledger beside one into a small, the connections of a process, and what a record costs the processes that only hear of it.
 */
export async function benchProcesses(url: string): Promise<void> {
  const small = await demoRegister(url, 'malle_bench_small');
  const large = await largeRegister(url);
  const [few, many] = [await room(small), await room(large)];
  say(
    'Room a record takes, its indexes with it',
    `${few.bytes.toFixed(0)} bytes of ${few.records} records`,
    `${many.bytes.toFixed(0)} of ${many.records}`,
    `packed besides ${many.packedBytes.toFixed(0)}`,
  );
  const [into, beside] = [await insertMs(large), await insertMs(small)];
  say(
    'An INSERT into the large ledger beside the small',
    `${ms(into)} beside ${ms(beside)}`,
    ratio(into / beside),
  );
  for (const count of PROCESSES) await hears(large, count);
}

async function room(databaseUrl: string) {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ records: number; bytes: number; packedBytes: number }>(
    `select n.records, pg_total_relation_size('record')::float8 / n.records as bytes,
            pg_total_relation_size('packed_ledger')::float8 / n.records as "packedBytes"
       from (select count(*)::float8 as records from record) n`,
  );
  await client.end();
  return rows[0]!;
}

/** One record more for a pack, each time another one, undone at the end. */
async function insertMs(databaseUrl: string): Promise<number> {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ id: string }>('select pack_id as id from pack_state where seq > 0');
  await client.query('begin');
  let i = 0;
  const took = await medianMs(INSERTS, async () => {
    const { id } = rows[(i += 7919) % rows.length]!;
    await client.query(
      `insert into record select pack_id, seq + 10000 + $2, gen_random_uuid(), kind, at, recorded_at, by, payload, null, rules_version, prev_hash, hash
         from record where pack_id = $1 and seq = 1`,
      [id, i],
    );
  });
  await client.query('rollback');
  await client.end();
  return took;
}

/** Appends through the first of so many processes, each with one event stream that is read. */
async function hears(databaseUrl: string, count: number): Promise<void> {
  const servers = await Promise.all(Array.from({ length: count }, () => serve(databaseUrl)));
  const client = new Client({ connectionString: databaseUrl });
  try {
    const askers = await Promise.all(servers.map(({ url }) => SignedInAsker.at(url)));
    await client.connect();
    for (const asker of askers) {
      const stream = await asker.open('/live');
      stream.resume();
    }
    const packs = (await askers[0]!.json('/packs')) as readonly { readonly id: string }[];
    const connections = async () =>
      (
        await client.query<{ count: number }>(
          'select count(*)::int as count from pg_stat_activity where datname = current_database()',
        )
      ).rows[0]!.count - 1;
    const cpu = () => servers.map(({ process }) => cpuMs(process.pid!));
    await askers[0]!.append(packs[1]!.id);
    const before = cpu();
    const times: number[] = [];
    for (let i = 0; i < APPENDS; i++) {
      const began = performance.now();
      await askers[0]!.append(packs[(i * 31 + 7) % packs.length]!.id);
      times.push(performance.now() - began);
      // Longer than changes are gathered for: each is told by itself, which is the dearest way.
      await new Promise((rested) => setTimeout(rested, 60));
    }
    const spent = cpu().map((now, i) => (now - before[i]!) / APPENDS);
    const [own, ...others] = spent;
    say(
      `A record where ${count} processes serve`,
      `answered after ${ms(median(times))}`,
      `CPU of the one that writes ${ms(own!)}`,
      others.length > 0 ? `of each that hears ${ms(median(others))}` : '',
      `${(await connections()) / count} connections a process`,
    );
  } finally {
    for (const { process } of servers) process.kill('SIGKILL');
    await client.end();
  }
}
