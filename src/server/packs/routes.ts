import { Router } from 'express';
import type { PackId } from '../../core/measure';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { always, aSecond } from '../platform/shared';
import { receiveDelivery } from './deliveries';
import { histories } from './histories';
import { offlinePacks } from './offlinePacks';
import { laterRows, packRowsAsJson, untilNextLapse } from './rows';
import { editPack, packByTag, packDetails, receive } from './service';

/** The packs: the list, one in full, receiving and editing. */
export function packRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /packs', untilNextLapse, ({ em, query, now }) =>
    packRowsAsJson(em, now, (query.ids ?? null) as PackId[] | null),
  );
  route(router, api, 'GET /histories', ({ em, query, now, inTurn }) => {
    const { after, ids, packed, share, shares } = query;
    const asked = { after: (after ?? null) as PackId | null, named: (ids ?? null) as PackId[] | null };
    return inTurn(() => histories(em, { ...asked, packed: packed === 'yes', share, shares }, now));
  });
  route(router, api, 'GET /offline-packs', ({ em, query, inTurn }) =>
    inTurn(() => offlinePacks(em, query.ids as PackId[])),
  );
  sharedRoute(router, api, 'GET /offline-rows', aSecond, ({ em, query, now }) =>
    laterRows(em, now, (query.ids ?? null) as PackId[] | null),
  );
  route(router, api, 'GET /packs/by-tag/:tag', ({ em, params }) => packByTag(em, params.tag ?? ''));
  sharedRoute(router, api, 'GET /packs/:id', always, ({ em, params }) =>
    packDetails(em, idParam<PackId>(params)),
  );
  route(router, api, 'POST /packs', async ({ em, body, person, now }) => {
    await receive(em, body, person, now);
    return packDetails(em, body.id);
  });
  route(router, api, 'POST /deliveries', ({ em, body, person, now }) =>
    receiveDelivery(em, body, person, now),
  );
  route(router, api, 'PUT /packs/:id', ({ em, body, params, now }) => {
    const { version: madeFrom, ...form } = body;
    return editPack(em, idParam<PackId>(params), form, madeFrom, now);
  });
  return router;
}
