import { Client } from 'pg';
import { SignedInAsker } from './asker';
import { demoRegister, largeRegister, manyPacks, serve } from './largeRegister';
import { medianMs, ms, ratio, say } from './measure';

const ROUNDS = 7;
const WANTED = 1;

const BARE = {
  Today: [
    `select * from pack_state where storage in ('high','low') and verdict not in ('hold','retire-advised') order by due_at limit 60`,
    `select * from pack_state where verdict in ('hold','retire-advised') limit 60`,
    `select * from pack_state where read_due_at <= now() + interval '72 hours' order by read_due_at limit 60`,
    `select verdict, storage, count(*) from pack_state group by 1, 2`,
  ],
  Packs: ['select * from pack p join pack_state s on s.pack_id = p.id order by p.tag_key'],
} as const;

/**
 * Today and Packs over HTTP, beside the SQL they cannot do without: asked again while nothing was committed, and asked the first time after something
 * was. Of a small, a large and a very large register.
 */
export async function benchEndpoints(url: string): Promise<void> {
  const registers = [
    await demoRegister(url, 'malle_bench_small'),
    await largeRegister(url),
    await manyPacks(url),
  ];
  for (const databaseUrl of registers) await measured(databaseUrl);
}

async function measured(databaseUrl: string): Promise<void> {
  const client = new Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ count: string }>('select count(*) from pack');
  const server = await serve(databaseUrl);
  try {
    const asker = await SignedInAsker.at(server.url);
    for (const [name, path] of [
      ['Today', '/today'],
      ['Packs', '/packs'],
    ] as const) {
      const bare = await medianMs(ROUNDS, async () => {
        for (const statement of BARE[name]) await client.query(statement);
      });
      const again = await medianMs(ROUNDS, () => asker.get(path));
      const anew = await medianMs(ROUNDS, async () => {
        // A transaction that did nothing is a commit like any other: what was answered before it is worked out again.
        await client.query('select pg_current_xact_id()');
        await asker.get(path);
      });
      say(
        `${name} at ${rows[0]!.count} packs (wanted × ${WANTED})`,
        `asked again ${ms(again)}`,
        ratio(again / bare),
        `after a change ${ms(anew)}`,
        ratio(anew / bare),
        `bare SQL ${ms(bare)}`,
      );
    }
  } finally {
    server.process.kill('SIGKILL');
    await client.end();
  }
}
