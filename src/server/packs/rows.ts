import type { LaterRow, PackRow } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { Instant, PackId } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities, Statement } from '../platform/database';
import { JsonText } from '../platform/jsonText';

/** The columns of a {@link PackRow}, over `pack p join pack_state s`. Named as the answer names them, so rows pass through. */
export const PACK_ROW_COLUMNS = `
  p.id, p.tag, p.type_id as "typeId", p.owner, p.home_place_id as "homePlaceId", p.field_pack as "fieldPack",
  s.place_id as "placeId", s.slot, s.holder_id as "holderId", ${asInstant('s.received_at')} as "receivedAt",
  ${asInstant('s.used_at')} as "usedAt", s.tasks, s.verdict, s.may_fly as "mayFly", s.charged, s.basis,
  s.cells_mv as "cellsMv", s.by_cell as "byCell", ${asInstant('s.read_at')} as "readAt", s.soc_percent as "socPercent",
  s.storage, ${asInstant('s.since')} as since, ${asInstant('s.due_at')} as "dueAt",
  s.allowance_hours as "allowanceHours", s.life, ${asInstant('s.out_since')} as "outSince",
  ${asInstant('s.watch_from')} as "watchFrom", ${asInstant('s.watch_until')} as "watchUntil", p.delivery_id as "deliveryId",
  p.smart is not null as smart, coalesce((s.flying ->> 'cycles')::float8, 0) as cycles,
  coalesce((s.bench ->> 'capacityMah')::float8, 0) as "capacityMah", s.flying -> 'out' as out, s.flying -> 'owed' as owed, s.seq, p.version`;

/** A step as lists show it. `next` is the most pressing, `read` the one that asks for a meter. */
export function stepColumn(which: 'next' | 'read'): string {
  return `case when s.${which}_do is null then null
    else json_build_object('do', s.${which}_do, 'dueAt', ${asInstant(`s.${which}_due_at`)}) end as next`;
}

/** All packs as lists show them, or those asked for. */
export async function packRows(
  em: Entities,
  now: Instant,
  ids: readonly PackId[] | null = null,
): Promise<PackRow[]> {
  const { sql, params } = packRowsQuery(now, ids);
  return em.execute(sql, params);
}

/** The same as JSON: of thousands of rows the database writes it sooner than they are read here. */
export async function packRowsAsJson(
  em: Entities,
  now: Instant,
  ids: readonly PackId[] | null,
): Promise<JsonText<PackRow[]>> {
  const { sql, params } = packRowsQuery(now, ids);
  const [all]: { json: string }[] = await em.execute(
    `select coalesce(json_agg(row), '[]')::text as json from (${sql}) row`,
    params,
  );
  return new JsonText(all!.json);
}

function packRowsQuery(now: Instant, ids: readonly PackId[] | null): Statement {
  const which = ids ? ', ?::uuid[]' : '';
  return {
    sql: `select ${PACK_ROW_COLUMNS}, ${stepColumn('next')}
            from pack p join pack_state_at(?${which}) s on s.pack_id = p.id order by p.tag_key`,
    params: [timestamp(now), ...(ids ? [`{${ids.join(',')}}`] : [])],
  };
}

/** When the next row becomes another by time alone; never where none does. */
export async function untilNextLapse(em: Entities, now: Instant): Promise<Instant> {
  const [first]: { at: Instant | null }[] = await em.execute(
    `select min(at) as at from (
       select ${asInstant('changes_at')} as at from pack_state where changes_at > ?
       union all
       select (value ->> 'at')::float8 from pack_state s cross join lateral jsonb_array_elements(s.lapses)
        where s.changes_at <= ? and (value ->> 'at')::float8 > ?) next`,
    [timestamp(now), timestamp(now), now],
  );
  return first?.at ?? Infinity;
}

/** A phone in a drawer for longer than this is asked to find a network first. */
const AHEAD_DAYS = 21;

/** The rows that time alone will bring, each as pack_state_at picks it from its moment on. */
const LATER_ROWS = `pack p join lateral (
    select told.*, lapse.at from pack_state kept
      cross join lateral (
        select value -> 'row' as changed, (value ->> 'at')::float8 as at from jsonb_array_elements(kept.lapses)
      ) lapse
      cross join lateral jsonb_populate_record(kept, lapse.changed) told
     where kept.pack_id = p.id and not kept.empty and lapse.at > ? and lapse.at <= ?
  ) s on true`;

/**
 * What lists will show of packs by time alone, soonest first for each: a device without a network goes on telling what holds.
 * A pack that nothing happens to within three weeks has no entry.
 */
export async function laterRows(
  em: Entities,
  now: Instant,
  ids: readonly PackId[] | null = null,
): Promise<LaterRow[]> {
  const which = ids ? 'where p.id = any(?::uuid[])' : '';
  const rows: (PackRow & { readonly from: Instant })[] = await em.execute(
    `select ${PACK_ROW_COLUMNS}, ${stepColumn('next')}, s.at as from from ${LATER_ROWS} ${which} order by p.tag_key, s.at`,
    [now, now + AHEAD_DAYS * DAY_MS, ...(ids ? [`{${ids.join(',')}}`] : [])],
  );
  return rows.map(({ from, ...row }) => ({ from, row }));
}
