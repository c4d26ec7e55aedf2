import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Client } from 'pg';
import { openApp } from '../src/server/app';
import { Person } from '../src/server/people/entities';
import { passwordHash } from '../src/server/people/passwords';
import { logAt } from '../src/server/platform/log';
import { PASSWORD, testConfig } from '../src/server/testing/testApp';
import { medianMs, ms, ratio, say } from './measure';
import { growTo } from './register';
import type { BenchRegister } from './register';

const BARE = {
  Today: [
    `select * from pack_state where storage in ('high','low') and verdict not in ('hold','retire-advised') order by due_at limit 60`,
    `select * from pack_state where verdict in ('hold','retire-advised') limit 60`,
    `select * from pack_state where read_due_at <= now() + interval '72 hours' order by read_due_at limit 60`,
    `select verdict, storage, count(*) from pack_state group by 1, 2`,
  ],
  Packs: ['select * from pack p join pack_state s on s.pack_id = p.id order by p.tag_key'],
} as const;

/** Today and Packs over HTTP, beside the SQL they cannot do without, at 60 and at 5,000 packs. */
export async function benchEndpoints(url: string, register: BenchRegister): Promise<void> {
  const app = await openApp(testConfig(url, { fixedNow: null }), logAt('silent'));
  const em = app.database.entities();
  await em.nativeUpdate(
    Person,
    { id: register.person.id },
    { login: 'bench', passwordHash: await passwordHash(PASSWORD) },
  );
  const server = createServer(app.express).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  const signIn = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'bench', password: PASSWORD }),
  });
  const cookie = signIn.headers.get('set-cookie')?.split(';')[0] ?? '';
  const client = new Client({ connectionString: url });
  await client.connect();
  for (const count of [60, 5000]) {
    await growTo(app.database, register, count);
    await client.query('analyze');
    for (const [name, path] of [
      ['Today', '/today'],
      ['Packs', '/packs'],
    ] as const) {
      const bare = await medianMs(40, async () => {
        for (const statement of BARE[name]) await client.query(statement);
      });
      const whole = await medianMs(40, async () =>
        (await fetch(`${base}${path}`, { headers: { cookie } })).arrayBuffer(),
      );
      say(`${name} at ${count} packs (wanted × 1)`, ms(whole), `bare SQL ${ms(bare)}`, ratio(whole / bare));
    }
  }
  await client.end();
  server.closeAllConnections();
  server.close();
  await app.close();
}
