import type { Statement } from '../platform/database';
import type { Left } from './context';
import type { Projection } from './projection';

/** Writes rows of a table that is like pack_state, replacing those that are there: at least one, all with the same columns. */
export function upsertOf(rows: readonly Projection[], table: string): Statement {
  const { columns } = rows[0]!;
  const places = `(${columns.map(() => '?').join(', ')})`;
  return {
    sql: `insert into ${table} (${columns.join(', ')}) values ${rows.map(() => places).join(', ')} ${replacing(columns)}`,
    params: rows.flatMap(({ values }) => values),
  };
}

/**
 * Writes the states of packs, at least one, each only over the version of it that was read before: whatever wrote it since, in whatever way, made
 * another version.
 * @returns SQL that answers the packs whose state was written
 */
export function replaceStates(rows: readonly Projection[], read: readonly (Left | null)[]): Statement {
  const { sql, params } = upsertOf(rows, 'pack_state');
  return { sql: `${sql} ${OVER_READ}`, params: [...params, versionsOf(read)] };
}

/** The same for one pack, within a statement, and only where another part of that statement, named here, has a row. */
export function replaceStateWhere(
  where: string,
  { columns, values }: Projection,
  read: Left | null,
): Statement {
  return {
    sql: `insert into pack_state (${columns.join(', ')}) select ${columns.map(() => '?').join(', ')} from ${where}
      ${replacing(columns)} ${OVER_READ}`,
    params: [...values, versionsOf([read])],
  };
}

const OVER_READ = 'where pack_state.xmin::text = any(?::text[]) returning pack_id as id';

function versionsOf(read: readonly (Left | null)[]): string {
  return `{${read.flatMap((one) => one?.version ?? []).join(',')}}`;
}

function replacing(columns: readonly string[]): string {
  const each = columns.map((column) => `${column} = excluded.${column}`);
  return `on conflict (pack_id) do update set ${each.join(', ')}`;
}
