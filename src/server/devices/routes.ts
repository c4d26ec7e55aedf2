import { Router } from 'express';
import type { CurveId, DeviceId, JobId } from '../../core/measure';
import { idParam, route } from '../platform/http';
import type { Api } from '../platform/http';
import { curve, curveOfJob, keepLog, logReading } from './curves';
import {
  addDevice,
  changeDevice,
  devices,
  endDevice,
  lastLines,
  renewKey,
  stopChannel,
  takeMeter,
  writeToPack,
} from './devices';

/** Instruments that speak for themselves, and the curves of what they charged. */
export function deviceRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /devices', ({ em, now }) => devices(em, now));
  route(router, api, 'POST /devices', ({ em, body, person, now }) => addDevice(em, body, person, now));
  route(router, api, 'PUT /devices/:id', ({ em, body, params, now }) =>
    changeDevice(em, idParam<DeviceId>(params), body, now),
  );
  route(router, api, 'POST /devices/:id/key', ({ em, params, now }) =>
    renewKey(em, idParam<DeviceId>(params), now),
  );
  route(router, api, 'DELETE /devices/:id', ({ em, params, now }) =>
    endDevice(em, idParam<DeviceId>(params), now),
  );
  route(router, api, 'GET /devices/:id/lines', async ({ em, params }) => ({
    lines: await lastLines(em, idParam<DeviceId>(params)),
  }));
  route(router, api, 'POST /devices/:id/take', ({ em, body, params, person, now }) =>
    takeMeter(em, idParam<DeviceId>(params), body.page, person.id, now),
  );
  route(router, api, 'POST /devices/:id/stop', ({ em, body, params, person, now }) =>
    stopChannel(em, idParam<DeviceId>(params), body.channel, person.name, now),
  );
  route(router, api, 'POST /devices/:id/write', ({ em, body, params, now }) =>
    writeToPack(em, idParam<DeviceId>(params), body, now),
  );
  route(router, api, 'GET /charging/jobs/:id/curve', ({ em, params }) =>
    curveOfJob(em, idParam<JobId>(params)),
  );
  route(router, api, 'POST /curves', ({ em, body, now }) => keepLog(em, body, now));
  route(router, api, 'GET /log-reading', ({ em, query }) => logReading(em, query.columns));
  route(router, api, 'GET /curves/:id', ({ em, params }) => curve(em, idParam<CurveId>(params)));
  return router;
}
