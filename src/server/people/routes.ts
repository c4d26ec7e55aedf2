import { Router } from 'express';
import { v7 as newId } from 'uuid';
import type { PersonDetails } from '../../contract';
import type { PersonId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { Person } from './entities';
import type { PersonEntity } from './entities';
import { chosenPassword } from './passwords';
import { endSessionsOf } from './sessions';
import { makeSignInLink } from './signInLinks';

/** The people of the register; the custodian's alone to change. */
export function peopleRoutes(api: Api): Router {
  const router = Router();

  route(router, api, 'GET /people', async ({ em }) => {
    const people = await em.find(Person, {}, { orderBy: { name: 'asc' } });
    return people.map(details);
  });

  route(router, api, 'POST /people', async ({ em, body }) => {
    const { password, ...facts } = body;
    const person = em.create(Person, {
      ...facts,
      id: newId() as PersonId,
      passwordHash: password ? await chosenPassword(password, facts) : null,
      version: 1,
    });
    await store(em);
    return details(person);
  });

  route(router, api, 'PUT /people/:id', async ({ em: own, body, params }) => {
    const { password, version: madeFrom, ...facts } = body;
    const hash = password ? await chosenPassword(password, facts) : null;
    return own.transactional(async (em) => {
      // Two custodians who demote each other at once would leave none: they are counted while nobody else can be changed.
      await em.execute(`select id from person where role = 'custodian' order by id for update`);
      const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
      if (!person) throw new Refused('not-found');
      if (person.version !== madeFrom) throw new Refused('changed-meanwhile');
      const demoted = person.role === 'custodian' && (facts.role !== 'custodian' || !facts.active);
      if (demoted && person.active && (await em.count(Person, { role: 'custodian', active: true })) < 2) {
        throw refusedField('role', 'A register needs at least one active custodian.');
      }
      const isOut = person.active && !facts.active;
      em.assign(person, { ...facts, ...(hash ? { passwordHash: hash } : {}) });
      await store(em);
      if (isOut || hash) await endSessionsOf(em, person.id);
      return details(person);
    });
  });

  route(router, api, 'POST /people/:id/sign-in-link', async ({ em, params, person: by, now }) => {
    const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
    if (!person) throw new Refused('not-found');
    if (person.id === by.id)
      throw new Refused('not-allowed', {
        detail: 'A link would end your own password and this session. Change your password on your own page.',
      });
    if (!person.active)
      throw new Refused('not-allowed', { detail: 'This account is ended. Let the person in again first.' });
    return makeSignInLink(em, person.id, by.id, now);
  });

  route(router, api, 'DELETE /people/:id/sessions', async ({ em, params }) => {
    const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
    if (!person) throw new Refused('not-found');
    await endSessionsOf(em, person.id);
  });

  return router;
}

async function store(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('login', 'Somebody signs in with this name already.');
    throw error;
  }
  await announce(em, { about: 'register' });
}

function details(person: PersonEntity): PersonDetails {
  const { id, name, role, login, active, passwordHash, version: current } = person;
  return { id, name, role, login, active, hasPassword: Boolean(passwordHash), version: current };
}
