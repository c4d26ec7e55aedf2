import type { Instant } from '../measure';

/**
 * What was plugged into a meter, from the moment it was until it was taken off. A reading belongs to one contact, and one contact
 * fills one row: so that the meter's next line, still of the same pack, does not land on the next one.
 */
export interface Contact {
  /** Counted by the meter or its bridge; another number is another plugging-in. */
  readonly no: number;
  readonly at: Instant;
  readonly cellsMv: readonly number[];
}

/** A meter that says nothing for so long has been unplugged. */
const SILENCE_MS = 4_000;
/** A cell that moves by more than this from one line to the next is another pack's. */
const JUMP_MV = 60;

/**
 * Which contact a line belongs to, for a meter that prints its readings without saying when something was plugged in: a new one after
 * silence, with another number of cells, or where a cell jumped.
 */
export function contactAfter(last: Contact | null, cellsMv: readonly number[], at: Instant): Contact {
  const isSame =
    last !== null &&
    at - last.at <= SILENCE_MS &&
    cellsMv.length === last.cellsMv.length &&
    cellsMv.every((mv, i) => Math.abs(mv - last.cellsMv[i]!) <= JUMP_MV);
  return { no: (last?.no ?? 0) + (isSame ? 0 : 1), at, cellsMv };
}

/** Cells that a device prints one a line, gathered until they are all there: the first of the next reading closes them. */
export interface Gathering {
  readonly cells: readonly number[];
}

/**
 * Takes one more cell. A reading is whole when its first cell comes again; a line that is missing spoils the reading it is missing from.
 * @returns the cells of a reading that is whole now, or null, and what is gathered from here on
 */
export function gathered(
  before: Gathering,
  cell: { readonly no: number; readonly mv: number },
): { readonly whole: readonly number[] | null; readonly next: Gathering } {
  if (cell.no === 1)
    return { whole: before.cells.length > 0 ? before.cells : null, next: { cells: [cell.mv] } };
  if (cell.no === before.cells.length + 1)
    return { whole: null, next: { cells: [...before.cells, cell.mv] } };
  return { whole: null, next: { cells: [] } };
}
