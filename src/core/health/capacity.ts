import { CHEMISTRY, isLithium, soc, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import type { Instant, RecordId } from '../measure';
import type { PackHistory } from '../record';
import { median, standing } from './points';
import type { Point } from './points';

/** A rested reading, or a charge brought to full, that fixes every cell's charge at a moment. */
interface Fix {
  readonly at: Instant;
  /** Per cell, percent. */
  readonly percents: readonly number[];
  /** How far a cell's charge may be off either way, percent. */
  readonly unsurePercent: number;
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
/** The weakest cell is found by this many of the latest measurements, so that it is weak and not unlucky. */
const WEAKEST_BY = 9;

/**
 * Capacity as measured over time, in percent of the label: charge moved between two moments at which the pack's charge
 * was known, divided by how far it moved. Every cell is measured by its own volts and the weakest is followed, since it
 * decides; taking the lowest volts each time instead would follow the meter's noise. A pair with anything unlogged, too
 * small a swing, or too flat a curve between gives nothing.
 */
export function capacityPoints(history: PackHistory, rested: readonly Reading[]): readonly Point[] {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return [];
  const fixes = fixesOf(history, rested, chemistry);
  const discharged = capacityOfCells(history, fixes, 'out');
  const cells = discharged[0]?.length ? discharged : capacityOfCells(history, fixes, 'in');
  if (!cells[0]?.length) return [];
  const latest = cells.map((points) => median(points.slice(-WEAKEST_BY).map(({ value }) => value)));
  return cells[latest.indexOf(Math.min(...latest))]!;
}

/**
 * What goes out passes every cell alike. What goes in is counted with what the balancer bled off the fuller cells, so a
 * charge flatters the weakest; it is used only where nothing else was logged.
 */
function capacityOfCells(
  { pack, charges, flights }: PackHistory,
  fixes: readonly Fix[],
  direction: 'in' | 'out',
): Point[][] {
  const moves = movesOf({ charges, flights }).sort((a, b) => a.at - b.at);
  const count = Math.max(0, ...fixes.map(({ percents }) => percents.length));
  const cells = Array.from({ length: count }, (): Point[] => []);
  let next = 0;
  for (let i = 1; i < fixes.length; i++) {
    const from = fixes[i - 1]!;
    const to = fixes[i]!;
    while (next < moves.length && moves[next]!.at <= from.at) next += 1;
    const first = next;
    while (next < moves.length && moves[next]!.at <= to.at) next += 1;
    const between = moves.slice(first, next);
    if (between.length === 0 || between.some(({ mah }) => mah === null)) continue;
    const mah = between.reduce((sum, move) => sum + move.mah!, 0);
    const swing = (cell: number) => cellPercent(to, cell) - cellPercent(from, cell);
    const least = Math.min(...cells.map((_, cell) => Math.abs(swing(cell))));
    if (least < LEAST_SWING_PERCENT || from.unsurePercent + to.unsurePercent > least * MOST_UNSURE) continue;
    if (Math.sign(mah) !== Math.sign(swing(0)) || mah > 0 !== (direction === 'in')) continue;
    const records = [...from.records, ...between.flatMap((move) => move.records), ...to.records];
    for (const [cell, points] of cells.entries())
      points.push({ at: to.at, value: (mah / swing(cell) / pack.capacityMah) * 10_000, records });
  }
  return cells;
}

/** A fix with one figure stands for every cell. */
function cellPercent({ percents }: Fix, cell: number): number {
  return percents[cell] ?? percents[0]!;
}

function fixesOf({ charges }: PackHistory, rested: readonly Reading[], chemistry: LithiumChemistry): Fix[] {
  const fixes: Fix[] = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    at,
    percents: cellsMv.map((mv) => socPercent(chemistry, mv)),
    unsurePercent: unsure(chemistry, Math.min(...cellsMv), meterErrorMv),
    records,
  }));
  for (const { at, mode, ending, balanced, settings, records } of charges) {
    // Only a finished, balanced charge brings every cell to a known voltage.
    if (mode !== 'balance' || ending !== 'complete' || balanced === false) continue;
    const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv!;
    const percents = [socPercent(chemistry, topMv)];
    fixes.push({ at, percents, unsurePercent: unsure(chemistry, topMv, TOP_ERROR_MV), records });
  }
  return fixes.sort((a, b) => a.at - b.at);
}

function unsure(chemistry: LithiumChemistry, mv: number, errorMv: number): number {
  const { lowPercent, highPercent } = soc(chemistry, mv, errorMv);
  return (highPercent - lowPercent) / 2;
}

/** Charge in (positive) and out (negative) with its moment; null where it was not noted. */
function movesOf({ charges, flights }: Pick<PackHistory, 'charges' | 'flights'>) {
  return [
    ...charges.map(({ at, mode, movedMah, endCellsMv, startCellsMv, records }) => ({
      at,
      mah: signed(movedMah, mode, startCellsMv, endCellsMv),
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

/** The share of its label a pack still holds, 0 to 1 or a little more; 1 while nothing was measured. Median of three. */
export function healthShare(history: PackHistory, rested: readonly Reading[]): number {
  return (standing(capacityPoints(history, rested))?.value ?? 100) / 100;
}
