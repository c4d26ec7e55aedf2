import { Router } from 'express';
import { clockAnswer } from '../platform/clock';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { today } from './service';

export function todayRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /today', async ({ em, now }) => ({
    ...clockAnswer(api.clock),
    ...(await today(em, now)),
  }));
  return router;
}
