import { Client } from 'pg';
import { demoRegister, serve } from './largeRegister';
import { median, ms, say } from './measure';
import { SignedInAsker } from './asker';

const WRITERS = 32;
const EACH = 20;

/**
 * Thirty-two people who write at once, each to a pack of their own: how long each waits for the answer, over HTTP. Beside that as many connections which
 * do nothing but insert.
 */
export async function benchWriters(url: string): Promise<void> {
  const databaseUrl = await demoRegister(url, 'malle_bench_writers');
  const bare = await bareWriters(databaseUrl);
  const server = await serve(databaseUrl);
  try {
    const asker = await SignedInAsker.at(server.url);
    const packs = (await asker.json('/packs')) as readonly { readonly id: string }[];
    const written = await atOnce(
      packs.slice(0, WRITERS).map(
        ({ id }) =>
          () =>
            asker.append(id),
      ),
    );
    say(
      `${WRITERS} writers on packs of their own (wanted 150 ms)`,
      `99 of 100 within ${ms(written.slowest)}`,
      `median ${ms(written.median)}`,
      `${written.perSecond.toFixed(0)} records/s`,
      `bare INSERTs within ${ms(bare.slowest)}`,
    );
  } finally {
    server.process.kill('SIGKILL');
  }
}

async function bareWriters(databaseUrl: string) {
  const clients = Array.from({ length: WRITERS }, () => new Client({ connectionString: databaseUrl }));
  await Promise.all(clients.map((client) => client.connect()));
  await clients[0]!.query('create table bare as select * from record limit 1');
  const written = await atOnce(
    clients.map((client) => async () => {
      await client.query('begin');
      await client.query('insert into bare select * from bare limit 1');
      await client.query('commit');
    }),
  );
  await Promise.all(clients.map((client) => client.end()));
  return written;
}

/** Each does its work again and again, all of them at once: what 99 of 100 stay under, the median, and how many a second. */
async function atOnce(works: readonly (() => Promise<unknown>)[]) {
  const times: number[] = [];
  const began = performance.now();
  await Promise.all(
    works.map(async (work) => {
      for (let i = 0; i < EACH; i++) {
        const start = performance.now();
        await work();
        times.push(performance.now() - start);
      }
    }),
  );
  const perSecond = (times.length * 1_000) / (performance.now() - began);
  times.sort((a, b) => a - b);
  return { slowest: times[Math.floor(times.length * 0.99)]!, median: median(times), perSecond };
}
