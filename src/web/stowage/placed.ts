import type { MapArea, PackRow, PlaceAnswer, RegisterAnswer } from '../../contract';
import { takesOutOfUse } from '../../core/admission';
import { isOutOfUse } from '../../core/assess';
import type { Chemistry } from '../../core/chemistry';
import type { PlaceId } from '../../core/measure';
import { stowageWarnings, warningsAdded } from '../../core/stowage';
import type { StowageWarning, StowedPack } from '../../core/stowage';

/** A pack with what matters of it for where it lies. */
export interface PlacedPack extends StowedPack {
  readonly row: PackRow;
}

/** A place, what lies in it, and what is wrong with that. */
export interface Stowed {
  readonly place: PlaceAnswer;
  readonly packs: readonly PlacedPack[];
  readonly warnings: readonly StowageWarning[];
}

export interface Stowage {
  readonly places: readonly Stowed[];
  /** Signed out, or carried about. */
  readonly inHands: readonly PlacedPack[];
  readonly nowhere: readonly PlacedPack[];
}

/** The packs as they lie: by place, slot by slot. */
export function stowage(rows: readonly PackRow[], register: RegisterAnswer): Stowage {
  const chemistryOf = new Map(register.types.map(({ id, chemistry }) => [id, chemistry]));
  const packs = rows
    .filter(({ verdict }) => verdict !== 'recycled')
    .map((row): PlacedPack => {
      const chemistry: Chemistry = chemistryOf.get(row.typeId) ?? 'lipo';
      return { id: row.id, chemistry, verdict: row.verdict, storage: row.storage, row };
    })
    .sort(
      (a, b) => (a.row.slot ?? Infinity) - (b.row.slot ?? Infinity) || order.compare(a.row.tag, b.row.tag),
    );
  const placed = (id: PlaceId | null) =>
    packs.filter(({ row }) => row.placeId === id && row.holderId === null);
  return {
    places: register.places.map((place) => {
      const here = placed(place.id);
      return { place, packs: here, warnings: stowageWarnings(place, here, register.rules.rules) };
    }),
    inHands: packs.filter(({ row }) => row.holderId !== null),
    nowhere: placed(null),
  };
}

const order = new Intl.Collator('en', { numeric: true });

/** Whether the register would let this pack lie there: one out of use lies away from sound ones. */
export function mayLieIn({ verdict }: Pick<PlacedPack, 'verdict'>, { kind, setApart }: PlaceAnswer): boolean {
  return !isOutOfUse(verdict) || takesOutOfUse({ setApart, recycling: kind === 'recycling' });
}

/** What laying a pack there would newly make wrong, and a slot that is taken already. */
export function objections(
  { place, packs }: Stowed,
  pack: PlacedPack,
  slot: number | null,
  rules: RegisterAnswer['rules']['rules'],
): { readonly warnings: readonly StowageWarning[]; readonly takenBy: string | null } {
  const taken = packs.find(({ row }) => slot !== null && row.slot === slot && row.id !== pack.id);
  return { warnings: warningsAdded(place, packs, pack, rules), takenBy: taken?.row.tag ?? null };
}

export const MAP_COLUMNS = 24;

/** A place moved or resized on the map by so many cells, kept on it. */
export function shifted(area: MapArea, by: Partial<MapArea>): MapArea {
  const w = within(area.w + (by.w ?? 0), 2, MAP_COLUMNS);
  const h = within(area.h + (by.h ?? 0), 1, 20);
  return {
    w,
    h,
    x: within(area.x + (by.x ?? 0), 0, MAP_COLUMNS - w),
    y: within(area.y + (by.y ?? 0), 0, 40),
  };
}

function within(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, Math.round(value)));
}

/** Where a place that was never drawn begins: under everything that is. */
export function firstArea(places: readonly PlaceAnswer[]): MapArea {
  const bottom = Math.max(0, ...places.map(({ map }) => (map ? map.y + map.h : 0)));
  return { x: 0, y: Math.min(40, bottom), w: 8, h: 4 };
}
