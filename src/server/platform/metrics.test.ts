import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Client } from 'pg';
import request from 'supertest';
import { openApp } from '../app';
import type { App } from '../app';
import { openTestApp, PASSWORD, testConfig } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';
import { logAt } from './log';

let server: TestApp;
/** A second process on the same database, which is watched. */
let watched: App;

beforeAll(async () => {
  server = await openTestApp();
  watched = await openApp(
    testConfig(server.url, { metrics: { host: '127.0.0.1', port: 0 } }),
    logAt('silent'),
  );
});
afterAll(async () => {
  await watched.close();
  await server.close();
});

const figures = async () => (await request(createServer(watched.metrics!)).get('/metrics').expect(200)).text;

it('tells how long requests took by the pattern of their address, and nothing of whose they were', async () => {
  const agent = request.agent(watched.express);
  await agent.post('/api/session').send({ login: 'reader', password: PASSWORD }).expect(201);
  await agent.get('/api/today').expect(200);
  await agent.get('/api/packs/01939c5e-0000-7000-8000-00000000abcd').expect(404);
  await agent.get('/api/who-knows/secret-word').expect(404);
  const text = await figures();
  expect(text).toContain('malle_request_seconds_count{method="GET",route="/api/today",status="200"} 1');
  expect(text).toContain('malle_request_seconds_count{method="GET",route="/api/packs/:id",status="404"} 1');
  expect(text).toContain('malle_request_seconds_count{method="GET",route="other",status="404"} 1');
  expect(text).toMatch(/^process_resident_memory_bytes \d/m);
  for (const secret of ['abcd', 'secret-word', 'reader', PASSWORD]) expect(text).not.toContain(secret);
});

it('counts who listens while they do', async () => {
  const express = createServer(watched.express).listen(0, '127.0.0.1');
  await once(express, 'listening');
  const base = `http://127.0.0.1:${(express.address() as AddressInfo).port}/api`;
  const signIn = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'reader', password: PASSWORD }),
  });
  const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
  const given = new AbortController();
  await fetch(`${base}/live`, { headers: { cookie }, signal: given.signal });
  expect(await figures()).toContain('malle_live_streams 1');
  given.abort();
  await until(figures, (told) => told.includes('malle_live_streams 0'));
  // A stream that lasted as long as a page was open is no slow request.
  expect(await figures()).not.toContain('route="/api/live"');
  express.closeAllConnections();
  express.close();
});

it('is healthy while the database answers, and says so when it does not', async () => {
  const pages = () => request(createServer(watched.metrics!)).get('/health');
  await pages().expect(200);
  expect(await figures()).toContain('malle_database_up 1');
  const name = new URL(server.url).pathname.slice(1);
  const admin = new Client({ connectionString: server.url.replace(/\/[^/]*$/, '/postgres') });
  await admin.connect();
  const letIn = (allowed: boolean) => admin.query(`alter database ${name} with allow_connections ${allowed}`);
  await letIn(false);
  await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name]);
  const down = await pages().expect(503);
  expect(down.text).toBe('The database does not answer.\n');
  expect(await figures()).toContain('malle_database_up 0');
  await letIn(true);
  await admin.end();
  await pages().expect(200);
});

it('has no other page, and none of it is where browsers are', async () => {
  await request(createServer(watched.metrics!)).get('/api/packs').expect(404);
  await request(watched.express).get('/metrics').expect(404);
  expect(server.app.metrics).toBeNull();
});
