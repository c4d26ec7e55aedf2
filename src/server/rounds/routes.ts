import { Router } from 'express';
import type { RoundId } from '../../core/measure';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { always } from '../platform/shared';
import { closeRound, roundDetails, rounds, startRound, workRow } from './service';

/** Rounds: starting, working row by row from any device, closing. */
export function roundRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /rounds', always, ({ em }) => rounds(em));
  route(router, api, 'GET /rounds/:id', ({ em, params }) => roundDetails(em, idParam<RoundId>(params)));
  route(router, api, 'POST /rounds', ({ em, body, person, now }) => startRound(em, body, person, now));
  route(router, api, 'POST /rounds/:id/rows', ({ em, body, params, person, now }) =>
    workRow(em, idParam<RoundId>(params), body, person, now),
  );
  route(router, api, 'POST /rounds/:id/close', ({ em, params, now }) =>
    closeRound(em, idParam<RoundId>(params), now),
  );
  return router;
}
