import { Router } from 'express';
import { adoptRules } from '../../contract';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import type { Rejudging } from './rejudge';
import { adopt, rulesHistory } from './service';

/** The house rules: all versions, and adopting a new one. */
export function rulesRoutes(api: Api, rejudge: Rejudging): Router {
  const router = Router();
  route(router, api, 'get', '/rules', { action: 'register.read' }, ({ em }) => rulesHistory(em));
  route(
    router,
    api,
    'post',
    '/rules',
    { action: 'rules.adopt', body: adoptRules },
    async ({ em, body, person, now }) => {
      await adopt(em, body, person.id, now);
      rejudge.begin();
      return rulesHistory(em);
    },
  );
  return router;
}
