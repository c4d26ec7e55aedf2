import { Router } from 'express';
import type { CraftId, FlyingDayId } from '../../core/measure';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { aSecond } from '../platform/shared';
import { addChange, addCraft, changeCraft } from './craft';
import { addDay, changeDay, daysToCome } from './days';
import { settleHandOut } from './handOut';
import { hoverSteps, recentLandings } from './landings';

/** Craft, flying days with what is taken along, and how landings went. */
export function flyingRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /flying', aSecond, async ({ em, now }) => ({
    days: await daysToCome(em, now),
    steps: await hoverSteps(em),
    landings: await recentLandings(em, now),
  }));
  route(router, api, 'POST /craft', ({ em, body }) => addCraft(em, body));
  route(router, api, 'PUT /craft/:id', ({ em, body, params }) =>
    changeCraft(em, idParam<CraftId>(params), body),
  );
  route(router, api, 'POST /craft/:id/changes', ({ em, body, params, person, now }) =>
    addChange(em, idParam<CraftId>(params), body, person, now),
  );
  route(router, api, 'POST /flying-days', ({ em, body, now }) => addDay(em, body, now));
  route(router, api, 'PUT /flying-days/:id', ({ em, body, params, now }) =>
    changeDay(em, idParam<FlyingDayId>(params), body, now),
  );
  route(router, api, 'PUT /flying-days/:id/hand-out', ({ em, body, params, now }) =>
    settleHandOut(em, idParam<FlyingDayId>(params), body, now),
  );
  return router;
}
