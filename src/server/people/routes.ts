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
import { passwordHash } from './passwords';

/** The people of the register; the custodian's alone to change. */
export function peopleRoutes(api: Api): Router {
  const router = Router();

  route(router, api, 'GET /people', async ({ em }) => {
    const people = await em.find(Person, {}, { orderBy: { name: 'asc' } });
    return people.map(details);
  });

  route(router, api, 'POST /people', async ({ em, body }) => {
    const { password, ...facts } = body;
    if (!password) throw refusedField('password', 'Give the first password.');
    const person = em.create(Person, {
      ...facts,
      id: newId() as PersonId,
      passwordHash: await passwordHash(password),
      version: 1,
    });
    await store(em);
    return details(person);
  });

  route(router, api, 'PUT /people/:id', async ({ em, body, params }) => {
    const { password, version: madeFrom, ...facts } = body;
    const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
    if (!person) throw new Refused('not-found');
    if (person.version !== madeFrom) throw new Refused('changed-meanwhile');
    const demoted = person.role === 'custodian' && (facts.role !== 'custodian' || !facts.active);
    if (demoted && (await em.count(Person, { role: 'custodian', active: true })) < 2) {
      throw refusedField('role', 'A register needs at least one active custodian.');
    }
    em.assign(person, { ...facts, ...(password ? { passwordHash: await passwordHash(password) } : {}) });
    await store(em);
    return details(person);
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
  const { id, name, role, login, active, version: current } = person;
  return { id, name, role, login, active, version: current };
}
