import { Router } from 'express';
import { z } from 'zod';
import { deliveryForm, packForm, receivePack, version } from '../../contract';
import type { PackId } from '../../core/measure';
import { idParam, parsed, route } from '../platform/http';
import type { Api } from '../platform/http';
import { receiveDelivery } from './deliveries';
import { histories, historiesOf } from './histories';
import { packRows } from './rows';
import { editPack, packByTag, packDetails, receive } from './service';

/** More rows at a time are fetched as the whole list. */
const idList = z
  .string()
  .transform((value) => value.split(','))
  .pipe(z.array(z.uuid()).max(200))
  .optional();

/** The packs: the list, one in full, receiving and editing. */
export function packRoutes(api: Api): Router {
  const router = Router();
  const reads = { action: 'register.read' } as const;

  route(router, api, 'get', '/packs', reads, ({ em, query, now }) => {
    const ids = parsed(z.object({ ids: idList }), query).ids as PackId[] | undefined;
    return packRows(em, now, ids ?? null);
  });
  route(router, api, 'get', '/histories', reads, ({ em, query }) => {
    const { after, ids } = parsed(z.object({ after: z.uuid().optional(), ids: idList }), query);
    if (ids) return historiesOf(em, ids as PackId[]);
    return histories(em, (after ?? null) as PackId | null);
  });
  route(router, api, 'get', '/packs/by-tag/:tag', reads, ({ em, params }) => packByTag(em, params.tag ?? ''));
  route(router, api, 'get', '/packs/:id', reads, ({ em, params }) =>
    packDetails(em, idParam<PackId>(params)),
  );

  route(
    router,
    api,
    'post',
    '/packs',
    { action: 'pack.create', body: receivePack },
    ({ em, body, person, now }) => receive(em, body, person, now),
  );

  route(
    router,
    api,
    'post',
    '/deliveries',
    { action: 'pack.create', body: deliveryForm },
    ({ em, body, person, now }) => receiveDelivery(em, body, person, now),
  );
  const edit = packForm.extend({ version });
  route(
    router,
    api,
    'put',
    '/packs/:id',
    { action: 'pack.edit', body: edit },
    ({ em, body, params, now }) => {
      const { version: madeFrom, ...form } = body;
      return editPack(em, idParam<PackId>(params), form, madeFrom, now);
    },
  );

  return router;
}
