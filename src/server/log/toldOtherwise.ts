import { isDeepStrictEqual } from 'node:util';
import type { LogSubject } from '../../contract';
import { LOG_SUBJECTS } from '../../contract';
import type { Entities } from '../platform/database';
import { figuresOf, isSecret, rowsOf } from './subjects';
import type { Changes } from './subjects';

/** What the log last said of one thing: each figure by its path, and how the thing was called. */
interface LastTold {
  name: string | null;
  readonly figures: Map<string, unknown>;
}

/** Things that are otherwise than the log last told of them. What was never changed through the application, the log knows nothing of. */
export async function toldOtherwise(
  em: Entities,
): Promise<readonly { readonly what: string; readonly why: string }[]> {
  const found: { what: string; why: string }[] = [];
  for (const subject of Object.keys(LOG_SUBJECTS) as LogSubject[]) {
    const told = await lastTold(em, subject);
    const rows = await rowsOf(em, subject, [...told.keys()]);
    if (!rows) continue;
    for (const [id, { name, figures }] of told) {
      const what = `The ${LOG_SUBJECTS[subject]} ${name ?? id}`;
      const row = rows.get(id);
      if (!row) {
        found.push({ what, why: 'it is gone, and the log does not say so' });
        continue;
      }
      const now = figuresOf(row);
      const others = [...figures].filter(
        // What is said beside the figures of the row has nothing to be held against.
        ([path, value]) => (path.split('.')[0] ?? path) in row && !isSame(now.get(path) ?? null, value),
      );
      if (others.length > 0) {
        const paths = others.map(([path]) => path).join(', ');
        found.push({ what, why: `it is not what the log last says of it: ${paths}` });
      }
    }
  }
  return found;
}

async function lastTold(em: Entities, subject: LogSubject): Promise<ReadonlyMap<string, LastTold>> {
  const entries: { id: string; name: string | null; changes: Changes }[] = await em.execute(
    `select coalesce(subject_id, '') as id, name, changes from register_log where subject = ? and changes <> '{}' order by seq`,
    [subject],
  );
  const told = new Map<string, LastTold>();
  for (const { id, name, changes } of entries) {
    const one = told.get(id) ?? { name, figures: new Map<string, unknown>() };
    one.name = name;
    for (const [path, [, is]] of Object.entries(changes)) if (!isSecret(path)) one.figures.set(path, is);
    told.set(id, one);
  }
  return told;
}

/** Moments are written in whatever zone the database's session had. */
function isSame(now: unknown, told: unknown): boolean {
  if (typeof now === 'string' && typeof told === 'string' && MOMENT.test(now) && MOMENT.test(told))
    return Date.parse(now) === Date.parse(told);
  return isDeepStrictEqual(now, told);
}

const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d/;
