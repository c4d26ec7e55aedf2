import { Router } from 'express';
import { v7 as newId } from 'uuid';
import { PSEUDONYM } from '../../contract';
import type { PersonDetails } from '../../contract';
import type { PersonId } from '../../core/measure';
import type { Entities } from '../platform/database';
import { note } from '../log';
import { doerOf, idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { writeSetting } from '../platform/settings';
import { Person } from './entities';
import type { PersonEntity } from './entities';
import { endFactors, HAS_FACTOR, hasFactor } from './factors';
import { chosenPassword } from './passwords';
import { endSessionsOf } from './sessions';
import { makeSignInLink } from './signInLinks';

/** The people of the register; the custodian's alone to change. */
export function peopleRoutes(api: Api): Router {
  const router = Router();

  route(router, api, 'GET /people', async ({ em }) => {
    const people = await em.find(Person, {}, { orderBy: { name: 'asc' } });
    const withFactor: { id: PersonId }[] = await em.execute(`select p.id from person p where ${HAS_FACTOR}`);
    const has = new Set(withFactor.map(({ id }) => id));
    return people.map((person) => details(person, has.has(person.id)));
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
    return details(person, false);
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
      return details(person, await hasFactor(em, person.id));
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

  route(router, api, 'POST /people/:id/pseudonym', async ({ em: own, params, body: { version: madeFrom } }) =>
    own.transactional(async (em) => {
      const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
      if (!person) throw new Refused('not-found');
      if (person.version !== madeFrom) throw new Refused('changed-meanwhile');
      if (person.active)
        throw new Refused('not-allowed', { detail: 'This account is active. End it first.' });
      if (!person.login.startsWith(PSEUDONYM)) await takeOnPseudonym(em, person);
      return details(person, false);
    }),
  );

  route(router, api, 'DELETE /people/:id/sessions', async ({ em, params }) => {
    const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
    if (!person) throw new Refused('not-found');
    await endSessionsOf(em, person.id);
  });

  route(router, api, 'DELETE /people/:id/factors', async ({ em, params }) => {
    const person = await em.findOne(Person, { id: idParam<PersonId>(params) });
    if (!person) throw new Refused('not-found');
    await endFactors(em, person.id);
    await endSessionsOf(em, person.id);
    await announce(em, { about: 'register' });
  });

  route(router, api, 'PUT /custodian-factor', async ({ em, req, person, now, body: { asked } }) => {
    if (asked && !(await hasFactor(em, person.id)))
      throw refusedField('asked', 'Set up your own second factor first, or nobody could change this back.');
    await em.transactional(async (tx) => {
      await writeSetting(tx, 'custodian-factor', asked);
      await note(tx, {
        ...{ ...doerOf({ person, now, req }), did: 'changed', subject: 'register', subjectId: null },
        ...{ name: null, changes: { 'second factor of custodians': [!asked, asked] } },
      });
    });
  });

  return router;
}

/** A name and a sign-in name that say nothing, and nothing left to come in with. */
async function takeOnPseudonym(em: Entities, person: PersonEntity): Promise<void> {
  // Two at once would take the same number.
  await em.execute(`select pg_advisory_xact_lock(hashtext(?))`, [PSEUDONYM]);
  const taken: { login: string }[] = await em.execute(`select login from person where login like ?`, [
    `${PSEUDONYM}%`,
  ]);
  const numbers = taken.map(({ login }) => Number(login.slice(PSEUDONYM.length)) || 0);
  const number = Math.max(0, ...numbers) + 1;
  em.assign(person, {
    name: `Former member ${number}`,
    login: `${PSEUDONYM}${number}`,
    passwordHash: null,
  });
  await store(em);
  await endFactors(em, person.id);
  await em.execute('delete from bench_pass where person_id = ?', [person.id]);
  await em.execute('delete from sign_in_link where person_id = ?', [person.id]);
  await em.execute('update person set calendar_key = null where id = ?', [person.id]);
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

function details(person: PersonEntity, hasFactor: boolean): PersonDetails {
  const { id, name, role, login, active, passwordHash, version: current } = person;
  const has = { hasPassword: Boolean(passwordHash), hasFactor };
  return { id, name, role, login, active, ...has, version: current };
}
