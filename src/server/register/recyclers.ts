import type { Router } from 'express';
import { v7 as newId } from 'uuid';
import type { RecyclerAnswer } from '../../contract';
import type { RecyclerId } from '../../core/measure';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { Recycler } from './entities';
import type { RecyclerEntity } from './entities';
import { store } from './store';

/** Whoever takes packs that are over: adding and editing. One no longer used stays, since consignments name it. */
export function recyclerRoutes(router: Router, api: Api): void {
  route(router, api, 'POST /recyclers', async ({ em, body }) => {
    const recycler = em.create(Recycler, { ...body, id: newId() as RecyclerId, version: 1 });
    await store(em);
    return recyclerAnswer(recycler);
  });

  route(router, api, 'PUT /recyclers/:id', async ({ em, body, params }) => {
    const { version: madeFrom, ...facts } = body;
    const recycler = await em.findOne(Recycler, { id: idParam<RecyclerId>(params) });
    if (!recycler) throw new Refused('not-found');
    if (recycler.version !== madeFrom) throw new Refused('changed-meanwhile');
    em.assign(recycler, facts);
    await store(em);
    return recyclerAnswer(recycler);
  });
}

/** A recycler as the web sees it. */
export function recyclerAnswer(recycler: RecyclerEntity): RecyclerAnswer {
  const { id, version: current, name, chemistries, takesDamaged, takesCharged, active } = recycler;
  // The database leaves out what it does not hold.
  const { contact = null, limitKg = null, confirmedAt = null } = recycler;
  return {
    id,
    version: current,
    name,
    contact,
    chemistries,
    takesDamaged,
    takesCharged,
    limitKg,
    confirmedAt,
    active,
  };
}
