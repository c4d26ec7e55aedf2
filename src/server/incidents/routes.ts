import { Router } from 'express';
import { z } from 'zod';
import { incidentRequest } from '../../contract';
import type { IncidentId, PackId } from '../../core/measure';
import { idParam, parsed, route } from '../platform/http';
import type { Api } from '../platform/http';
import { addEntries, incidentDetails, incidents } from './service';

/** Incidents: the list, one with its log, and the one way anything is added. Who may add what is decided entry by entry. */
export function incidentRoutes(api: Api): Router {
  const router = Router();
  const reads = { action: 'register.read' } as const;
  route(router, api, 'get', '/incidents', reads, ({ em, query }) => {
    const { pack } = parsed(z.object({ pack: z.uuid().optional() }), query);
    return incidents(em, (pack ?? null) as PackId | null);
  });
  route(router, api, 'get', '/incidents/:id', reads, ({ em, params }) =>
    incidentDetails(em, idParam<IncidentId>(params)),
  );
  route(
    router,
    api,
    'post',
    '/incidents',
    { action: 'incident.report', body: incidentRequest },
    ({ em, body, person, now }) => addEntries(em, body, person, now),
  );
  return router;
}
