import { Router } from 'express';
import { route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { always } from '../platform/shared';
import type { Rejudging } from './rejudge';
import { adopt, rulesHistory } from './service';

/** The house rules: all versions, and adopting a new one. */
export function rulesRoutes(api: Api, rejudge: Rejudging): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /rules', always, ({ em }) => rulesHistory(em));
  route(router, api, 'POST /rules', async ({ em, body, person, now }) => {
    await adopt(em, body, person.id, now);
    rejudge.begin();
    return rulesHistory(em);
  });
  return router;
}
