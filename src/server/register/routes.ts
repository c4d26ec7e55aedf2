import { Router } from 'express';
import type { EntityClass, EntitySchema } from '@mikro-orm/postgresql';
import { v7 as newId } from 'uuid';
import { instrumentForm, packTypeForm, placeForm, version } from '../../contract';
import type { PackTypeAnswer, RegisterAnswer } from '../../contract';
import type { Action } from '../../core/lifecycle';
import type { PackTypeId } from '../../core/measure';
import { rebuildPack, rulesInForce } from '../ledger';
import { Person } from '../people/entities';
import type { Entities } from '../platform/database';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { Refused, isUniqueViolation, refusedField } from '../platform/problems';
import { Instrument, PackType, Place } from './entities';

/** The small tables that put names to things: pack types, places, instruments; and all of them in one answer. */
export function registerRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'get', '/register', { action: 'register.read' }, ({ em }) => registerAnswer(em));
  packTypeRoutes(router, api);
  namedRoutes(router, api, '/places', 'place.edit', placeForm, Place);
  namedRoutes(router, api, '/instruments', 'instrument.edit', instrumentForm, Instrument);
  return router;
}

async function registerAnswer(em: Entities): Promise<RegisterAnswer> {
  const byName = { orderBy: { name: 'asc' as const } };
  const people = await em.find(Person, {}, byName);
  return {
    people: people.map(({ id, name, role }) => ({ id, name, role })),
    types: (await em.find(PackType, {}, byName)) as PackTypeAnswer[],
    places: await em.find(Place, {}, byName),
    instruments: await em.find(Instrument, {}, byName),
    rules: await rulesInForce(em),
  };
}

function packTypeRoutes(router: Router, api: Api): void {
  route(
    router,
    api,
    'post',
    '/pack-types',
    { action: 'type.edit', body: packTypeForm },
    async ({ em, body }) => {
      const type = em.create(PackType, { ...body, id: newId() as PackTypeId, version: 1 });
      await store(em);
      return type;
    },
  );

  const edit = packTypeForm.safeExtend({ version });
  route(
    router,
    api,
    'put',
    '/pack-types/:id',
    { action: 'type.edit', body: edit },
    async ({ em, body, params }) => {
      const { version: madeFrom, ...facts } = body;
      const type = await em.findOne(PackType, { id: idParam<PackTypeId>(params) });
      if (!type) throw new Refused('not-found');
      if (type.version !== madeFrom) throw new Refused('changed-meanwhile');
      const packs: { id: never }[] = await em.execute('select id from pack where type_id = ?', [type.id]);
      if (packs.length > 0) {
        // Readings already taken have this many cells and were judged by this chemistry.
        const fixed = (['chemistry', 'series'] as const).filter((field) => type[field] !== facts[field]);
        const message = 'Packs of this type have records. Make a new type instead.';
        if (fixed.length > 0) {
          throw new Refused('invalid-input', { errors: fixed.map((field) => ({ field, message })) });
        }
      }
      em.assign(type, facts);
      await store(em);
      for (const { id } of packs) await rebuildPack(em, id);
      return type;
    },
  );
}

interface Named {
  readonly id: string;
  readonly version: number;
}

function namedRoutes(
  router: Router,
  api: Api,
  path: string,
  action: Action,
  form: typeof placeForm | typeof instrumentForm,
  Kind: EntitySchema | EntityClass<Named>,
): void {
  route(router, api, 'post', path, { action, body: form }, async ({ em, body }) => {
    const thing = em.create(Kind as EntityClass<Named>, { ...body, id: newId(), version: 1 });
    await store(em);
    return thing;
  });

  const edit = form.extend({ version });
  route(router, api, 'put', `${path}/:id`, { action, body: edit }, async ({ em, body, params }) => {
    const { version: madeFrom, ...facts } = body;
    const thing = await em.findOne(Kind as EntityClass<Named>, { id: idParam(params) });
    if (!thing) throw new Refused('not-found');
    if (thing.version !== madeFrom) throw new Refused('changed-meanwhile');
    // The form of a kind and the entity of that kind have the same fields; the two lists above say which belong together.
    em.assign(thing, facts as Partial<Named>);
    await store(em);
    return thing;
  });
}

async function store(em: Entities): Promise<void> {
  try {
    await em.flush();
  } catch (error) {
    if (isUniqueViolation(error)) throw refusedField('name', 'There is one of this name already.');
    throw error;
  }
  await announce(em, { about: 'register' });
}
