import { CHEMISTRY, isLithium, soc, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { countWhile, DAY_MS, HOUR_MS } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackHistory } from '../record';
import { leakedPercent } from '../storage';
import { median, currentValue } from './points';
import type { Point } from './points';

/** A rested reading, or a charge brought to full, that fixes every cell's charge at a moment. */
interface Fix {
  readonly at: Instant;
  /** Per cell, percent. */
  readonly percents: readonly number[];
  /** How far a cell's charge may be off either way, percent. */
  readonly unsurePercent: number;
  /** Its standard error, percent: what a meter's noise makes of it there. */
  readonly errorPercent: number;
  readonly records: readonly RecordId[];
}

interface Reading {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly meterErrorMv: number;
  readonly records: readonly RecordId[];
}

/** Less charge moved than this between two fixes says too little about the whole. */
const LEAST_SWING_PERCENT = 40;
/** A measured capacity the meter's error could bend by more than this share is no measurement (LiFePO4's plateau). */
const MOST_UNSURE = 0.08;
/** A charger's own top voltage is this good. The practice gives no figure; most state half a percent. */
const TOP_ERROR_MV = 10;
/** Between two moments further apart than this more happens than anybody logs, days. */
const FARTHEST_APART_DAYS = 14;
/** Within two days a leak is less than any meter shows. */
const LEAKS_AFTER_MS = 2 * DAY_MS;
/** The weakest cell is found by this many of the latest measurements, so that it is weak and not unlucky. */
const WEAKEST_BY = 30;

/** One measured capacity, percent of the label, and its standard error by the meters, percent of the label. */
export interface CapacityPoint extends Point {
  readonly error: number;
}

/** Charge counted by a craft or a charger is this good. The practice gives no figure; common hardware is. */
const COUNTED_ERROR = 0.015;
/** Noise of one reading: 3 mV, and rounding to the hundredth of a volt. */
const READING_NOISE_MV = 4.2;
/** A balanced full charge fixes every cell to about this, percent. */
const FULL_ERROR_PERCENT = 0.3;

const NONE: ReadonlySet<RecordId> = new Set();

/** What measured the capacity of every cell, and the two that matter: how much goes into a pack follows the cell that takes the most. */
export interface CapacityEnds {
  readonly weakest: readonly CapacityPoint[];
  readonly strongest: readonly CapacityPoint[];
  readonly direction: Direction;
  /** Cell by cell, as many points for each. */
  readonly cells: readonly (readonly CapacityPoint[])[];
}

type Direction = 'in' | 'out';

/**
 * Capacity as measured over time, in percent of the label: charge moved between two moments at which the pack's charge
 * was known, divided by how far it moved. Every cell is measured by its own volts and the weakest is followed, since it
 * decides; taking the lowest volts each time instead would follow the meter's noise. A pair with anything unlogged, too
 * small a swing, or too flat a curve between gives nothing; neither does one in which a smart pack may have bled itself. What
 * leaked meanwhile is counted as gone.
 * @param odd charges that cannot be right: nothing is concluded from them
 */
export function capacityOfEnds(
  history: PackHistory,
  rested: readonly Reading[],
  odd: ReadonlySet<RecordId> = NONE,
): CapacityEnds {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return { weakest: [], strongest: [], direction: 'in', cells: [] };
  const fixes = fixesOf(history, rested, chemistry, odd);
  const count = cellsOf(fixes);
  const discharged = capacityOfCells(history, fixes, 'out', odd, count);
  return discharged[0]?.length
    ? endsOf('out', discharged)
    : endsOf('in', capacityOfCells(history, fixes, 'in', odd, count));
}

function endsOf(direction: Direction, cells: CapacityEnds['cells']): CapacityEnds {
  if (!cells[0]?.length) return { weakest: [], strongest: [], direction, cells };
  const latest = cells.map((points) => median(points.slice(-WEAKEST_BY).map(({ value }) => value)));
  return {
    weakest: cells[latest.indexOf(Math.min(...latest))]!,
    strongest: cells[latest.indexOf(Math.max(...latest))]!,
    direction,
    cells,
  };
}

/**
 * The same going on from what the first records measured; null where those measure something else now: another cell is the weakest or the strongest,
 * or charge that went out was counted for the first time.
 * @param before the readings and charges of those records: the first ones of the history's
 */
export function capacityOfEndsOn(
  was: CapacityEnds,
  history: PackHistory,
  rested: readonly Reading[],
  before: { readonly rested: readonly Reading[]; readonly charges: PackHistory['charges'] },
  odd: ReadonlySet<RecordId> = NONE,
): CapacityEnds | null {
  const { pack, charges, flights } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return was;
  const lastFix = Math.max(
    before.rested.at(-1)?.at ?? -Infinity,
    before.charges.findLast((charge) => fixesCharge(charge, odd))?.at ?? -Infinity,
  );
  const since = <One extends { readonly at: Instant }>(list: readonly One[]) =>
    list.slice(countWhile(list, ({ at }) => at < lastFix));
  const late = { pack, charges: since(charges), flights: since(flights) };
  const fixes = fixesOf(late, since(rested), chemistry, odd);
  const count = was.cells.length;
  if (cellsOf(fixes) > count) return null;
  const measured = (direction: Direction) => capacityOfCells(late, fixes, direction, odd, count);
  if (was.direction === 'in' && measured('out')[0]?.length) return null;
  const more = measured(was.direction);
  if (!more[0]?.length) return was;
  const ends = endsOf(
    was.direction,
    was.cells.map((points, cell) => [...points, ...more[cell]!]),
  );
  const isOfCell = (now: readonly CapacityPoint[], then: readonly CapacityPoint[]) =>
    ends.cells.indexOf(now) === was.cells.indexOf(then);
  const isSame = isOfCell(ends.weakest, was.weakest) && isOfCell(ends.strongest, was.strongest);
  return was.weakest.length === 0 || isSame ? ends : null;
}

/** How many cells are told apart. */
function cellsOf(fixes: readonly Fix[]): number {
  return Math.max(0, ...fixes.map(({ percents }) => percents.length));
}

/**
 * What goes out passes every cell alike. What goes in is counted with what the balancer bled off the fuller cells, so a
 * charge flatters the weakest; it is used only where nothing else was logged.
 */
function capacityOfCells(
  { pack, charges, flights }: Pick<PackHistory, 'pack' | 'charges' | 'flights'>,
  fixes: readonly Fix[],
  direction: Direction,
  odd: ReadonlySet<RecordId>,
  count: number,
): CapacityPoint[][] {
  const moves = movesOf({ charges, flights }, odd).sort((a, b) => a.at - b.at);
  const cells = Array.from({ length: count }, (): CapacityPoint[] => []);
  let next = 0;
  for (let i = 1; i < fixes.length; i++) {
    const from = fixes[i - 1]!;
    const to = fixes[i]!;
    while (next < moves.length && moves[next]!.at <= from.at) next += 1;
    const first = next;
    while (next < moves.length && moves[next]!.at <= to.at) next += 1;
    const between = moves.slice(first, next);
    if (between.length === 0 || between.some(({ mah }) => mah === null)) continue;
    if (to.at - from.at > FARTHEST_APART_DAYS * DAY_MS || mayHaveBled(pack, from.at, between, to.at))
      continue;
    const apart = to.at - from.at;
    const leaked = apart < LEAKS_AFTER_MS ? 0 : leakedPercent(apart);
    const mah = between.reduce((sum, move) => sum + move.mah!, 0);
    // What leaked is gone without having been counted by anybody.
    const swings: number[] = [];
    let least = Infinity;
    for (let cell = 0; cell < count; cell++) {
      const swing = cellPercent(to, cell) - cellPercent(from, cell) + leaked;
      swings.push(swing);
      least = Math.min(least, Math.abs(swing));
    }
    if (least < LEAST_SWING_PERCENT || from.unsurePercent + to.unsurePercent > least * MOST_UNSURE) continue;
    if (Math.sign(mah) !== Math.sign(swings[0]!) || mah > 0 !== (direction === 'in')) continue;
    const records = [...from.records, ...between.flatMap((move) => move.records), ...to.records];
    const share = Math.hypot(COUNTED_ERROR, Math.hypot(from.errorPercent, to.errorPercent) / least);
    for (const [cell, points] of cells.entries()) {
      const value = (mah / swings[cell]! / pack.capacityMah) * 10_000;
      points.push({ at: to.at, value, error: value * share, records });
    }
  }
  return cells;
}

/** Whether a pack that stores itself lay alone for longer than its own delay somewhere in between. */
function mayHaveBled(
  { smart }: PackHistory['pack'],
  from: Instant,
  between: readonly { readonly at: Instant }[],
  to: Instant,
): boolean {
  if (!smart?.autoStorage) return false;
  const moments = [from, ...between.map(({ at }) => at), to];
  return moments.some((at, i) => i > 0 && at - moments[i - 1]! > smart.autoStorageAfterHours * HOUR_MS);
}

/** A fix with one figure stands for every cell. */
function cellPercent({ percents }: Fix, cell: number): number {
  return percents[cell] ?? percents[0]!;
}

function fixesOf(
  { charges }: Pick<PackHistory, 'charges'>,
  rested: readonly Reading[],
  chemistry: LithiumChemistry,
  odd: ReadonlySet<RecordId>,
): Fix[] {
  const fixes: Fix[] = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    at,
    percents: cellsMv.map((mv) => socPercent(chemistry, mv)),
    unsurePercent: unsure(chemistry, Math.min(...cellsMv), meterErrorMv),
    errorPercent: unsure(chemistry, Math.min(...cellsMv), READING_NOISE_MV),
    records,
  }));
  for (const charge of charges) {
    if (!fixesCharge(charge, odd)) continue;
    const { at, settings, records } = charge;
    const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv!;
    const percents = [socPercent(chemistry, topMv)];
    const unsurePercent = unsure(chemistry, topMv, TOP_ERROR_MV);
    fixes.push({ at, percents, unsurePercent, errorPercent: FULL_ERROR_PERCENT, records });
  }
  return fixes.sort((a, b) => a.at - b.at);
}

/** Only a finished, balanced charge brings every cell to a known voltage. */
function fixesCharge(
  { mode, ending, balanced, records }: PackHistory['charges'][number],
  odd: ReadonlySet<RecordId>,
): boolean {
  return mode === 'balance' && ending === 'complete' && balanced !== false && !odd.has(records[0]!);
}

function unsure(chemistry: LithiumChemistry, mv: number, errorMv: number): number {
  const { lowPercent, highPercent } = soc(chemistry, mv, errorMv);
  return (highPercent - lowPercent) / 2;
}

/** Charge in (positive) and out (negative) with its moment; null where it was not noted. */
function movesOf({ charges, flights }: Pick<PackHistory, 'charges' | 'flights'>, odd: ReadonlySet<RecordId>) {
  return [
    ...charges.map(({ at, mode, movedMah, endCellsMv, startCellsMv, records }) => ({
      at,
      mah: odd.has(records[0]!) ? null : signed(movedMah, mode, startCellsMv, endCellsMv),
      records,
    })),
    ...flights.map(({ at, usedMah, records }) => ({ at, mah: usedMah === null ? null : -usedMah, records })),
  ];
}

function signed(
  mah: number | null,
  mode: string,
  startCellsMv: readonly number[] | null,
  endCellsMv: readonly number[] | null,
): number | null {
  if (mah === null || mode === 'balance' || mode === 'fast') return mah;
  if (mode === 'discharge') return -mah;
  // A storage job goes either way; without its volts nobody can say which.
  if (!startCellsMv || !endCellsMv) return null;
  return Math.min(...endCellsMv) >= Math.min(...startCellsMv) ? mah : -mah;
}

/** Fewer measurements than this say nothing that a slip could not explain. Source: the practice: three that agree. */
export const AGREEING = 3;
/** A capacity outside this share of the label was mistyped or belongs to another pack. */
const PLAUSIBLE_PERCENT = { low: 30, high: 130 } as const;

/**
 * Whether a capacity, in percent of the label, may be this pack's: outside it was mistyped.
 * @example isPlausible({ value: 84 }) // => true
 * @example isPlausible({ value: 12 }) // => false
 */
export function isPlausible({ value }: Pick<Point, 'value'>): boolean {
  return value >= PLAUSIBLE_PERCENT.low && value <= PLAUSIBLE_PERCENT.high;
}

/**
 * The share of its label a pack still holds at a moment, 0 to 1 or a little more: the median of the latest three measurements
 * up to then, or 1 while nothing plausible was measured.
 */
export function healthShare(points: readonly Point[], at: Instant = Infinity): number {
  const known = points.filter((point) => point.at <= at && isPlausible(point));
  return (currentValue(known, AGREEING)?.value ?? 100) / 100;
}
