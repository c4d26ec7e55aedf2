import { Router } from 'express';
import type { PersonAnswer } from '../../contract';
import type { IncidentId, PackId } from '../../core/measure';
import { file } from '../platform/file';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { printed } from '../platform/pdf';
import { always } from '../platform/shared';
import { incidentOnPaper } from './onPaper';
import { addEntries, incidentDetails, incidents } from './service';

/** Incidents: the list, one with its log, and the one way anything is added. Who may add what is decided entry by entry. */
export function incidentRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /incidents', always, ({ em, query }) =>
    incidents(em, (query.pack ?? null) as PackId | null),
  );
  route(router, api, 'GET /incidents/:id', ({ em, params }) =>
    incidentDetails(em, idParam<IncidentId>(params)),
  );
  route(
    router,
    api,
    'GET /incidents/:id/report.pdf',
    async ({ em, params, query: { zone }, now, heavily }) => {
      const incident = await incidentDetails(em, idParam<IncidentId>(params));
      const people: PersonAnswer[] = await em.execute('select id, name, role from person');
      const packs: { id: string; tag: string }[] = await em.execute(
        'select p.id, p.tag from pack p join incident_pack n on n.pack_id = p.id where n.incident_id = ?',
        [incident.id],
      );
      const tags = new Map(packs.map(({ id, tag }) => [id, tag]));
      const document = incidentOnPaper({ incident, people, tags, reader: { now, zone } });
      return file('incident.pdf', await printed(heavily, document));
    },
  );
  route(router, api, 'POST /incidents', ({ em, body, person, now }) => addEntries(em, body, person, now));
  return router;
}
