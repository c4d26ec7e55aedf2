import type { Chemistry } from '../../core/chemistry';
import { totalOf } from '../../core/lifecycle';
import type { PackId, PlaceId } from '../../core/measure';
import { wattHours } from '../../core/pack';
import type { RecordDraft } from '../../core/record';
import type { Entities } from '../platform/database';

/** The containers these records put the pack into that have no room for it. Locked, so that two packs cannot take the last room. */
export async function fullContainers(
  em: Entities,
  packId: PackId,
  drafts: readonly RecordDraft[],
): Promise<ReadonlySet<PlaceId>> {
  const wanted = drafts.flatMap(({ kind, payload }) =>
    kind === 'disposal' && payload.step === 'binned' ? [payload.placeId] : [],
  );
  if (wanted.length === 0) return new Set();
  const ids = `{${wanted.join(',')}}`;
  await em.execute('select 1 from place where id = any(?::uuid[]) order by id for no key update', [ids]);
  const rows: FillRow[] = await em.execute(
    `select l.id, l.capacity, l.limit_kg as "limitKg", l.limit_wh as "limitWh", t.chemistry, t.series,
            t.capacity_mah as "capacityMah", coalesce(t.mass_g, 0) as "massG"
       from place l left join (pack_state s join pack p on p.id = s.pack_id join pack_type t on t.id = p.type_id)
         on (s.place_id = l.id and s.life in ('binned', 'consigned')) or p.id = ?
      where l.id = any(?::uuid[])`,
    [packId, ids],
  );
  return new Set(wanted.filter((id) => isOverLimit(rows.filter((row) => row.id === id))));
}

interface FillRow {
  readonly id: PlaceId;
  readonly capacity: number | null;
  readonly limitKg: number | null;
  readonly limitWh: number | null;
  readonly chemistry: Chemistry;
  readonly series: number;
  readonly capacityMah: number;
  readonly massG: number;
}

/** Whether these packs, the new one among them, are more than their container may hold. */
function isOverLimit(rows: readonly FillRow[]): boolean {
  const [{ capacity, limitKg, limitWh } = { capacity: null, limitKg: null, limitWh: null }] = rows;
  const { packs, massG, wh } = totalOf(rows.map((row) => ({ massG: row.massG, wh: wattHours(row) })));
  return packs > (capacity ?? Infinity) || massG / 1000 > (limitKg ?? Infinity) || wh > (limitWh ?? Infinity);
}
