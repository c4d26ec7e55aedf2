import { Router } from 'express';
import type { KeyId } from '../../core/measure';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { endKey, keys, makeKey } from './keys';

/** Keys by which a club's own scripts ask. */
export function keyRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /keys', ({ em }) => keys(em));
  route(router, api, 'POST /keys', ({ em, body, person, now }) => makeKey(em, body, person, now));
  route(router, api, 'DELETE /keys/:id', ({ em, params, now }) => endKey(em, idParam<KeyId>(params), now));
  return router;
}
