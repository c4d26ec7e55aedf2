import { Router } from 'express';
import type { AttendanceId, JobId } from '../../core/measure';
import { idParam, route, sharedRoute } from '../platform/http';
import type { Api } from '../platform/http';
import { aSecond } from '../platform/shared';
import { addAttendance, changeAttendance, takeAttendanceBack } from './attendance';
import { endJob, placeJob, startJob, watchJob } from './jobs';
import { charging, keepPlan } from './service';

/** The bench: attendance, the plan that is kept, and its jobs from start to end. */
export function chargingRoutes(api: Api): Router {
  const router = Router();
  sharedRoute(router, api, 'GET /charging', aSecond, ({ em, now }) => charging(em, now));
  route(router, api, 'PUT /charging/plan', ({ em, body, person, now }) => keepPlan(em, body, person, now));
  route(router, api, 'POST /attendance', ({ em, body, person, now }) => addAttendance(em, body, person, now));
  route(router, api, 'PUT /attendance/:id', ({ em, body, params, person, now }) =>
    changeAttendance(em, idParam<AttendanceId>(params), body, person, now),
  );
  route(router, api, 'DELETE /attendance/:id', ({ em, params, person }) =>
    takeAttendanceBack(em, idParam<AttendanceId>(params), person),
  );
  route(router, api, 'POST /charging/jobs', ({ em, body, now }) => placeJob(em, body, now));
  route(router, api, 'POST /charging/jobs/:id/start', ({ em, body, params, person, now }) =>
    startJob(em, idParam<JobId>(params), body, person, now),
  );
  route(router, api, 'POST /charging/jobs/:id/watch', ({ em, body, params, now }) =>
    watchJob(em, idParam<JobId>(params), body, now),
  );
  route(router, api, 'POST /charging/jobs/:id/end', ({ em, body, params, person, now }) =>
    endJob(em, idParam<JobId>(params), body, person, now),
  );
  return router;
}
