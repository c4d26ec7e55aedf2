import { Router } from 'express';
import { appendRequest } from '../../contract';
import type { AppendAnswer } from '../../contract';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { append } from './append';

/** Writing to the ledger. Whether a role may write a record depends on its kind, so that is decided there. */
export function ledgerRoutes(api: Api): Router {
  const router = Router();
  route(
    router,
    api,
    'post',
    '/records',
    { action: 'register.read', body: appendRequest },
    async ({ em, body, person, now }): Promise<AppendAnswer> => {
      const records = await append(em, body.packId, body.records, () => ({ actor: person, recordedAt: now }));
      return { packId: body.packId, records };
    },
  );
  return router;
}
