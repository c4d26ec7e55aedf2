import { CHEMISTRY } from '../chemistry';
import type { Chemistry } from '../chemistry';

/** What a meter shows now. */
export interface MeterShows {
  readonly contact: string;
  readonly cellsMv: readonly number[] | null;
  readonly packMv: number | null;
}

/** What of a meter's reading may go to a pack. `taken`: this contact has filled another pack's row already. */
export type Offer =
  | { readonly code: 'nothing' }
  | { readonly code: 'taken'; readonly tag: string }
  | { readonly code: 'cells'; readonly shown: number; readonly wanted: number }
  | { readonly code: 'volts'; readonly cell: number; readonly mv: number }
  | { readonly code: 'total-only' }
  | { readonly code: 'fits'; readonly cellsMv: readonly number[] }
  | { readonly code: 'fits-total'; readonly packMv: number };

/** No cell of any chemistry here reads above this share of its full voltage; a meter that says so is set or plugged wrong. */
const ABOVE_FULL_MV = 150;

/**
 * Whether what a meter shows can be this pack. It says nothing about whether it *is* this pack: a meter reads no label.
 * @param taken the pack whose row this contact has filled; null where it has filled none
 * @example offerOf({ chemistry: 'lipo', series: 4 }, { contact: 'a', cellsMv: [3840, 3830], packMv: null }, null) // => { code: 'cells', shown: 2, wanted: 4 }
 */
export function offerOf(
  pack: { readonly chemistry: Chemistry; readonly series: number },
  shows: MeterShows | null,
  taken: string | null,
): Offer {
  if (!shows || (shows.cellsMv === null && shows.packMv === null)) return { code: 'nothing' };
  if (taken !== null) return { code: 'taken', tag: taken };
  const facts = CHEMISTRY[pack.chemistry];
  if (shows.cellsMv === null)
    return facts.cellTaps && pack.series > 1
      ? { code: 'total-only' }
      : pack.series === 1 && facts.cellTaps
        ? { code: 'fits', cellsMv: [shows.packMv!] }
        : { code: 'fits-total', packMv: shows.packMv! };
  if (!facts.cellTaps && shows.cellsMv.length === 1) return { code: 'fits-total', packMv: shows.cellsMv[0]! };
  if (shows.cellsMv.length !== pack.series)
    return { code: 'cells', shown: shows.cellsMv.length, wanted: pack.series };
  const odd = shows.cellsMv.findIndex(
    (mv) => mv < 0 || (facts.fullMv !== null && mv > facts.fullMv + ABOVE_FULL_MV),
  );
  if (odd !== -1) return { code: 'volts', cell: odd + 1, mv: shows.cellsMv[odd]! };
  return { code: 'fits', cellsMv: shows.cellsMv };
}
