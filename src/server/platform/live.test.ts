import { createServer } from 'node:http';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Client } from 'pg';
import { addPack, addType, openTestApp, PASSWORD, readingBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

/** Two server processes on one database: what is written through one is heard through the other. */
let writer: TestApp;
let listener: TestApp;
let server: Server;
let base: string;

beforeAll(async () => {
  writer = await openTestApp();
  listener = await openTestApp({ withPeople: false, url: writer.url });
  server = createServer(listener.app.express).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
});
afterAll(async () => {
  await listener.app.endStreams();
  server.closeAllConnections();
  server.close();
  await Promise.all([writer.close(), listener.close()]);
});

async function listen(): Promise<{ next: () => Promise<unknown>; stop: () => Promise<void> }> {
  const signIn = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'reader', password: PASSWORD }),
  });
  const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
  const stream = await fetch(`${base}/live`, { headers: { cookie } });
  expect(stream.headers.get('content-type')).toBe('text/event-stream');
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const next = async (): Promise<unknown> => {
    for (;;) {
      const found = /data: (.*)\n\n/.exec(text);
      if (found) {
        text = text.slice(found.index + found[0].length);
        return JSON.parse(found[1]!);
      }
      const { value, done } = await reader.read();
      if (done) throw new Error('the stream ended');
      text += value;
    }
  };
  return { next, stop: () => reader.cancel() };
}

it('tells every process’s listeners what changed, once it is committed', async () => {
  const custodian = await writer.as('custodian');
  const type = await addType(custodian);
  const pack = await addPack(custodian, type.id, 'LIVE-1');
  const { next, stop } = await listen();
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [readingBody([3800, 3800])] })
    .expect(422);
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [readingBody([3800, 3800, 3800, 3800])] })
    .expect(201);
  // Its row comes along, as whoever asked for it would be told.
  const [row] = (await custodian.get(`/api/packs?ids=${pack.id}`).expect(200)).body as unknown[];
  expect(await next()).toEqual({ about: 'pack', packId: pack.id, seq: 2, row });
  await custodian
    .post('/api/places')
    .send({ name: 'A shelf', kind: 'shelf', fireResistant: false })
    .expect(201);
  expect(await next()).toEqual({ about: 'register' });
  await stop();
});

it('finds its way back after the database dropped the connection, and says that something may have been missed', async () => {
  const { next, stop } = await listen();
  const client = new Client({ connectionString: writer.url });
  await client.connect();
  await client.query(
    `select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()`,
  );
  await client.end();
  expect(await next()).toEqual({ about: 'register' });
  await stop();
});

it('is for people who are signed in', async () => {
  expect((await fetch(`${base}/live`)).status).toBe(401);
});
