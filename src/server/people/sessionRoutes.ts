import { Router } from 'express';
import type { Request } from 'express';
import { v7 as newId } from 'uuid';
import type { LogDeed, LogSubject, PersonAnswer, SessionAnswer } from '../../contract';
import type { Instant, PersonId } from '../../core/measure';
import { note } from '../log';
import { clockAnswer } from '../platform/clock';
import type { Entities } from '../platform/database';
import { file } from '../platform/file';
import { doerOf, route } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { Refused, refusedField } from '../platform/problems';
import { readSetting } from '../platform/settings';
import { codeAnswers } from './codes';
import { Person } from './entities';
import { ownData } from './ownData';
import { challengeToComeIn, personByPasskey } from './passkeys';
import { chosenPassword, passwordMatches } from './passwords';
import { deviceName, endSession, endSessionsOf, endSignIn, signInsOf, startSession } from './sessions';
import { benchOf, peopleWithPin, personByBadge, personByPin } from './sharedBench';
import type { Bench } from './sharedBench';
import { acceptLink, invitedBy } from './signInLinks';
import type { Throttle } from './throttle';

/** Why a code lets nobody in. */
const CODE_REFUSED = {
  wrong: 'This code is not right, or was used already. Type the one of now.',
  unreadable:
    'The register’s key is not the one this phone was set up with. Type a spare code, or have a custodian take the phone’s codes away.',
} as const;

/** Signing in and out, the first custodian, and the one-press sign-in of the made-up register. */
export function sessionRoutes(api: Api, throttle: Throttle): Router {
  const router = Router();
  /** The person a session is of, if this is their password; tries are counted as for signing in. */
  const proven = async (req: Request, em: Entities, id: PersonId, password: string, field: string) => {
    if (!req.session.personId) throw new Refused('not-allowed', { detail: 'A key has no password.' });
    const own = await em.findOneOrFail(Person, { id });
    const address = req.ip ?? 'unknown';
    await throttle.count(address, own.login);
    if (!(await passwordMatches(own.passwordHash ?? null, password)))
      throw refusedField(field, 'This is not the password you have now.');
    await throttle.forgive(address, own.login);
    return own;
  };

  /** Whose PIN it is; guesses are counted as those at a password are. */
  const byPin = async (req: Request, em: Entities, id: PersonId, pin: string) => {
    const [address, whose] = [req.ip ?? 'unknown', `pin of ${id}`];
    await throttle.count(address, whose);
    const person = await personByPin(em, id, pin);
    if (!person) throw refusedField('pin', 'This is not the PIN.');
    await throttle.forgive(address, whose);
    return person;
  };
  /** Whose badge it is. Many a scan is a tag that is not known yet: that must shut nobody out. */
  const byBadge = async (em: Entities, bench: Bench, badge: string) => {
    await throttle.countBadge(bench.id);
    const person = await personByBadge(em, badge);
    if (!person) throw refusedField('badge', 'Nobody has this badge.');
    await throttle.forgiveBadge(bench.id);
    return person;
  };

  route(router, api, 'GET /session', ({ req }) => sessionAnswer(api, req));

  route(router, api, 'POST /session', async ({ req, em, body: { login, password, code } }) => {
    const address = req.ip ?? 'unknown';
    await throttle.count(address, login);
    const person = await em.findOne(Person, { login, active: true });
    if (!(await passwordMatches(person?.passwordHash ?? null, password)) || !person) {
      // What was typed may be a password in the wrong field: only a name that is known is written down.
      await told(em, req, api.clock.now(), 'was-refused', person ?? null, null);
      throw new Refused('wrong-sign-in');
    }
    const answer = await codeAnswers(em, api.signer, person, code ?? '');
    if (answer === 'missing') {
      await throttle.halfForgive(address, login);
      throw new Refused('code-needed');
    }
    if (answer === 'wrong' || answer === 'unreadable') {
      await told(em, req, api.clock.now(), 'was-refused', person, null);
      throw refusedField('code', CODE_REFUSED[answer]);
    }
    await throttle.forgive(address, login);
    await startSession(req, person.id);
    await told(em, req, api.clock.now(), 'signed-in', person, person.id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /session/passkey/challenge', ({ req, em }) => challengeToComeIn(em, req));

  route(router, api, 'POST /session/passkey', async ({ req, em, body, now }) => {
    const id = await personByPasskey(em, req, body.passkey, now);
    const person = await em.findOne(Person, { id, active: true });
    if (!person) throw new Refused('wrong-passkey', { detail: 'This account is ended.' });
    await startSession(req, person.id);
    await told(em, req, now, 'signed-in', person, person.id, 'session', 'a passkey');
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /session/bench', async ({ req, em, body, now }) => {
    const bench = await benchOf(req, em);
    if (!bench)
      throw new Refused('not-allowed', {
        detail: 'This browser is no shared bench. Sign in by your name and password.',
      });
    const person =
      'badge' in body ? await byBadge(em, bench, body.badge) : await byPin(req, em, body.personId, body.pin);
    const { personId: before } = req.session;
    await startSession(req, person.id, bench.id);
    if (before) await announce(em, { about: 'access', personId: before });
    await told(em, req, now, 'signed-in', person, person.id, 'session', `the shared bench ${bench.name}`);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /session/demo', async ({ req, em, body: { personId } }) => {
    const person = (await isDemo(em))
      ? await em.findOne(Person, { id: personId as PersonId, active: true })
      : null;
    if (!person) throw new Refused('not-found');
    await startSession(req, person.id);
    await told(em, req, api.clock.now(), 'signed-in', person, person.id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /setup', async ({ req, em: own, body: { name, login, password } }) => {
    // Hashing is work, and anybody may ask: a register that has its people answers before it begins.
    if ((await own.count(Person)) > 0) throw new Refused('already-set-up');
    const hash = await chosenPassword(password, { name, login });
    const id = newId() as PersonId;
    await own.transactional(async (em) => {
      await em.execute('lock table person in exclusive mode');
      if ((await em.count(Person)) > 0) throw new Refused('already-set-up');
      em.create(Person, { id, name, login, role: 'custodian', passwordHash: hash, active: true, version: 1 });
      await em.flush();
      await told(em, req, api.clock.now(), 'opened', { id, name }, id, 'register');
    });
    await startSession(req, id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /setup/claim', async ({ req, em: own, body: { personId, password } }) => {
    const claimed = (await custodiansToBe(own)).find(({ id }) => id === personId);
    if (!claimed) throw new Refused('already-set-up');
    const hash = await chosenPassword(password, { name: claimed.name, login: '' });
    await own.transactional(async (em) => {
      await em.execute('lock table person in exclusive mode');
      const person = (await custodiansToBe(em)).find(({ id }) => id === personId);
      if (!person) throw new Refused('already-set-up');
      await em.execute('update person set password_hash = ? where id = ?', [hash, person.id]);
      await told(em, req, api.clock.now(), 'opened', person, person.id, 'register');
    });
    await startSession(req, personId);
    return sessionAnswer(api, req);
  });

  route(router, api, 'DELETE /session', async ({ req, em }) => {
    const { personId } = req.session;
    await endSession(req);
    if (personId) await announce(em, { about: 'access', personId });
  });

  route(router, api, 'POST /session/link', async ({ em, body: { secret }, now }) => {
    const { name, login } = await invitedBy(em, secret, now);
    return { name, login };
  });

  route(router, api, 'POST /session/link/password', async ({ req, em, body, now }) => {
    const person = await acceptLink(em, body.secret, body.password, now);
    await told(em, req, now, 'chose-password', person, person.id, 'person');
    // Whoever found the link has not found the phone: where codes are asked for, one is given at the sign-in.
    if ((await codeAnswers(em, api.signer, person, '')) === 'not-asked') await startSession(req, person.id);
    return sessionAnswer(api, req);
  });

  route(
    router,
    api,
    'PUT /session/password',
    async ({ req, em, person, now, body: { current, password } }) => {
      const own = await proven(req, em, person.id, current, 'current');
      const hash = await chosenPassword(password, own);
      await em.transactional(async (tx) => {
        await tx.execute('update person set password_hash = ?, version = version + 1 where id = ?', [
          hash,
          own.id,
        ]);
        await endSessionsOf(tx, own.id);
        await told(tx, req, now, 'changed-password', own, own.id, 'person');
      });
      await startSession(req, own.id);
    },
  );

  route(router, api, 'POST /session/confirmation', async ({ req, em, person, body }) => {
    await proven(req, em, person.id, body.password, 'password');
    req.session.confirmedAt = Date.now();
  });

  route(router, api, 'GET /session/data', async ({ em, req, now, person }) => {
    const by = { ...doerOf({ person, now, req }), subjectId: null, changes: {} };
    await note(em, { ...by, did: 'exported', subject: 'export', name: 'own data' });
    return file('own-data.json', await ownData(em, person.id));
  });

  route(router, api, 'GET /sessions', ({ req, em, person }) => signInsOf(em, person.id, req.sessionID));

  route(router, api, 'DELETE /sessions/:id', async ({ em, person, params }) => {
    if (!(await endSignIn(em, person.id, params.id ?? ''))) throw new Refused('not-found');
  });

  return router;
}

async function sessionAnswer(api: Api, req: Request): Promise<SessionAnswer> {
  const em = api.database.entities();
  const bench = await benchOf(req, em);
  const here = {
    ...clockAnswer(api.clock),
    epoch: (await readSetting<string>(em, 'epoch'))!,
    bench: bench && { ...bench, people: await peopleWithPin(em) },
  };
  const asking = await api.identify(req, em, api.clock.now());
  if (asking) {
    const { heldBy = null, ...person } = asking;
    return { ...here, state: 'signed-in', person, heldBy, demo: await isDemo(em) };
  }
  if ((await em.count(Person)) === 0) return { ...here, state: 'setup', custodians: [] };
  if (await isDemo(em)) return { ...here, state: 'signed-out', demoPeople: await demoPeople(em) };
  const custodians = await custodiansToBe(em);
  return custodians.length > 0
    ? { ...here, state: 'setup', custodians }
    : { ...here, state: 'signed-out', demoPeople: [] };
}

/** Writes into the register's log what somebody did to get in, from which browser, and by what where it was no password. */
async function told(
  em: Entities,
  req: Request,
  at: Instant,
  did: LogDeed,
  whose: { readonly id: PersonId; readonly name: string } | null,
  by: PersonId | null,
  subject: LogSubject = 'session',
  means: string | null = null,
): Promise<void> {
  await note(em, {
    ...{ by, at, through: null, did, subject, subjectId: whose?.id ?? null, name: whose?.name ?? null },
    changes: {
      device: [null, deviceName(req.get('user-agent') ?? '')],
      ...(means === null ? {} : { by: [null, means] }),
    },
  });
}

async function isDemo(em: Entities): Promise<boolean> {
  return (await readSetting<boolean>(em, 'demo')) === true;
}

/**
 * Where nobody has a password, the custodians who may give the first; nobody of a made-up register, and none elsewhere. A register in which
 * a link waits for somebody was in use before: whoever has the link comes in, and no visitor.
 */
async function custodiansToBe(em: Entities): Promise<PersonAnswer[]> {
  if ((await isDemo(em)) || (await em.count(Person, { passwordHash: { $ne: null } })) > 0) return [];
  const [{ waits }]: [{ waits: boolean }] = await em.execute(
    'select exists (select from sign_in_link) as waits',
  );
  if (waits) return [];
  const people = await em.find(Person, { active: true, role: 'custodian' }, { orderBy: { name: 'asc' } });
  return people.map(({ id, name, role }) => ({ id, name, role }));
}

async function demoPeople(em: Entities): Promise<PersonAnswer[]> {
  const people = await em.find(Person, { active: true }, { orderBy: { name: 'asc' } });
  return people.map(({ id, name, role }) => ({ id, name, role }));
}
