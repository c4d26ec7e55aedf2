import { isDeepStrictEqual } from 'node:util';
import type { LogSubject } from '../../contract';
import type { Entities } from '../platform/database';

/** What an entry says of each figure, by its path: what it was and what it became. */
export type Changes = Readonly<Record<string, readonly [was: unknown, is: unknown]>>;

interface Table {
  readonly table: string;
  readonly name: string;
}

/** Where the things of the log stand, and by which column they are called. */
const TABLES: Readonly<Partial<Record<LogSubject, Table>>> = {
  person: { table: 'person', name: 'name' },
  'pack-type': { table: 'pack_type', name: 'name' },
  place: { table: 'place', name: 'name' },
  meter: { table: 'instrument', name: 'name' },
  bench: { table: 'equipment', name: 'name' },
  device: { table: 'device', name: 'name' },
  craft: { table: 'craft', name: 'name' },
  recycler: { table: 'recycler', name: 'name' },
  pack: { table: 'pack', name: 'tag' },
  key: { table: 'api_key', name: 'name' },
  'shared-bench': { table: 'shared_bench', name: 'name' },
};

/** That these changed is told, and never what they are. */
const SECRET: ReadonlySet<string> = new Set(['password_hash', 'calendar_key', 'hash', 'key_hash']);
/** What follows from other columns, or counts edits. */
const UNTOLD: ReadonlySet<string> = new Set(['id', 'version', 'access_from', 'tag_key']);

type Row = Readonly<Record<string, unknown>>;

/** A thing as its table has it; null where there is none, or where the log tells only that something was done. */
export async function rowOf(
  em: Entities,
  subject: LogSubject,
  id: string | null,
): Promise<{ readonly name: string | null; readonly row: Row } | null> {
  if (subject === 'rules') return rulesRow(em);
  const place = TABLES[subject];
  if (!place || id === null) return null;
  const [found]: { name: string; row: Row }[] = await em.execute(
    `select ${place.name} as name, to_jsonb(t) as row from ${place.table} t where id::text = lower(?)`,
    [id],
  );
  return found ?? null;
}

/** Rows of these things by their ids, in the log's own figures; null where the log tells only that something was done. */
export async function rowsOf(
  em: Entities,
  subject: LogSubject,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Row> | null> {
  if (subject === 'rules') {
    const newest = await rulesRow(em);
    return new Map(newest ? [['', newest.row]] : []);
  }
  const place = TABLES[subject];
  if (!place) return null;
  const rows: { id: string; row: Row }[] = await em.execute(
    `select id::text as id, to_jsonb(t) as row from ${place.table} t where id::text = any(?::text[])`,
    [`{${ids.map((id) => id.toLowerCase()).join(',')}}`],
  );
  return new Map(rows.map(({ id, row }) => [id, row]));
}

/** Whether the log says of this figure only that it changed. */
export function isSecret(path: string): boolean {
  return SECRET.has(path.split('.')[0]!);
}

async function rulesRow(em: Entities): Promise<{ readonly name: string; readonly row: Row } | null> {
  const [newest]: { version: number; rules: Row; reason: string }[] = await em.execute(
    'select version, rules, reason from rule_set order by version desc limit 1',
  );
  return newest
    ? { name: `version ${newest.version}`, row: { ...newest.rules, reason: newest.reason } }
    : null;
}

/**
 * What differs between two rows, figure by figure; what is nowhere is null.
 * @example changesBetween({ a: 1, b: { c: 2 } }, { a: 1, b: { c: 3 } }) // => { 'b.c': [2, 3] }
 */
export function changesBetween(before: Row | null, after: Row | null): Changes {
  const [was, is] = [figuresOf(before ?? {}), figuresOf(after ?? {})];
  const changes: Record<string, readonly [unknown, unknown]> = {};
  for (const path of new Set([...was.keys(), ...is.keys()])) {
    const column = path.split('.')[0]!;
    if (UNTOLD.has(column)) continue;
    const [old, now] = [was.get(path) ?? null, is.get(path) ?? null];
    if (isDeepStrictEqual(old, now)) continue;
    changes[path] = SECRET.has(column) ? [null, 'not told'] : [old, now];
  }
  return changes;
}

/** Every figure of a row by its path, dots between; a list is one figure. */
export function figuresOf(row: Row, at = ''): Map<string, unknown> {
  const figures = new Map<string, unknown>();
  for (const [key, value] of Object.entries(row)) {
    const path = at === '' ? key : `${at}.${key}`;
    if (typeof value === 'object' && value !== null && !Array.isArray(value))
      for (const [inner, figure] of figuresOf(value as Row, path)) figures.set(inner, figure);
    else figures.set(path, value);
  }
  return figures;
}
