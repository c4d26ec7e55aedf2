import { Router } from 'express';
import type { Request } from 'express';
import { v7 as newId } from 'uuid';
import { z } from 'zod';
import { setupForm, signInForm } from '../../contract';
import type { PersonAnswer, SessionAnswer } from '../../contract';
import type { PersonId } from '../../core/measure';
import { clockAnswer } from '../platform/clock';
import type { Entities } from '../platform/database';
import { parsed, sendAnswer } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { readSetting } from '../platform/settings';
import { Person } from './entities';
import { passwordHash, passwordMatches } from './passwords';
import { endSession, startSession } from './sessions';
import type { Throttle } from './throttle';

const demoSignIn = z.strictObject({ personId: z.uuid() });

/** Signing in and out, the first custodian, and the one-press sign-in of the made-up register. */
export function sessionRoutes(api: Api, throttle: Throttle): Router {
  const router = Router();

  router.get('/session', async (req, res) => {
    sendAnswer(res, 200, await sessionAnswer(api, req));
  });

  router.post('/session', async (req, res) => {
    const { login, password } = parsed(signInForm, req.body);
    const address = req.ip ?? 'unknown';
    await throttle.count(address, login);
    const person = await api.database.entities().findOne(Person, { login, active: true });
    if (!(await passwordMatches(person?.passwordHash ?? null, password)) || !person)
      throw new Refused('wrong-sign-in');
    await throttle.forgive(address, login);
    await startSession(req, person.id);
    sendAnswer(res, 201, await sessionAnswer(api, req));
  });

  router.post('/session/demo', async (req, res) => {
    const { personId } = parsed(demoSignIn, req.body);
    const em = api.database.entities();
    const person = (await isDemo(em))
      ? await em.findOne(Person, { id: personId as PersonId, active: true })
      : null;
    if (!person) throw new Refused('not-found');
    await startSession(req, person.id);
    sendAnswer(res, 201, await sessionAnswer(api, req));
  });

  router.post('/setup', async (req, res) => {
    const { name, login, password } = parsed(setupForm, req.body);
    const hash = await passwordHash(password);
    const id = newId() as PersonId;
    await api.database.entities().transactional(async (em) => {
      await em.execute('lock table person in exclusive mode');
      if ((await em.count(Person)) > 0) throw new Refused('already-set-up');
      em.create(Person, { id, name, login, role: 'custodian', passwordHash: hash, active: true, version: 1 });
    });
    await startSession(req, id);
    sendAnswer(res, 201, await sessionAnswer(api, req));
  });

  router.delete('/session', async (req, res) => {
    await endSession(req);
    sendAnswer(res, 204, undefined);
  });

  return router;
}

async function sessionAnswer(api: Api, req: Request): Promise<SessionAnswer> {
  const em = api.database.entities();
  const clock = clockAnswer(api.clock);
  const person = await api.identify(req, em);
  if (person) return { ...clock, state: 'signed-in', person, demo: await isDemo(em) };
  if ((await em.count(Person)) === 0) return { ...clock, state: 'setup' };
  return { ...clock, state: 'signed-out', demoPeople: (await isDemo(em)) ? await demoPeople(em) : [] };
}

async function isDemo(em: Entities): Promise<boolean> {
  return (await readSetting<boolean>(em, 'demo')) === true;
}

async function demoPeople(em: Entities): Promise<PersonAnswer[]> {
  const people = await em.find(Person, { active: true }, { orderBy: { name: 'asc' } });
  return people.map(({ id, name, role }) => ({ id, name, role }));
}
