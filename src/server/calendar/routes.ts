import { Router } from 'express';
import { file } from '../platform/file';
import { publicAddress, route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { calendarKey, calendarText, newCalendarKey, personOfKey } from './service';

const pathOf = (key: string) => `/api/calendar/${key}.ics`;

/** A person's own calendar subscription: where it is, and getting a new address for it. */
export function calendarRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /calendar', async ({ em, person }) => {
    const key = await calendarKey(em, person.id);
    return { path: key && pathOf(key) };
  });
  route(router, api, 'POST /calendar', async ({ em, person }) => ({
    path: pathOf(await newCalendarKey(em, person.id)),
  }));
  return router;
}

/** The calendar itself, for whoever knows its address. */
export function calendarFile(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /calendar/:key.ics', async ({ em, params, req, now }) => {
    const person = await personOfKey(em, params.key ?? '');
    if (!person) throw new Refused('not-found');
    return file('malle.ics', await calendarText(em, person, publicAddress(req), now));
  });
  return router;
}
