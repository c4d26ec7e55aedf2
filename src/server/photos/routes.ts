import express, { Router } from 'express';
import type { PhotoId } from '../../core/measure';
import { admitted, idParam, rawRoute, route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { keepPhoto, photoBytes } from './service';

/** A browser sends its pictures reduced; this leaves room for one that could not. */
const LARGEST_PHOTO = '12mb';

/** Photos: kept under the id their sender chose, handed out to anybody signed in. */
export function photoRoutes(api: Api): Router {
  const router = Router();
  const picture = express.raw({ type: () => true, limit: LARGEST_PHOTO });

  // Identified before the body is read: nobody unknown may send megabytes.
  router.put('/photos/:id', async (req, _res, next) => {
    await admitted(api, req, 'record.inspection');
    next();
  });
  router.put('/photos/:id', picture);
  route(router, api, 'PUT /photos/:id', async ({ person, em, req, params, now, heavily }) => {
    if (!Buffer.isBuffer(req.body) || req.body.length === 0) throw new Refused('no-photo');
    await keepPhoto(em, idParam<PhotoId>(params), req.body, person.id, now, heavily);
  });

  for (const [name, size] of [
    ['GET /photos/:id', 'jpeg'],
    ['GET /photos/:id/thumbnail', 'thumbnail'],
  ] as const) {
    rawRoute(router, api, name, async ({ em, params }, res) => {
      const bytes = await photoBytes(em, idParam<PhotoId>(params), size);
      if (!bytes) throw new Refused('not-found');
      // A photo never changes under its id, and whoever may not see it must not find it on the device: the browser asks, and is told that it has it.
      res.set('cache-control', 'private, no-cache').type('image/jpeg').send(bytes);
    });
  }
  return router;
}
