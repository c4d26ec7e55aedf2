import { Router } from 'express';
import type { Request } from 'express';
import { v7 as newId } from 'uuid';
import type { PersonAnswer, SessionAnswer } from '../../contract';
import type { PersonId } from '../../core/measure';
import { clockAnswer } from '../platform/clock';
import type { Entities } from '../platform/database';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { readSetting } from '../platform/settings';
import { Person } from './entities';
import { passwordHash, passwordMatches } from './passwords';
import { endSession, startSession } from './sessions';
import type { Throttle } from './throttle';

/** Signing in and out, the first custodian, and the one-press sign-in of the made-up register. */
export function sessionRoutes(api: Api, throttle: Throttle): Router {
  const router = Router();

  route(router, api, 'GET /session', ({ req }) => sessionAnswer(api, req));

  route(router, api, 'POST /session', async ({ req, em, body: { login, password } }) => {
    const address = req.ip ?? 'unknown';
    await throttle.count(address, login);
    const person = await em.findOne(Person, { login, active: true });
    if (!(await passwordMatches(person?.passwordHash ?? null, password)) || !person)
      throw new Refused('wrong-sign-in');
    await throttle.forgive(address, login);
    await startSession(req, person.id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /session/demo', async ({ req, em, body: { personId } }) => {
    const person = (await isDemo(em))
      ? await em.findOne(Person, { id: personId as PersonId, active: true })
      : null;
    if (!person) throw new Refused('not-found');
    await startSession(req, person.id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /setup', async ({ req, em: own, body: { name, login, password } }) => {
    const hash = await passwordHash(password);
    const id = newId() as PersonId;
    await own.transactional(async (em) => {
      await em.execute('lock table person in exclusive mode');
      if ((await em.count(Person)) > 0) throw new Refused('already-set-up');
      em.create(Person, { id, name, login, role: 'custodian', passwordHash: hash, active: true, version: 1 });
    });
    await startSession(req, id);
    return sessionAnswer(api, req);
  });

  route(router, api, 'POST /setup/claim', async ({ req, em: own, body: { personId, password } }) => {
    const hash = await passwordHash(password);
    await own.transactional(async (em) => {
      await em.execute('lock table person in exclusive mode');
      const person = (await custodiansToBe(em)).find(({ id }) => id === personId);
      if (!person) throw new Refused('already-set-up');
      await em.execute('update person set password_hash = ? where id = ?', [hash, person.id]);
    });
    await startSession(req, personId);
    return sessionAnswer(api, req);
  });

  route(router, api, 'DELETE /session', ({ req }) => endSession(req));

  return router;
}

async function sessionAnswer(api: Api, req: Request): Promise<SessionAnswer> {
  const em = api.database.entities();
  const clock = clockAnswer(api.clock);
  const person = await api.identify(req, em, api.clock.now());
  if (person) return { ...clock, state: 'signed-in', person, demo: await isDemo(em) };
  if ((await em.count(Person)) === 0) return { ...clock, state: 'setup', custodians: [] };
  if (await isDemo(em)) return { ...clock, state: 'signed-out', demoPeople: await demoPeople(em) };
  const custodians = await custodiansToBe(em);
  return custodians.length > 0
    ? { ...clock, state: 'setup', custodians }
    : { ...clock, state: 'signed-out', demoPeople: [] };
}

async function isDemo(em: Entities): Promise<boolean> {
  return (await readSetting<boolean>(em, 'demo')) === true;
}

/** Where nobody has a password, the custodians who may give the first; nobody of a made-up register, and none elsewhere. */
async function custodiansToBe(em: Entities): Promise<PersonAnswer[]> {
  if ((await isDemo(em)) || (await em.count(Person, { passwordHash: { $ne: null } })) > 0) return [];
  const people = await em.find(Person, { active: true, role: 'custodian' }, { orderBy: { name: 'asc' } });
  return people.map(({ id, name, role }) => ({ id, name, role }));
}

async function demoPeople(em: Entities): Promise<PersonAnswer[]> {
  const people = await em.find(Person, { active: true }, { orderBy: { name: 'asc' } });
  return people.map(({ id, name, role }) => ({ id, name, role }));
}
