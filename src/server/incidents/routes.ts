import { Router } from 'express';
import type { IncidentId, PackId } from '../../core/measure';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { addEntries, incidentDetails, incidents } from './service';

/** Incidents: the list, one with its log, and the one way anything is added. Who may add what is decided entry by entry. */
export function incidentRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /incidents', ({ em, query }) =>
    incidents(em, (query.pack ?? null) as PackId | null),
  );
  route(router, api, 'GET /incidents/:id', ({ em, params }) =>
    incidentDetails(em, idParam<IncidentId>(params)),
  );
  route(router, api, 'POST /incidents', ({ em, body, person, now }) => addEntries(em, body, person, now));
  return router;
}
