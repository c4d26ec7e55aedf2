import { Router } from 'express';
import type { CalendarAnswer } from '../../contract';
import { sendFile } from '../platform/file';
import { publicAddress, route } from '../platform/http';
import type { Api } from '../platform/http';
import { Refused } from '../platform/problems';
import { calendarKey, calendarText, newCalendarKey, personOfKey } from './service';

const pathOf = (key: string) => `/api/calendar/${key}.ics`;

/** A person's own calendar subscription: where it is, and getting a new address for it. */
export function calendarRoutes(api: Api): Router {
  const router = Router();
  const own = { action: 'register.read' } as const;
  route(router, api, 'get', '/calendar', own, async ({ em, person }): Promise<CalendarAnswer> => {
    const key = await calendarKey(em, person.id);
    return { path: key && pathOf(key) };
  });
  route(router, api, 'post', '/calendar', own, async ({ em, person }): Promise<CalendarAnswer> => {
    return { path: pathOf(await newCalendarKey(em, person.id)) };
  });
  return router;
}

/** The calendar itself, for whoever knows its address. */
export function calendarFile(api: Api): Router {
  const router = Router();
  router.get('/calendar/:key.ics', async (req, res) => {
    const em = api.database.entities();
    const person = await personOfKey(em, req.params.key);
    if (!person) throw new Refused('not-found');
    const text = await calendarText(em, person, publicAddress(req), api.clock.now());
    sendFile(res, 'malle.ics', text);
  });
  return router;
}
