import { Router } from 'express';
import { LOG_DEEDS, LOG_SUBJECTS } from '../../contract';
import { csv } from '../platform/csv';
import { file } from '../platform/file';
import { route } from '../platform/http';
import type { Api } from '../platform/http';
import { isoTime } from '../platform/paper';
import { logEntries } from './registerLog';

/** So many entries go into a list for a spreadsheet; a register of a club has some thousands. */
const MOST_LISTED = 100_000;

/** Who changed what, for custodians and safety officers. */
export function logRoutes(api: Api): Router {
  const router = Router();
  route(router, api, 'GET /log', ({ em, query }) => logEntries(em, query));
  route(router, api, 'GET /log.csv', async ({ em, query: { zone, ...asked } }) => {
    const entries = await logEntries(em, asked, MOST_LISTED);
    const people: { id: string; name: string }[] = await em.execute('select id, name from person');
    const names = new Map(people.map(({ id, name }) => [id, name]));
    const rows = entries.map(({ seq, at, by, through, did, subject, name, changes }) => [
      seq,
      isoTime(at, zone),
      by === null ? null : (names.get(by) ?? by),
      through,
      LOG_DEEDS[did],
      LOG_SUBJECTS[subject],
      name,
      Object.entries(changes)
        .map(([path, [was, is]]) => `${path}: ${JSON.stringify(was)} -> ${JSON.stringify(is)}`)
        .join('; '),
    ]);
    const titles = ['Number', 'Time', 'Who', 'By', 'Did', 'What', 'Called', 'Changes'];
    return file('register-log.csv', csv(titles, rows, 'point'));
  });
  return router;
}
