import { createHmac } from 'node:crypto';
import request from 'supertest';
import { openApp } from '../app';
import { logAt } from '../platform/log';
import { Person } from './entities';
import { DAY_MS } from '../../core/measure';
import { cookieSecrets, deviceName } from './sessions';
import { NOW, openTestApp, PASSWORD, reasons, testConfig } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

it('calls a browser what its owner would, and a script a program', () => {
  const phone =
    'Mozilla/5.0 (Linux; Android 14; Pixel) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';
  expect(deviceName(phone)).toBe('Chrome on Android (phone)');
  expect(deviceName('node')).toBe('a program');
  expect(deviceName('')).toBe('an unnamed program');
});

describe('an empty register', () => {
  let empty: TestApp;
  beforeAll(async () => {
    empty = await openTestApp({ withPeople: false });
  });
  afterAll(() => empty.close());

  it('asks for its first custodian, and takes exactly one', async () => {
    const visitor = empty.anybody();
    const { body: begun } = await visitor.get('/api/session').expect(200);
    expect(begun).toEqual({
      now: NOW,
      frozen: true,
      bench: null,
      epoch: expect.any(String) as string,
      state: 'setup',
      custodians: [],
    });
    const weak = await visitor
      .post('/api/setup')
      .send({ name: '', login: 'ann', password: 'short' })
      .expect(422);
    expect(reasons(weak.body)).toEqual({
      name: 'The name is missing.',
      password: 'A password has at least 10 characters.',
    });

    const first = { name: 'Ann', login: 'Ann', password: PASSWORD };
    const answers = await Promise.all([1, 2, 3].map(() => empty.anybody().post('/api/setup').send(first)));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409, 409]);
    await visitor.post('/api/session').send({ login: 'ANN', password: PASSWORD }).expect(201);
  });
});

describe('signing in', () => {
  let test: TestApp;
  beforeAll(async () => {
    test = await openTestApp();
  });
  afterAll(() => test.close());

  it('lets the right password in and keeps the session in a cookie no script can read', async () => {
    const agent = test.anybody();
    const { headers, body } = await agent
      .post('/api/session')
      .send({ login: 'pilot', password: PASSWORD })
      .expect(201);
    expect(body).toMatchObject({
      state: 'signed-in',
      person: { name: 'The pilot', role: 'pilot' },
      demo: false,
    });
    expect(headers['set-cookie']![0]).toMatch(/HttpOnly; SameSite=Strict/);
    await agent.get('/api/today').expect(200);
    await agent.delete('/api/session').set('content-type', 'application/json').expect(204);
    await agent.get('/api/today').expect(401);
  });

  it('over HTTPS the cookie is one that no other host of the domain can plant', async () => {
    const behindTls = await openApp(testConfig(test.url, { behindTls: true }), logAt('silent'));
    const agent = request.agent(behindTls.express).set('x-forwarded-proto', 'https');
    const { headers } = await agent
      .post('/api/session')
      .send({ login: 'pilot', password: PASSWORD })
      .expect(201);
    const [cookie] = headers['set-cookie'] as unknown as string[];
    expect(cookie).toMatch(/^__Host-malle\.session=[^;]+; Path=\/; .*HttpOnly; Secure; SameSite=Strict$/);
    expect(cookie).not.toContain('Domain');
    await request(behindTls.express)
      .get('/api/today')
      .set('x-forwarded-proto', 'https')
      .set('cookie', cookie!.split(';')[0]!)
      .expect(200);
    await behindTls.close();
  });

  it('answers a wrong password and an unknown name alike', async () => {
    const wrong = await test
      .anybody()
      .post('/api/session')
      .send({ login: 'reader', password: 'wrong' })
      .expect(401);
    const unknown = await test
      .anybody()
      .post('/api/session')
      .send({ login: 'nobody', password: 'wrong' })
      .expect(401);
    expect(wrong.body).toEqual(unknown.body);
    expect(wrong.headers['content-type']).toMatch('application/problem+json');
  });

  it('stops guessing after eight tries, even with the right password then', async () => {
    const agent = test.anybody();
    for (let i = 0; i < 8; i++)
      await agent
        .post('/api/session')
        .send({ login: 'deputy', password: `guess ${i}` })
        .expect(401);
    const { body } = await agent
      .post('/api/session')
      .send({ login: 'deputy', password: PASSWORD })
      .expect(429);
    expect(body).toMatchObject({
      type: '/problems/too-many-tries',
      detail: expect.stringMatching(/Try again in \d+ min/) as string,
    });
  });

  it('ends at once for somebody who is not let in any more', async () => {
    const agent = await test.as('reader');
    const em = test.app.database.entities();
    await em.nativeUpdate(Person, { id: test.people.reader }, { active: false });
    await agent.get('/api/today').expect(401);
    await test.anybody().post('/api/session').send({ login: 'reader', password: PASSWORD }).expect(401);
    await em.nativeUpdate(Person, { id: test.people.reader }, { active: true });
  });

  it('has no one-press sign-in outside the made-up register', async () => {
    const { body } = await test.anybody().get('/api/session').expect(200);
    expect(body).toMatchObject({ state: 'signed-out', demoPeople: [] });
    await test.anybody().post('/api/session/demo').send({ personId: test.people.custodian }).expect(404);
  });

  it('refuses what another site asks for', async () => {
    const agent = await test.as('custodian');
    const ask = () =>
      agent.post('/api/places').send({ name: 'A shelf', kind: 'shelf', fireResistant: false });
    await ask().set('sec-fetch-site', 'cross-site').expect(403);
    await ask().set('sec-fetch-site', 'same-site').expect(403);
    await ask().set('origin', 'https://elsewhere.example').expect(403);
    await ask().set('origin', 'null').expect(403);
    await agent.post('/api/places').type('form').send('name=A+shelf').expect(400);
    await agent.post('/api/places').type('text/plain').send('{"name":"A shelf"}').expect(400);
    await ask().set('sec-fetch-site', 'same-origin').expect(201);
  });

  it('sends a content-security policy that lets nothing in from elsewhere', async () => {
    const { headers } = await test.anybody().get('/api/session');
    const policy = headers['content-security-policy']!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(policy.replace("'wasm-unsafe-eval'", '')).not.toContain('unsafe');
    expect(policy).toContain("frame-ancestors 'none'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers).not.toHaveProperty('x-powered-by');
  });
});

describe('what signs cookies', () => {
  const WEEK_MS = 7 * DAY_MS;
  const opened: TestApp[] = [];
  const open = async (more: Parameters<typeof openTestApp>[0] = {}) => {
    const test = await openTestApp(more);
    opened.push(test);
    return test;
  };
  afterAll(() => Promise.all(opened.map((test) => test.close())));

  it('stands nowhere in a register that has a key', async () => {
    const test = await open();
    const em = test.app.database.entities();
    expect(await em.execute(`select from setting where key = 'cookie-secret'`)).toEqual([]);
    expect(await cookieSecrets(em, { cookieSecret: 'of the key' }, NOW)).toEqual(['of the key']);
  });

  it('is kept in the database where there is no key, and whoever was in stays in when one comes', async () => {
    const keyless = await open({ signingKey: null });
    const cookie = cookieOf(
      await keyless.anybody().post('/api/session').send({ login: 'pilot', password: PASSWORD }),
    );

    const keyed = await open({ url: keyless.url, withPeople: false });
    const { body } = await request(keyed.app.express).get('/api/session').set('cookie', cookie).expect(200);
    expect(body).toMatchObject({ state: 'signed-in' });
    const em = keyed.app.database.entities();
    const [{ value }] = await em.execute<[{ value: { secret: string } }]>(
      `select value from setting where key = 'cookie-secret'`,
    );
    const key = { cookieSecret: 'of the key' };
    expect(await cookieSecrets(em, key, Date.now() + WEEK_MS)).toEqual(['of the key', value.secret]);
    expect(await cookieSecrets(em, key, Date.now() + 3 * WEEK_MS)).toEqual(['of the key']);
    // And without the key again it is what it was.
    expect(await cookieSecrets(em, null, Date.now())).toEqual([value.secret]);
  });

  it('is of no use to whoever reads the database: a cookie made of what stands there lets nobody in', async () => {
    const test = await open();
    await test.as('custodian');
    const [{ sid }] = await test.app.database
      .entities()
      .execute<[{ sid: string }]>('select sid from user_session');
    for (const secret of ['', sid, await epochOf(test)]) {
      const seal = createHmac('sha256', secret || 'guess')
        .update(sid)
        .digest('base64')
        .replace(/=+$/, '');
      const cookie = `malle.session=${encodeURIComponent(`s:${sid}.${seal}`)}`;
      await request(test.app.express).get('/api/packs').set('cookie', cookie).expect(401);
    }
  });
});

function cookieOf({ headers }: { headers: Record<string, unknown> }): string {
  return (headers['set-cookie'] as string[])[0]!.split(';')[0]!;
}

async function epochOf(test: TestApp): Promise<string> {
  const { body } = await test.anybody().get('/api/session').expect(200);
  return (body as { epoch: string }).epoch;
}
