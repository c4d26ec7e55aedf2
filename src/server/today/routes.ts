import { Router } from 'express';
import { clockAnswer } from '../platform/clock';
import { sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { aSecond } from '../platform/shared';
import { today } from './service';

export function todayRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /today', aSecond, async ({ em, now }) => ({
    ...clockAnswer(api.clock),
    ...(await today(em, now)),
  }));
  return router;
}
