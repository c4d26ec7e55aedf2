import { Router } from 'express';
import { v7 as newId } from 'uuid';
import type { PackTypeAnswer, RegisterAnswer } from '../../contract';
import type { InstrumentId, PackId, PackTypeId } from '../../core/measure';
import { craftAnswers } from '../flying';
import { placeTemperatures, rebuildPack, rulesInForce } from '../ledger';
import { Person } from '../people';
import type { Entities } from '../platform/database';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { announce } from '../platform/live';
import { always } from '../platform/shared';
import { Refused } from '../platform/problems';
import type { Rejudging } from '../rules';
import { Equipment, Instrument, PackType, Place, Recycler } from './entities';
import type { PackTypeEntity } from './entities';
import { equipmentRoutes } from './equipment';
import { placeAnswer, placeRoutes } from './places';
import { recyclerAnswer, recyclerRoutes } from './recyclers';
import { store, write } from './store';

/** The small tables that put names to things: pack types, places, instruments; and all of them in one answer. */
export function registerRoutes(api: Api, rejudge: Rejudging): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /register', always, ({ em }) => registerAnswer(em));
  packTypeRoutes(router, api, rejudge);
  placeRoutes(router, api, rejudge);
  instrumentRoutes(router, api);
  recyclerRoutes(router, api);
  equipmentRoutes(router, api);
  return router;
}

async function registerAnswer(em: Entities): Promise<RegisterAnswer> {
  const byName = { orderBy: { name: 'asc' as const } };
  const people = await em.find(Person, {}, byName);
  return {
    people: people.map(({ id, name, role }) => ({ id, name, role })),
    types: (await em.find(PackType, {}, byName)).map(packTypeAnswer),
    places: (await em.find(Place, {}, byName)).map(placeAnswer),
    placeTemperatures: await placeTemperatures(em),
    instruments: await em.find(Instrument, {}, byName),
    recyclers: (await em.find(Recycler, {}, byName)).map(recyclerAnswer),
    equipment: await em.find(Equipment, {}, byName),
    craft: await craftAnswers(em),
    rules: await rulesInForce(em),
  };
}

/** What packs are judged by; an edit of anything else changes no verdict. */
const JUDGED_BY = ['parallel', 'capacityMah', 'continuousC', 'burstC', 'chargeC', 'dutyClass'] as const;
/** So many packs are judged anew before the edit is answered; more of them afterwards, beside other work. */
const JUDGED_AT_ONCE = 20;

function packTypeRoutes(router: Router, api: Api, rejudge: Rejudging): void {
  route(router, api, 'POST /pack-types', async ({ em, body }) => {
    const type = em.create(PackType, { ...body, id: newId() as PackTypeId, version: 1 });
    await store(em);
    return packTypeAnswer(type);
  });
  route(router, api, 'PUT /pack-types/:id', async ({ em, body, params }) => {
    const { version: madeFrom, ...facts } = body;
    const type = await em.findOne(PackType, { id: idParam<PackTypeId>(params) });
    if (!type) throw new Refused('not-found');
    if (type.version !== madeFrom) throw new Refused('changed-meanwhile');
    const packs: { id: PackId }[] = await em.execute('select id from pack where type_id = ?', [type.id]);
    if (packs.length > 0) {
      // Readings already taken have this many cells and were judged by this chemistry.
      const fixed = (['chemistry', 'series'] as const).filter((field) => type[field] !== facts[field]);
      const message = 'Packs of this type have records. Make a new type instead.';
      if (fixed.length > 0) {
        throw new Refused('invalid-input', { errors: fixed.map((field) => ({ field, message })) });
      }
    }
    const isJudged = JUDGED_BY.some((field) => (type[field] ?? null) !== (facts[field] ?? null));
    em.assign(type, facts);
    await write(em);
    if (isJudged && packs.length > JUDGED_AT_ONCE) {
      await em.execute(
        'update pack_state set rules_version = 0 where pack_id in (select id from pack where type_id = ?)',
        [type.id],
      );
      rejudge.begin();
    } else if (isJudged) for (const { id } of packs) await rebuildPack(em, id);
    await announce(em, { about: 'register' });
    return packTypeAnswer(type);
  });
}

/** A pack type as the web sees it. */
function packTypeAnswer(type: PackTypeEntity): PackTypeAnswer {
  // The database leaves out what it does not hold.
  const { continuousC = null, burstC = null, chargeC = null } = type;
  const { connector = null, balancePlug = null, massG = null, price = null } = type;
  const { id, version, name, chemistry, series, parallel, capacityMah, dutyClass } = type;
  return {
    ...{ id, version, name, chemistry, series, parallel, capacityMah, continuousC, burstC, chargeC },
    ...{ dutyClass, connector, balancePlug, massG, price },
  };
}

function instrumentRoutes(router: Router, api: Api): void {
  route(router, api, 'POST /instruments', async ({ em, body }) => {
    const instrument = em.create(Instrument, { ...body, id: newId() as InstrumentId, version: 1 });
    await store(em);
    return instrument;
  });

  route(router, api, 'PUT /instruments/:id', async ({ em, body, params }) => {
    const { version: madeFrom, ...facts } = body;
    const instrument = await em.findOne(Instrument, { id: idParam<InstrumentId>(params) });
    if (!instrument) throw new Refused('not-found');
    if (instrument.version !== madeFrom) throw new Refused('changed-meanwhile');
    em.assign(instrument, facts);
    await store(em);
    return instrument;
  });
}
