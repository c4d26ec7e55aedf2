/** How a page says that it can make a newer answer of an older one with a {@link Delta}, and the server that it sent one. */
export const DELTA_IM = 'malle-delta';

/** What JSON can say. */
export type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

type Thing = Readonly<Record<string, Json>>;
type Row = Thing & { readonly id: string };

/**
 * What makes a newer answer of an older one: the newer itself; of a thing what of its members is another; of a list of things with ids the
 * rows that are others, by id, and where the sequence is another one, that: runs of the older list, as position and number, and ids of
 * rows that are new.
 */
export type Delta =
  | { readonly is: Json }
  | { readonly members: Readonly<Record<string, Delta>>; readonly gone?: readonly string[] }
  | {
      readonly rows: Readonly<Record<string, Delta>>;
      readonly order?: readonly (string | readonly [from: number, count: number])[];
    };

/** What has to be told to whoever knows the older of two answers; null where they are equal. */
export function deltaOf(older: Json, newer: Json): Delta | null {
  if (older === newer) return null;
  if (Array.isArray(older) || Array.isArray(newer)) {
    if (isRows(older) && isRows(newer)) return deltaOfRows(older, newer);
    return Array.isArray(older) && Array.isArray(newer) && areEqual(older, newer) ? null : { is: newer };
  }
  if (!isThing(older) || !isThing(newer)) return { is: newer };
  const members = Object.entries(newer).flatMap(([key, value]): [string, Delta][] => {
    const delta = Object.hasOwn(older, key) ? deltaOf(older[key]!, value) : { is: value };
    return delta ? [[key, delta]] : [];
  });
  const gone = Object.keys(older).filter((key) => !Object.hasOwn(newer, key));
  if (members.length === 0 && gone.length === 0) return null;
  return { members: Object.fromEntries(members), ...(gone.length > 0 ? { gone } : {}) };
}

/**
 * The newer answer, made of the older one; what is the same in both is shared.
 * @throws where the delta was made from another answer than this
 */
export function withDelta(older: Json, delta: Delta): Json {
  if ('is' in delta) return delta.is;
  if ('rows' in delta) {
    if (!isRows(older)) throw new Error('The delta is one of a list of rows, and this is none.');
    return rowsWith(older, delta);
  }
  if (!isThing(older)) throw new Error('The delta is one of a thing, and this is none.');
  const { members, gone = [] } = delta;
  const kept = Object.entries(older).filter(([key]) => !gone.includes(key));
  const known = new Set(kept.map(([key]) => key));
  return Object.fromEntries([
    ...kept.map(([key, value]) => [key, memberWith(value, members, key)] as const),
    ...Object.keys(members)
      .filter((key) => !known.has(key))
      .map((key) => [key, memberWith(undefined, members, key)] as const),
  ]);
}

function memberWith(value: Json | undefined, deltas: Readonly<Record<string, Delta>>, key: string): Json {
  const delta = Object.hasOwn(deltas, key) ? deltas[key] : undefined;
  if (delta && (value !== undefined || 'is' in delta)) return withDelta(value ?? null, delta);
  if (delta || value === undefined) throw new Error(`The delta changes ${key}, which is not there.`);
  return value;
}

function deltaOfRows(older: readonly Row[], newer: readonly Row[]): Delta | null {
  const places = new Map(older.map(({ id }, place) => [id, place]));
  const rows = newer.flatMap((row): [string, Delta][] => {
    const place = places.get(row.id);
    const delta = place === undefined ? { is: row } : deltaOf(older[place]!, row);
    return delta ? [[row.id, delta]] : [];
  });
  const order = orderOf(newer, places);
  const isSameOrder = order.length === 1 && order[0]![0] === 0 && order[0]![1] === older.length;
  if (rows.length === 0 && isSameOrder) return null;
  return { rows: Object.fromEntries(rows), ...(isSameOrder ? {} : { order }) };
}

/** The sequence of the newer rows, in runs of the older ones. */
function orderOf(
  newer: readonly Row[],
  places: ReadonlyMap<string, number>,
): (string | [from: number, count: number])[] {
  const order: (string | [from: number, count: number])[] = [];
  for (const { id } of newer) {
    const place = places.get(id);
    const last = order.at(-1);
    if (place === undefined) order.push(id);
    else if (Array.isArray(last) && last[0] + last[1] === place) last[1] += 1;
    else order.push([place, 1]);
  }
  return order;
}

function rowsWith(
  older: readonly Row[],
  { rows, order }: Extract<Delta, { rows: unknown }>,
): readonly Json[] {
  const inOrder = order
    ? order.flatMap((run): readonly [string, Json | undefined][] =>
        typeof run === 'string'
          ? [[run, undefined]]
          : older.slice(run[0], run[0] + run[1]).map((row) => [row.id, row]),
      )
    : older.map((row): [string, Json] => [row.id, row]);
  return inOrder.map(([id, row]) => memberWith(row, rows, id));
}

function isThing(value: Json): value is Thing {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** Whether this is a list of things that can be told apart by their ids. */
function isRows(value: Json): value is readonly Row[] {
  if (!Array.isArray(value) || value.length === 0) return false;
  const ids = new Set<unknown>();
  for (const one of value as readonly Json[]) {
    if (!isThing(one) || typeof one.id !== 'string') return false;
    ids.add(one.id);
  }
  return ids.size === value.length;
}

function areEqual(a: readonly Json[], b: readonly Json[]): boolean {
  return a.length === b.length && a.every((one, i) => deltaOf(one, b[i]!) === null);
}
