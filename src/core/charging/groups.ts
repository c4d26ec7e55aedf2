import type { Board } from './equipment';

/** What joining packs on a board asks to know of each. */
export interface Joinable {
  readonly chemistry: string;
  readonly series: number;
  /** Its volts per cell, rested millivolts. */
  readonly mv: number;
}

/** Packs that go onto a board together, and those that are left over. */
export interface Grouping<Pack> {
  readonly groups: readonly (readonly Pack[])[];
  readonly remainder: readonly Pack[];
}

/**
 * Packs sorted into loads for a board, nearest volts together. A parallel board takes two packs or more of one chemistry and
 * cell count; a series board takes single cells, and only as many as it has ports: a board with an empty port is no circuit. What does
 * not fill a board is the remainder, named and not dropped.
 */
export function groupsFor<Pack extends Joinable>(board: Board, packs: readonly Pack[]): Grouping<Pack> {
  const sorted = [...packs].sort((a, b) => a.mv - b.mv);
  const groups: Pack[][] = [];
  const remainder: Pack[] = [];
  const kinds = new Set(sorted.map(({ chemistry, series }) => `${chemistry} ${series}`));
  for (const kind of kinds) {
    const alike = sorted.filter(({ chemistry, series }) => `${chemistry} ${series}` === kind);
    if (board.wiring === 'series' && alike[0]!.series !== 1) remainder.push(...alike);
    else gather(board, alike, groups, remainder);
  }
  return { groups, remainder };
}

function gather<Pack extends Joinable>(
  board: Board,
  alike: readonly Pack[],
  groups: Pack[][],
  remainder: Pack[],
): void {
  const least = board.wiring === 'series' ? board.ports : 2;
  let open: Pack[] = [];
  const close = () => {
    if (open.length >= least) groups.push(open);
    else remainder.push(...open);
    open = [];
  };
  for (const pack of alike) {
    if (open.length > 0 && !withinTolerance(board, [...open, pack])) {
      if (board.wiring === 'parallel') close();
      // The lowest of a series load that cannot be filled makes room for the next.
      else while (open.length > 0 && !withinTolerance(board, [...open, pack])) remainder.push(open.shift()!);
    }
    open.push(pack);
    if (open.length === board.ports) close();
  }
  close();
}

/**
 * Whether packs lie close enough for this board, the limit itself included.
 * @example withinTolerance({ toleranceMv: 300 }, [{ mv: 3400 }, { mv: 3700 }]) // => true
 * @example withinTolerance({ toleranceMv: 50 }, [{ mv: 3700 }, { mv: 3751 }]) // => false
 */
export function withinTolerance(
  { toleranceMv }: Pick<Board, 'toleranceMv'>,
  packs: readonly Pick<Joinable, 'mv'>[],
): boolean {
  const volts = packs.map(({ mv }) => mv);
  return Math.max(...volts) - Math.min(...volts) <= toleranceMv;
}

/**
 * The current that flows between two packs that are joined at different volts, amps: ΔV·S ÷ (R1 + R2), both through all their
 * cells in series. Source: the practice.
 * @example equalisingAmps({ series: 4, differenceMv: 50, cellMilliohm: [2, 2] }) // => 12.5
 */
export function equalisingAmps({
  series,
  differenceMv,
  cellMilliohm: [one, other],
}: {
  readonly series: number;
  readonly differenceMv: number;
  readonly cellMilliohm: readonly [number, number];
}): number {
  return (differenceMv * series) / ((one + other) * series);
}

/**
 * What each slot of a series board read, from what the charger shows cell by cell: the board's map says which cell each slot is.
 * @returns null where the map does not name each shown cell once
 * @example slotReadings([4, 3, 2, 1], [4100, 4110, 4120, 4130]) // => [4130, 4120, 4110, 4100]
 * @example slotReadings([1, 1], [4100, 4110]) // => null
 */
export function slotReadings(
  slotCells: readonly number[],
  shownMv: readonly number[],
): readonly number[] | null {
  const named = new Set(slotCells);
  const complete =
    named.size === shownMv.length &&
    slotCells.length === shownMv.length &&
    slotCells.every((cell) => shownMv[cell - 1] !== undefined);
  return complete ? slotCells.map((cell) => shownMv[cell - 1]!) : null;
}
