import { Router } from 'express';
import { roundForm, roundRow } from '../../contract';
import type { RoundId } from '../../core/measure';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { closeRound, roundDetails, rounds, startRound, workRow } from './service';

/** Rounds: starting, working row by row from any device, closing. */
export function roundRoutes(api: Api): Router {
  const router = Router();
  const reads = { action: 'register.read' } as const;
  route(router, api, 'get', '/rounds', reads, ({ em }) => rounds(em));
  route(router, api, 'get', '/rounds/:id', reads, ({ em, params }) =>
    roundDetails(em, idParam<RoundId>(params)),
  );
  route(
    router,
    api,
    'post',
    '/rounds',
    { action: 'round.work', body: roundForm },
    ({ em, body, person, now }) => startRound(em, body, person, now),
  );
  route(
    router,
    api,
    'post',
    '/rounds/:id/rows',
    { action: 'round.work', body: roundRow },
    ({ em, body, params, person, now }) => workRow(em, idParam<RoundId>(params), body, person, now),
  );
  route(router, api, 'post', '/rounds/:id/close', { action: 'round.work' }, ({ em, params, now }) =>
    closeRound(em, idParam<RoundId>(params), now),
  );
  return router;
}
