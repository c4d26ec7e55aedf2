import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type TestAgent from 'supertest/lib/agent';
import type { FactorsAnswer, NewCodesAnswer, PersonDetails, SessionAnswer } from '../../contract';
import { MINUTE_MS } from '../../core/measure';
import { codeNow, NAMED, SoftAuthenticator } from '../testing/authenticators';
import { openTestApp, PASSWORD, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;

beforeEach(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
});
afterEach(() => {
  jest.restoreAllMocks();
  return test.close();
});

const signIn = (login: string, code?: string, agent = test.anybody()) =>
  agent.post('/api/session').send({ login, password: PASSWORD, code });
const codeOf = (body: unknown) => (body as { type: string }).type;
const factors = async (agent: TestAgent) =>
  (await agent.get('/api/session/factors').expect(200)).body as FactorsAnswer;
const roleOf = async (agent: TestAgent) => {
  const { body } = await agent.get('/api/session').expect(200);
  const session = body as SessionAnswer;
  return session.state === 'signed-in' ? [session.person.role, session.heldBy] : session.state;
};
const askCustodians = (asked: boolean, agent = custodian) =>
  agent.put('/api/custodian-factor').send({ asked });

/** Sets a phone up, and says what it is shown and what its spare codes are. The code of the half minute before proves it. */
async function withPhone(agent: TestAgent): Promise<{ phone: NewCodesAnswer; spare: readonly string[] }> {
  const phone = (await agent.post('/api/session/codes').send({}).expect(201)).body as NewCodesAnswer;
  const code = codeNow(phone, -1);
  const { body } = await agent.post('/api/session/codes/confirmation').send({ code }).expect(201);
  return { phone, spare: (body as { spareCodes: string[] }).spareCodes };
}

/** Everybody signed in and gave their password that long ago. */
const passes = (ms: number) =>
  test.app.database
    .entities()
    .execute(
      `update user_session set sess = (sess::jsonb || jsonb_build_object('startedAt', (sess ->> 'startedAt')::float8 - ?::float8))::json`,
      [ms],
    );

describe('codes of a phone', () => {
  it('are asked for once one was given, and not while the picture is only looked at', async () => {
    const phone = (await custodian.post('/api/session/codes').send({}).expect(201)).body as NewCodesAnswer;
    expect(phone.address).toMatch(/^otpauth:\/\/totp\/Malle:custodian\?/);
    expect(phone.address).toContain(phone.secret);
    await signIn('custodian').expect(201);
    const wrong = await custodian
      .post('/api/session/codes/confirmation')
      .send({ code: '000000' })
      .expect(422);
    expect(reasons(wrong.body).code).toMatch(/not the code of now/);
    await custodian
      .post('/api/session/codes/confirmation')
      .send({ code: codeNow(phone) })
      .expect(201);
    const { body } = await signIn('custodian').expect(401);
    expect(codeOf(body)).toBe('/problems/code-needed');
    // A wrong password says nothing of codes.
    const guess = await test.anybody().post('/api/session').send({ login: 'custodian', password: 'a guess' });
    expect(codeOf(guess.body)).toBe('/problems/wrong-sign-in');
  });

  it('are made from a secret that the database does not tell; under another key a spare code lets in', async () => {
    const { phone, spare } = await withPhone(custodian);
    const em = test.app.database.entities();
    const [{ secret }]: [{ secret: string }] = await em.execute('select secret from one_time_code');
    expect(secret).toMatch(/^sealed:/);
    expect(Buffer.from(secret.slice(7), 'base64').includes(phone.secret)).toBe(false);
    // Somebody who has the database puts their own phone's secret in the place of another's.
    const pilot = await test.as('pilot');
    const own = await withPhone(pilot);
    const swap =
      'update one_time_code set secret = (select secret from one_time_code where person_id = ?), last_step = 0 where person_id = ?';
    await em.execute(swap, [test.people.pilot, test.people.custodian]);
    const swapped = await signIn('custodian', codeNow(own.phone)).expect(422);
    expect(reasons(swapped.body).code).toMatch(/not the one this phone was set up with/);
    await em.execute('update one_time_code set secret = ? where person_id = ?', [
      secret,
      test.people.custodian,
    ]);
    await signIn('custodian', codeNow(phone)).expect(201);

    const folder = mkdtempSync(join(tmpdir(), 'malle-key-'));
    const other = await openTestApp({
      url: test.url,
      withPeople: false,
      signingKey: join(folder, 'other.key'),
    });
    const there = (code: string) =>
      other.anybody().post('/api/session').send({ login: 'custodian', password: PASSWORD, code });
    const unreadable = await there(codeNow(phone, 1)).expect(422);
    expect(reasons(unreadable.body).code).toMatch(/spare code/);
    await there(spare[0]!).expect(201);
    await other.close();
    rmSync(folder, { recursive: true });
  });

  it('count once each, a half minute early or late, and no earlier one after a later', async () => {
    // All within one half minute, however slow the machine is.
    jest.spyOn(Date, 'now').mockReturnValue(Date.now());
    const { phone } = await withPhone(custodian);
    await signIn('custodian', codeNow(phone, -1)).expect(422);
    await signIn('custodian', codeNow(phone, 3)).expect(422);
    // As a phone shows it, with a gap in the middle.
    await signIn('custodian', codeNow(phone, 1).replace(/^(\d{3})/, '$1 ')).expect(201);
    const again = await signIn('custodian', codeNow(phone, 1)).expect(422);
    expect(reasons(again.body).code).toMatch(/used already/);
    await signIn('custodian', codeNow(phone)).expect(422);
  });

  it('is one of two who send the same code at once', async () => {
    const { phone } = await withPhone(custodian);
    const both = await Promise.all([1, 2].map(() => signIn('custodian', codeNow(phone))));
    expect(both.map(({ status }) => status).sort()).toEqual([201, 422]);
  });

  it('cannot be guessed at by whoever knows the password', async () => {
    await withPhone(custodian);
    const answers: number[] = [];
    for (let i = 0; i < 12; i += 1) {
      // Asking without one in between takes no count back.
      const code = i % 3 === 0 ? undefined : `00000${i % 10}`;
      answers.push((await signIn('custodian', code)).status);
    }
    expect(answers.slice(8)).toEqual(Array(4).fill(429));
  });

  it('have spare ones, each good once, however they are typed', async () => {
    const { spare } = await withPhone(custodian);
    expect(new Set(spare).size).toBe(10);
    await signIn('custodian', spare[0]!.toUpperCase().replace('-', ' ')).expect(201);
    await signIn('custodian', spare[0]).expect(422);
    await signIn('custodian', spare[1]).expect(201);
    expect((await factors(custodian)).spareCodes).toBe(8);
  });

  it('are not replaced by another phone’s before they are taken away', async () => {
    const { phone } = await withPhone(custodian);
    await custodian.post('/api/session/codes').send({}).expect(403);
    await custodian.delete('/api/session/codes').expect(204);
    await signIn('custodian').expect(201);
    await withPhone(custodian);
    await signIn('custodian', codeNow(phone)).expect(422);
  });

  it('are still asked for after a link: whoever found the link has not found the phone', async () => {
    const pilot = await test.as('pilot');
    const { phone } = await withPhone(pilot);
    const { body } = await custodian
      .post(`/api/people/${test.people.pilot}/sign-in-link`)
      .send({})
      .expect(201);
    const finder = test.anybody();
    const password = 'estuary mud at low tide';
    const { secret } = body as { secret: string };
    await finder.post('/api/session/link/password').send({ secret, password }).expect(201);
    expect(await roleOf(finder)).toBe('signed-out');
    await finder.post('/api/session').send({ login: 'pilot', password }).expect(401);
    await finder
      .post('/api/session')
      .send({ login: 'pilot', password, code: codeNow(phone) })
      .expect(201);
  });

  it('are taken away by a custodian for a lost phone, which ends the sessions and is in the log', async () => {
    const pilot = await test.as('pilot');
    await withPhone(pilot);
    const listed = async () =>
      ((await custodian.get('/api/people').expect(200)).body as PersonDetails[]).find(
        ({ id }) => id === test.people.pilot,
      )!.hasFactor;
    expect(await listed()).toBe(true);
    await pilot.delete(`/api/people/${test.people.custodian}/factors`).expect(403);
    await custodian.delete(`/api/people/${test.people.pilot}/factors`).expect(204);
    expect(await listed()).toBe(false);
    expect(await roleOf(pilot)).toBe('signed-out');
    await signIn('pilot').expect(201);
    const { text } = await custodian.get('/api/log').expect(200);
    expect(text).toMatch(/set-up-factor/);
    expect(text).toMatch(/took-factor/);
  });

  it('want the password again when it was given a while ago', async () => {
    await passes(16 * MINUTE_MS);
    const { body } = await custodian.post('/api/session/codes').send({}).expect(403);
    expect(codeOf(body)).toBe('/problems/confirm-first');
  });

  it('are secret: neither the file of one’s data nor the log tells of them', async () => {
    const { phone, spare } = await withPhone(custodian);
    const { text: own } = await custodian.get('/api/session/data').expect(200);
    const { text: log } = await custodian.get('/api/log').expect(200);
    for (const text of [own, log]) {
      expect(text).not.toContain(phone.secret);
      expect(text).not.toContain(spare[0]);
    }
  });
});

describe('a second factor of custodians', () => {
  it('is asked for by one who has it, and holds back those who have not', async () => {
    const refused = await askCustodians(true).expect(422);
    expect(reasons(refused.body).asked).toMatch(/your own/);
    const { phone } = await withPhone(custodian);
    await askCustodians(true).expect(204);
    expect(await roleOf(custodian)).toEqual(['custodian', null]);

    await custodian
      .post('/api/people')
      .send({ name: 'Second', login: 'second', role: 'custodian', active: true, password: PASSWORD })
      .expect(201);
    const second = test.anybody();
    const { body } = await signIn('second', undefined, second).expect(201);
    expect(body).toMatchObject({ person: { role: 'deputy' }, heldBy: 'second-factor' });
    await second.get('/api/people').expect(403);
    await askCustodians(false, second).expect(403);
    await second.get('/api/today').expect(200);
    // As soon as there is one, without signing in anew.
    await withPhone(second);
    expect(await roleOf(second)).toEqual(['custodian', null]);
    await second.get('/api/people').expect(200);
    // And a deputy again when it is gone.
    await second.delete('/api/session/codes').expect(204);
    expect(await roleOf(second)).toEqual(['deputy', 'second-factor']);

    await signIn('custodian', codeNow(phone)).expect(201);
    await askCustodians(false).expect(204);
    expect(await roleOf(second)).toEqual(['custodian', null]);
    const { text } = await custodian.get('/api/log').expect(200);
    expect(text.match(/second factor of custodians/g)).toHaveLength(2);
  });
});

describe('a passkey', () => {
  const kept = async (agent: TestAgent, authenticator = new SoftAuthenticator()) => {
    const passkey = await authenticator.keeps(agent);
    await agent
      .post('/api/session/passkeys')
      .set('host', NAMED)
      .send({ name: 'The blue phone', passkey })
      .expect(201);
    return authenticator;
  };
  const comesIn = (passkey: object, agent = test.anybody(), host = NAMED) =>
    agent.post('/api/session/passkey').set('host', host).send({ passkey });

  it('lets its owner in without a name, a password or a code', async () => {
    const phone = await kept(custodian);
    await withPhone(custodian);
    const agent = test.anybody();
    const { body } = await comesIn(await phone.signs(agent), agent).expect(201);
    expect(body).toMatchObject({ state: 'signed-in', person: { id: test.people.custodian } });
    const [passkey] = (await factors(agent)).passkeys;
    expect(passkey).toMatchObject({ id: phone.id, name: 'The blue phone', usedAt: expect.any(Number) });
    await askCustodians(true).expect(204);
  });

  it('signs a challenge once', async () => {
    const phone = await kept(custodian);
    const signed = await phone.signs(test.anybody());
    await comesIn(signed).expect(201);
    const { body } = await comesIn(signed).expect(422);
    expect(codeOf(body)).toBe('/problems/wrong-passkey');
  });

  it.each([
    [
      'a challenge that nobody gave',
      (phone: SoftAuthenticator) => Promise.resolve(phone.signed({ challenge: 'bm9uZQ' })),
    ],
    [
      'another register’s address',
      async (phone: SoftAuthenticator) => {
        const { body } = await test.anybody().post('/api/session/passkey/challenge').send({}).expect(201);
        return phone.signed(body as { challenge: string }, 'another.test');
      },
    ],
    [
      'a key that was taken away',
      async (phone: SoftAuthenticator) => {
        await custodian.delete(`/api/session/passkeys/${phone.id}`).expect(204);
        return phone.signs(test.anybody());
      },
    ],
    ['a key of nobody', () => new SoftAuthenticator().signs(test.anybody())],
    [
      'another’s signature',
      async (phone: SoftAuthenticator) => ({
        ...(await new SoftAuthenticator().signs(test.anybody())),
        id: phone.id,
        rawId: phone.id,
      }),
    ],
    ['nothing of the kind', () => Promise.resolve({ id: 'x', response: { clientDataJSON: 'e30' } })],
  ])('does not let in by %s', async (_, made) => {
    const phone = await kept(custodian);
    const agent = test.anybody();
    await comesIn(await made(phone), agent).expect(422);
    expect(await roleOf(agent)).toBe('signed-out');
  });

  it('is not kept for somebody else’s challenge, nor under another’s id', async () => {
    const pilot = await test.as('pilot');
    const authenticator = new SoftAuthenticator();
    const passkey = await authenticator.keeps(pilot);
    await custodian.post('/api/session/passkeys').set('host', NAMED).send({ name: 'x', passkey }).expect(422);
    expect((await factors(custodian)).passkeys).toEqual([]);
    const phone = await kept(pilot);
    await custodian.delete(`/api/session/passkeys/${phone.id}`).expect(404);
  });

  it('lets nobody in whose account is ended, and ends with a link for a lost phone', async () => {
    const pilot = await test.as('pilot');
    const phone = await kept(pilot);
    await custodian.post(`/api/people/${test.people.pilot}/sign-in-link`).send({}).expect(201);
    await comesIn(await phone.signs(test.anybody())).expect(422);
  });
});
