import type { PackRow } from '../../contract';
import { isOutOfUse } from '../../core/assess';
import { DAY_MS } from '../../core/measure';

/** Same type, and the same delivery where one was noted, else received within a day; those out of use are looked at anyway. */
export function siblingsOf(packs: readonly PackRow[], rows: readonly PackRow[]): readonly PackRow[] {
  const named = new Set(packs.map(({ id }) => id));
  return rows.filter(
    (row) =>
      !named.has(row.id) &&
      !isOutOfUse(row.verdict) &&
      packs.some((pack) => pack.typeId === row.typeId && sameDelivery(pack, row)),
  );
}

function sameDelivery(a: PackRow, b: PackRow): boolean {
  if (a.deliveryId !== null || b.deliveryId !== null) return a.deliveryId === b.deliveryId;
  if (a.receivedAt === null || b.receivedAt === null) return false;
  return Math.abs(a.receivedAt - b.receivedAt) < DAY_MS;
}
