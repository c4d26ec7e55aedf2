import { Router } from 'express';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { append } from './append';

/** Writing to the ledger. Whether a role may write a record depends on its kind, so that is decided there. */
export function ledgerRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'POST /records', async ({ em, body, person, now }) => {
    const records = await append(em, body.packId, body.records, () => ({ actor: person, recordedAt: now }));
    return { packId: body.packId, records };
  });
  return router;
}
