import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type {
  LogEntryAnswer,
  PackDetails,
  PersonDetails,
  RegisterAnswer,
  SignInAnswer,
  SignInLinkAnswer,
  VerificationAnswer,
} from '../../contract';
import { DAY_MS } from '../../core/measure';
import { addPack, addType, openTestApp, PASSWORD, readingBody, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';
import { makeSignInLink } from './signInLinks';

const OTHER = 'estuary mud at low tide';

let test: TestApp;
let custodian: TestAgent;

beforeEach(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterEach(() => test.close());

const signIn = (agent: TestAgent, login: string, password = PASSWORD) =>
  agent.post('/api/session').send({ login, password });
const isIn = async (agent: TestAgent) => (await agent.get('/api/today')).status === 200;
const people = async () => (await custodian.get('/api/people').expect(200)).body as PersonDetails[];
const detailsOf = async (id: string) => (await people()).find((one) => one.id === id)!;
const edit = async (id: string, more: object, agent = custodian) => {
  const { id: _id, hasPassword: _password, hasFactor: _factor, ...facts } = await detailsOf(id);
  return agent.put(`/api/people/${id}`).send({ ...facts, ...more });
};
const linkFor = async (id: string) =>
  (await custodian.post(`/api/people/${id}/sign-in-link`).send({}).expect(201)).body as SignInLinkAnswer;

const verify = async () => {
  const { body } = await custodian.post('/api/evidence/verification').send({ checkpoint: null }).expect(201);
  return (body as VerificationAnswer).findings;
};

describe('one’s own password', () => {
  it('is changed by whoever knows it, and ends every other session', async () => {
    const [here, elsewhere] = [await test.as('pilot'), await test.as('pilot')];
    const wrong = await here
      .put('/api/session/password')
      .send({ current: 'a guess', password: OTHER })
      .expect(422);
    expect(reasons(wrong.body)).toEqual({ current: 'This is not the password you have now.' });
    expect(await isIn(elsewhere)).toBe(true);
    await here.put('/api/session/password').send({ current: PASSWORD, password: OTHER }).expect(204);
    expect(await isIn(here)).toBe(true);
    expect(await isIn(elsewhere)).toBe(false);
    await signIn(test.anybody(), 'pilot').expect(401);
    await signIn(test.anybody(), 'pilot', OTHER).expect(201);
  });

  it('cannot be guessed at from a session that was left open', async () => {
    const here = await test.as('pilot');
    const answers: number[] = [];
    for (let i = 0; i < 12; i += 1) {
      const { status } = await here
        .put('/api/session/password')
        .send({ current: `guess ${i}`, password: OTHER });
      answers.push(status);
    }
    expect(answers.slice(0, 8)).toEqual(Array(8).fill(422));
    expect(answers.slice(8)).toEqual(Array(4).fill(429));
  });

  it.each([
    ['a word that is tried first', 'basketball', /tried first/],
    ['the same with what is commonly hung on to it', 'Basketball2026!', /tried first/],
    ['figures in a row', '1234567890', /tried first/],
    ['one character', 'aaaaaaaaaaaa', /repeats/],
    ['the sign-in name', 'reader12345', /your name|tried first/],
    ['too few characters', 'short', /at least 10/],
    ['too many', 'x'.repeat(201), /at most 200/],
  ])('is not %s', async (_, password, why) => {
    const agent = await test.as('reader');
    const { body } = await agent
      .put('/api/session/password')
      .send({ current: PASSWORD, password })
      .expect(422);
    expect(reasons(body).password).toMatch(why);
    await signIn(test.anybody(), 'reader').expect(201);
  });

  it.each([
    'Pässe über den Fluss',
    'correct horse',
    'tide tables, twice',
    'пароль для проверки',
    '   spaces around it   ',
  ])('may be %s', async (password) => {
    const agent = await test.as('reader');
    await agent.put('/api/session/password').send({ current: PASSWORD, password }).expect(204);
    await signIn(test.anybody(), 'reader', password).expect(201);
  });
});

describe('a link to choose a password', () => {
  it('lets a new person in, once', async () => {
    const { body } = await custodian
      .post('/api/people')
      .send({ name: 'Somebody New', login: 'new', role: 'pilot', active: true })
      .expect(201);
    expect(body).toMatchObject({ hasPassword: false });
    const { secret, endsAt } = await linkFor((body as PersonDetails).id);
    expect(endsAt).toBeGreaterThan(0);
    const visitor = test.anybody();
    const invited = await visitor.post('/api/session/link').send({ secret }).expect(201);
    expect(invited.body).toEqual({ name: 'Somebody New', login: 'new' });
    const weak = await visitor.post('/api/session/link/password').send({ secret, password: 'somebody new' });
    expect(reasons(weak.body).password).toMatch(/your name/);
    const answer = await visitor
      .post('/api/session/link/password')
      .send({ secret, password: OTHER })
      .expect(201);
    expect(answer.body).toMatchObject({
      state: 'signed-in',
      person: { name: 'Somebody New', role: 'pilot' },
    });
    expect(await isIn(visitor)).toBe(true);
    await test.anybody().post('/api/session/link').send({ secret }).expect(404);
    await test.anybody().post('/api/session/link/password').send({ secret, password: PASSWORD }).expect(404);
    await signIn(test.anybody(), 'new', OTHER).expect(201);
  });

  it('ends the old password, every session and the link before it, as soon as it is made', async () => {
    const lost = await test.as('pilot');
    const first = await linkFor(test.people.pilot);
    expect(await isIn(lost)).toBe(false);
    await signIn(test.anybody(), 'pilot').expect(401);
    const second = await linkFor(test.people.pilot);
    await test.anybody().post('/api/session/link').send({ secret: first.secret }).expect(404);
    await test.anybody().post('/api/session/link').send({ secret: second.secret }).expect(201);
  });

  it('is used by one of ten who have it', async () => {
    const { secret } = await linkFor(test.people.pilot);
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        test
          .anybody()
          .post('/api/session/link/password')
          .send({ secret, password: `${OTHER} ${i}` }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, ...Array(9).fill(404)]);
  });

  it('is worth nothing when it is too old, and to somebody whose account ended', async () => {
    const { secret } = await linkFor(test.people.pilot);
    const em = test.app.database.entities();
    await em.execute(`update sign_in_link set ends_at = ends_at - interval '4 days'`);
    await test.anybody().post('/api/session/link').send({ secret }).expect(404);
    await em.execute(`update sign_in_link set ends_at = ends_at + interval '4 days'`);
    await test.anybody().post('/api/session/link').send({ secret }).expect(201);
    await (
      await edit(test.people.pilot, { active: false })
    ).body;
    await test.anybody().post('/api/session/link').send({ secret }).expect(404);
    await test.anybody().post('/api/session/link/password').send({ secret, password: OTHER }).expect(404);
  });

  it('is a custodian’s to make, not for oneself, and never found in the database', async () => {
    const pilot = await test.as('pilot');
    await pilot.post(`/api/people/${test.people.reader}/sign-in-link`).send({}).expect(403);
    await custodian.post(`/api/people/${test.people.custodian}/sign-in-link`).send({}).expect(403);
    await custodian.post(`/api/people/${newId()}/sign-in-link`).send({}).expect(404);
    const { secret } = await linkFor(test.people.pilot);
    const rows = await test.app.database.entities().execute('select * from sign_in_link');
    expect(JSON.stringify(rows)).not.toContain(secret);
  });

  it.each(['', 'x', 'x'.repeat(100), '../../', '%00', 'null'])('is not guessed: %p', async (secret) => {
    const { status } = await test.anybody().post('/api/session/link').send({ secret });
    expect([404, 422]).toContain(status);
  });
});

describe('a register in which nobody has a password any more', () => {
  it('lets in whoever has the link that was made on the server, and no visitor', async () => {
    const em = test.app.database.entities();
    await em.execute('update person set password_hash = null');
    const id = test.people.custodian;
    const { secret } = await makeSignInLink(em, id, null, Date.now());
    const visitor = test.anybody();
    expect((await visitor.get('/api/session').expect(200)).body).toMatchObject({ state: 'signed-out' });
    await visitor.post('/api/setup/claim').send({ personId: id, password: OTHER }).expect(409);
    await visitor
      .post('/api/setup')
      .send({ name: 'A visitor', login: 'visitor', password: OTHER })
      .expect(409);
    await em.execute(`update sign_in_link set ends_at = ends_at - interval '1 year'`);
    await visitor.post('/api/setup/claim').send({ personId: id, password: OTHER }).expect(409);
    await em.execute(`update sign_in_link set ends_at = ends_at + interval '1 year'`);
    await visitor.post('/api/session/link/password').send({ secret, password: OTHER }).expect(201);
    expect(await isIn(visitor)).toBe(true);
  });
});

describe('sessions', () => {
  it('are listed by device for their owner alone, and ended one by one', async () => {
    const phone = test.anybody();
    await phone
      .post('/api/session')
      .set(
        'user-agent',
        'Mozilla/5.0 (Linux; Android 14; Pixel) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0.0.0 Mobile Safari/537.36',
      )
      .send({ login: 'pilot', password: PASSWORD })
      .expect(201);
    const here = await test.as('pilot');
    const list = (await here.get('/api/sessions').expect(200)).body as SignInAnswer[];
    expect(list).toHaveLength(2);
    expect(list[0]).toMatchObject({ isThis: true });
    expect(list[1]!.device).toBe('Chrome on Android (phone)');
    for (const { startedAt, seenAt } of list) {
      expect(Math.abs(startedAt! - Date.now())).toBeLessThan(60_000);
      expect(Math.abs(seenAt - Date.now())).toBeLessThan(120_000);
    }
    await (await test.as('reader')).delete(`/api/sessions/${list[1]!.id}`).send({}).expect(404);
    expect(await isIn(phone)).toBe(true);
    await here.delete(`/api/sessions/${list[1]!.id}`).send({}).expect(204);
    expect(await isIn(phone)).toBe(false);
    await here.delete(`/api/sessions/${list[1]!.id}`).send({}).expect(404);
    expect((await here.get('/api/sessions')).body).toHaveLength(1);
  });

  it('end when an account is ended, and are not there again when it is not', async () => {
    const pilot = await test.as('pilot');
    await (
      await edit(test.people.pilot, { active: false })
    ).body;
    expect(await isIn(pilot)).toBe(false);
    await (
      await edit(test.people.pilot, { active: true })
    ).body;
    expect(await isIn(pilot)).toBe(false);
    await signIn(test.anybody(), 'pilot').expect(201);
  });

  it('end although a proxy in front asks for a password of its own', async () => {
    const pilot = await test.as('pilot');
    const behind = () => pilot.get('/api/today').set('authorization', 'Basic cHJveHk6cGFzcw==');
    await behind().expect(200);
    await pilot
      .put('/api/session/password')
      .set('authorization', 'Basic cHJveHk6cGFzcw==')
      .send({ current: PASSWORD, password: OTHER })
      .expect(204);
    await custodian.delete(`/api/people/${test.people.pilot}/sessions`).send({}).expect(204);
    await behind().expect(401);
  });

  it('that were being started as all were ended are over, too', async () => {
    const pilot = await test.as('pilot');
    const em = test.app.database.entities();
    const [kept] = await em.execute<{ sess: string; sid: string; expire: Date }[]>(
      `select sid, sess::text as sess, expire from user_session where sess ->> 'personId' = ?`,
      [test.people.pilot],
    );
    await custodian.delete(`/api/people/${test.people.pilot}/sessions`).send({}).expect(204);
    await em.execute('insert into user_session (sid, sess, expire) values (?, ?::json, ?)', [
      kept!.sid,
      kept!.sess,
      kept!.expire,
    ]);
    expect(await isIn(pilot)).toBe(false);
  });

  it('last no longer than half a year, however often they are used', async () => {
    const pilot = await test.as('pilot');
    expect(await isIn(pilot)).toBe(true);
    const clock = jest.spyOn(Date, 'now').mockReturnValue(Date.now() + 181 * DAY_MS);
    await test.app.database
      .entities()
      .execute(`update user_session set expire = now() + interval '200 days'`);
    const status = (await pilot.get('/api/today')).status;
    clock.mockRestore();
    expect(status).toBe(401);
  });

  it('take their live streams with them, and nobody else’s', async () => {
    const server = createServer(test.app.express).listen(0, '127.0.0.1');
    await new Promise((listening) => server.once('listening', listening));
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
    const opened = async (login: string) => {
      const signedIn = await fetch(`${address}/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ login, password: PASSWORD }),
      });
      const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!;
      const stream = await fetch(`${address}/live`, { headers: { cookie } });
      const state = { isOpen: true, text: '' };
      const read = async () => {
        const reader = stream.body!.getReader();
        for (let part = await reader.read(); !part.done; part = await reader.read())
          state.text += Buffer.from(part.value).toString();
        state.isOpen = false;
      };
      void read().catch(() => (state.isOpen = false));
      return state;
    };
    const [pilot, again, reader] = [await opened('pilot'), await opened('pilot'), await opened('reader')];
    await custodian.delete(`/api/people/${test.people.pilot}/sessions`).send({}).expect(204);
    await until(
      () => [pilot, again],
      (streams) => streams.every(({ isOpen }) => !isOpen),
    );
    expect([pilot.isOpen, again.isOpen, reader.isOpen]).toEqual([false, false, true]);
    // Who was sent away is nobody else's business.
    expect(reader.text).not.toContain(test.people.pilot);
    server.closeAllConnections();
    server.close();
  });
});

describe('custodians', () => {
  it('who demote each other at the same moment leave one', async () => {
    for (let round = 0; round < 5; round += 1) {
      const { body } = await custodian
        .post('/api/people')
        .send({ name: 'Another', login: newId(), role: 'custodian', active: true, password: OTHER });
      const other = body as PersonDetails;
      const second = test.anybody();
      await signIn(second, other.login, OTHER).expect(201);
      const [one, two] = [await detailsOf(test.people.custodian), await detailsOf(other.id)];
      const demote = (
        agent: TestAgent,
        { id, hasPassword: _password, hasFactor: _factor, ...facts }: PersonDetails,
      ) => agent.put(`/api/people/${id}`).send({ ...facts, role: 'pilot' });
      const answers = await Promise.all([demote(custodian, two), demote(second, one)]);
      const rows = await test.app.database
        .entities()
        .execute<{ id: string }[]>(`select id from person where role = 'custodian' and active`);
      expect(rows).toHaveLength(1);
      expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
      if (rows[0]!.id !== test.people.custodian) {
        await test.app.database
          .entities()
          .execute(`update person set role = 'custodian' where id = ?`, [test.people.custodian]);
        await test.app.database
          .entities()
          .execute(`update person set role = 'pilot' where id = ?`, [other.id]);
      }
    }
  });

  it('who save the same edit twice at once are told that it was changed meanwhile', async () => {
    const { id, hasPassword: _password, hasFactor: _factor, ...facts } = await detailsOf(test.people.reader);
    const answers = await Promise.all(
      [1, 2, 3, 4].map((n) => custodian.put(`/api/people/${id}`).send({ ...facts, name: `Reader ${n}` })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409]);
  });
});

describe('guessing', () => {
  const from = (address: string, login: string, password: string) =>
    test.anybody().post('/api/session').set('x-forwarded-for', address).send({ login, password });

  beforeEach(() => test.app.express.set('trust proxy', 1));

  it('at one account from many addresses is stopped', async () => {
    const answers: number[] = [];
    for (let i = 0; i < 40; i += 1) answers.push((await from(`10.1.0.${i}`, 'deputy', `guess ${i}`)).status);
    expect(answers.slice(0, 30)).toEqual(Array(30).fill(401));
    expect(answers.slice(30)).toEqual(Array(10).fill(429));
    expect((await from('10.2.0.1', 'deputy', PASSWORD)).status).toBe(429);
    expect((await from('10.2.0.1', 'reader', PASSWORD)).status).toBe(201);
  });

  it('is not what a whole club does that signs in from one address', async () => {
    for (let i = 0; i < 60; i += 1)
      expect((await from('10.3.0.1', i % 2 ? 'pilot' : 'reader', PASSWORD)).status).toBe(201);
    // A slip now and then is forgiven by the next right try.
    for (let i = 0; i < 12; i += 1) {
      expect((await from('10.3.0.1', 'pilot', 'a slip')).status).toBe(401);
      expect((await from('10.3.0.1', 'pilot', PASSWORD)).status).toBe(201);
    }
  });
});

describe('a request that is under way while its session ends', () => {
  const cookiesOf = ({ headers }: { headers: object }) =>
    (headers as { 'set-cookie'?: string[] })['set-cookie'] ?? [];
  const daysPass = (days: number) =>
    test.app.database.entities().execute(
      `update user_session set sess = (sess::jsonb || jsonb_build_object('cookieAt', (sess ->> 'cookieAt')::float8 - ?::float8,
           'startedAt', (sess ->> 'startedAt')::float8 - ?::float8))::json`,
      [days * DAY_MS, days * DAY_MS],
    );

  it('brings no cookie, which would take the place of the new session’s; once a day one is sent again', async () => {
    const pilot = await test.as('pilot');
    for (let i = 0; i < 3; i += 1) expect(cookiesOf(await pilot.get('/api/today').expect(200))).toEqual([]);
    await daysPass(1.1);
    const [cookie] = cookiesOf(await pilot.get('/api/today').expect(200));
    const until = Date.parse(/Expires=([^;]+)/.exec(cookie!)![1]!);
    expect(Math.round((until - Date.now()) / DAY_MS)).toBe(14);
    expect(cookiesOf(await pilot.get('/api/today').expect(200))).toEqual([]);
    expect(await isIn(pilot)).toBe(true);
  });

  it('does not bring the session back', async () => {
    const pilot = await test.as('pilot');
    await daysPass(1.1);
    const em = test.app.database.entities();
    // Some of them have read it by then, and would write down that their cookie was sent.
    const asked = Array.from({ length: 12 }, () => pilot.get('/api/today'));
    const ended = em.execute(`delete from user_session where sess ->> 'personId' = ?`, [test.people.pilot]);
    await Promise.all([...asked, ended]);
    expect(
      await em.execute(`select sid from user_session where sess ->> 'personId' = ?`, [test.people.pilot]),
    ).toEqual([]);
    expect(await isIn(pilot)).toBe(false);
  });
});

describe('what changes who can come in', () => {
  /** Everybody's sign-in and last word are so long ago. */
  const ago = (minutes: number) =>
    test.app.database.entities().execute(
      `update user_session set sess = (sess::jsonb || jsonb_build_object('startedAt', (sess ->> 'startedAt')::float8 - ?::float8,
           'confirmedAt', coalesce((sess ->> 'confirmedAt')::float8, 0) - ?::float8))::json`,
      [minutes * 60_000, minutes * 60_000],
    );
  const keyBody = () => ({ id: newId(), name: 'A script', role: 'reader', endsAt: Date.now() + 30 * DAY_MS });
  const added = () => ({
    name: 'Somebody new',
    login: `new-${newId().slice(-8)}`,
    role: 'custodian',
    active: true,
  });

  it('asks for the password again a quarter of an hour after it was given, and lasts for another', async () => {
    const { pilot } = test.people;
    await edit(pilot, { role: 'deputy' }).then(({ status }) => expect(status).toBe(200));
    await ago(16);
    const asked = [
      () => edit(pilot, { role: 'custodian' }),
      () => custodian.post('/api/people').send(added()),
      () => custodian.post(`/api/people/${pilot}/sign-in-link`).send({}),
      () => custodian.post('/api/keys').send(keyBody()),
    ];
    for (const ask of asked) {
      const { status, body } = await ask();
      expect([status, (body as { type: string }).type]).toEqual([403, '/problems/confirm-first']);
    }
    expect((await detailsOf(pilot)).role).toBe('deputy');
    // All else goes on as it was.
    await custodian.get('/api/people').expect(200);

    const wrong = await custodian.post('/api/session/confirmation').send({ password: 'a guess' }).expect(422);
    expect(reasons(wrong.body)).toEqual({ password: 'This is not the password you have now.' });
    expect((await asked[1]!()).status).toBe(403);
    await custodian.post('/api/session/confirmation').send({ password: PASSWORD }).expect(204);
    for (const ask of asked) expect((await ask()).status).toBeLessThan(300);
    await ago(16);
    expect((await asked[1]!()).status).toBe(403);
  });

  it('is not opened by another’s password, nor by trying', async () => {
    await ago(16);
    const answers: number[] = [];
    for (let i = 0; i < 11; i += 1)
      answers.push(
        (await custodian.post('/api/session/confirmation').send({ password: `guess ${i}` })).status,
      );
    expect(answers.slice(0, 8)).toEqual(Array(8).fill(422));
    expect(answers.at(-1)).toBe(429);
    expect((await edit(test.people.pilot, { role: 'custodian' })).status).toBe(403);
  });

  it('asks nothing of whoever has no password', async () => {
    await ago(16);
    await test.app.database
      .entities()
      .execute('update person set password_hash = null where id = ?', [test.people.custodian]);
    await custodian.post('/api/people').send(added()).expect(201);
  });
});

describe('a pseudonym of somebody who has left', () => {
  const takeOn = async (id: string, agent = custodian) => {
    const { version } = await detailsOf(id);
    return agent.post(`/api/people/${id}/pseudonym`).send({ version });
  };
  const leave = async (id: string) => expect((await edit(id, { active: false })).status).toBe(200);

  it('stands in place of the name everywhere, and the records stay that person’s', async () => {
    const pilot = await test.as('pilot');
    const type = await addType(custodian);
    const { id: packId } = await addPack(custodian, type.id, 'A-1');
    const records = [readingBody([3_810, 3_810, 3_810, 3_810])];
    await pilot.post('/api/records').send({ packId, records }).expect(201);
    const before = await verify();
    await leave(test.people.pilot);
    const { body, status } = await takeOn(test.people.pilot);
    expect(status).toBe(201);
    expect(body).toMatchObject({ name: 'Former member 1', login: 'former-member-1', hasPassword: false });
    const register = (await custodian.get('/api/register').expect(200)).body as RegisterAnswer;
    expect(register.people.find(({ id }) => id === test.people.pilot)!.name).toBe('Former member 1');
    expect(JSON.stringify(register)).not.toContain('The pilot');
    const pack = (await custodian.get(`/api/packs/${packId}`).expect(200)).body as PackDetails;
    expect(pack.records.at(-1)!.by).toBe(test.people.pilot);
    expect([before, await verify()]).toEqual([[], []]);
    await signIn(test.anybody(), 'pilot').expect(401);
    await signIn(test.anybody(), 'former-member-1').expect(401);
  });

  it('is told by the log to those who may read it, and is one for each', async () => {
    for (const who of ['pilot', 'reader'] as const) {
      await leave(test.people[who]);
      await takeOn(test.people[who]);
    }
    const entries = (await custodian.get('/api/log').expect(200)).body as LogEntryAnswer[];
    expect(entries[0]).toMatchObject({ did: 'changed', subject: 'person', subjectId: test.people.reader });
    expect(entries[0]!.changes).toMatchObject({ name: ['The reader', 'Former member 2'] });
    const deputy = await test.as('deputy');
    await deputy.get('/api/log').expect(403);
  });

  it('is for accounts that were ended, for custodians, once, and not over somebody else’s change', async () => {
    expect((await takeOn(test.people.pilot)).status).toBe(403);
    await leave(test.people.pilot);
    expect((await takeOn(test.people.pilot, await test.as('deputy'))).status).toBe(403);
    const stale = { version: (await detailsOf(test.people.pilot)).version - 1 };
    await custodian.post(`/api/people/${test.people.pilot}/pseudonym`).send(stale).expect(409);
    expect((await takeOn(test.people.pilot)).status).toBe(201);
    expect((await takeOn(test.people.pilot)).body).toMatchObject({ name: 'Former member 1' });
    await custodian.post(`/api/people/${newId()}/pseudonym`).send({ version: 1 }).expect(404);
  });

  it('of two who leave at once is not the same', async () => {
    await leave(test.people.pilot);
    await leave(test.people.reader);
    const answers = await Promise.all([takeOn(test.people.pilot), takeOn(test.people.reader)]);
    expect(answers.map(({ status }) => status)).toEqual([201, 201]);
    const names = answers.map(({ body }) => (body as PersonDetails).name).sort();
    expect(names).toEqual(['Former member 1', 'Former member 2']);
  });
});
