import request from 'supertest';
import type { Problem } from '../../contract';
import { openApp } from '../app';
import type { App } from '../app';
import { openTestApp, PASSWORD, testConfig } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { logAt } from './log';

let test: TestApp;
let behind: App;
beforeAll(async () => {
  test = await openTestApp();
  behind = await openApp(testConfig(test.url, { behindTls: true }), logAt('silent'));
});
afterAll(async () => {
  await behind.close();
  await test.close();
});

const signIn = (headers: Record<string, string>) =>
  request(behind.express).post('/api/session').set(headers).send({ login: 'custodian', password: PASSWORD });
const PROXIED = { 'x-forwarded-proto': 'https' };

it('lets in who comes through the proxy, and watchers from beside', async () => {
  await signIn(PROXIED).expect(201);
  await request(behind.express).get('/api/health').expect(200);
});

it.each([
  ['past the proxy, or through one that does not say how it was reached', {}, /X-Forwarded-Proto/],
  ['in plain', { 'x-forwarded-proto': 'http' }, /plain HTTP/],
])('says so to whoever comes %s', async (_how, headers, detail) => {
  for (const asked of [request(behind.express).get('/api/session').set(headers), signIn(headers)]) {
    const { body } = await asked.expect(421);
    expect(body).toMatchObject({ type: '/problems/past-proxy', detail: expect.stringMatching(detail) });
  }
});

it('knows the name it was asked by where the proxy tells it, and says what is wrong where it does not', async () => {
  const page = {
    ...PROXIED,
    origin: 'https://malle.example',
    'sec-fetch-site': 'same-origin',
    host: '127.0.0.1:4180',
  };
  await signIn({ ...page, 'x-forwarded-host': 'malle.example' }).expect(201);
  const { body } = await signIn(page).expect(403);
  expect((body as Problem).detail).toMatch(/pass on Host/);
});

it('another site stays another site, whatever it says', async () => {
  const evil = { ...PROXIED, origin: 'https://evil.example', host: 'malle.example' };
  for (const headers of [
    evil,
    { ...evil, 'sec-fetch-site': 'cross-site' },
    { ...evil, 'sec-fetch-site': 'same-site', 'x-forwarded-host': 'malle.example' },
  ])
    await signIn(headers).expect(403);
  // Without a proxy nobody is believed about the name.
  await request(test.app.express)
    .post('/api/session')
    .set({ origin: 'https://evil.example', 'x-forwarded-host': 'evil.example' })
    .send({ login: 'custodian', password: PASSWORD })
    .expect(403);
});
