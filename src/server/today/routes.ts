import { Router } from 'express';
import type { TodayAnswer } from '../../contract';
import { clockAnswer } from '../platform/clock';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { today } from './service';

export function todayRoutes(api: Api): Router {
  const router = Router();
  route(
    router,
    api,
    'get',
    '/today',
    { action: 'register.read' },
    async ({ em, now }): Promise<TodayAnswer> => {
      return { ...clockAnswer(api.clock), ...(await today(em, now)) };
    },
  );
  return router;
}
