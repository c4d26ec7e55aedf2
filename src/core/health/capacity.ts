import { CHEMISTRY, isLithium, soc, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import type { Instant, RecordId } from '../measure';
import type { PackHistory } from '../record';
import { standing } from './points';
import type { Point } from './points';

/** A rested reading, or a charge brought to full, that fixes a pack's charge at a moment. */
interface Fix {
  readonly at: Instant;
  readonly lowPercent: number;
  readonly percent: number;
  readonly highPercent: number;
  /** How far apart the cells were in charge, percent. */
  readonly apartPercent: number;
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
/** Cells further apart than this before a charge spoil it as a measurement. */
const MOST_APART_PERCENT = 2;
/** A measured capacity the meter's error could bend by more than this share is no measurement (LiFePO4's plateau). */
const MOST_UNSURE = 0.1;

/**
 * Capacity as measured over time, in percent of the label: charge moved between two moments at which the pack's charge
 * was known, divided by how far it moved. The weakest cell decides, so the lowest cell's charge is followed. A pair
 * with anything unlogged, too small a swing, or too flat a curve between gives nothing.
 */
export function capacityPoints(history: PackHistory, rested: readonly Reading[]): readonly Point[] {
  const { chemistry, capacityMah } = history.pack;
  if (!isLithium(chemistry)) return [];
  const fixes = fixesOf(history, rested, chemistry);
  const moves = movesOf(history);
  const points: Point[] = [];
  for (let i = 1; i < fixes.length; i++) {
    const from = fixes[i - 1]!;
    const to = fixes[i]!;
    const between = moves.filter(({ at }) => at > from.at && at <= to.at);
    if (between.length === 0 || between.some(({ mah }) => mah === null)) continue;
    const mah = between.reduce((sum, move) => sum + move.mah!, 0);
    const swing = to.percent - from.percent;
    const unsure = from.highPercent - from.lowPercent + to.highPercent - to.lowPercent;
    if (Math.abs(swing) < LEAST_SWING_PERCENT || unsure / 2 > Math.abs(swing) * MOST_UNSURE) continue;
    if (Math.sign(mah) !== Math.sign(swing)) continue;
    // What a charger bleeds off the higher cells it counts as moved; nobody can tell it from what the lowest took.
    if (swing > 0 && from.apartPercent > MOST_APART_PERCENT) continue;
    const value = (mah / swing / capacityMah) * 10_000;
    points.push({
      at: to.at,
      value,
      records: [...from.records, ...between.flatMap((move) => move.records), ...to.records],
    });
  }
  return points;
}

function fixesOf(history: PackHistory, rested: readonly Reading[], chemistry: LithiumChemistry): Fix[] {
  const { fullMv } = CHEMISTRY[chemistry];
  const fixes: Fix[] = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    at,
    ...soc(chemistry, Math.min(...cellsMv), meterErrorMv),
    apartPercent: socPercent(chemistry, Math.max(...cellsMv)) - socPercent(chemistry, Math.min(...cellsMv)),
    records,
  }));
  for (const { at, mode, ending, balanced, settings, records } of history.charges) {
    const topMv = settings.topMv ?? fullMv!;
    // Only a finished, balanced charge brings every cell to a known voltage.
    if (mode === 'balance' && ending === 'complete' && balanced !== false) {
      fixes.push({ at, ...soc(chemistry, topMv, TOP_ERROR_MV), apartPercent: 0, records });
    }
  }
  return fixes.sort((a, b) => a.at - b.at);
}

/** A charger's own top voltage is this good. The practice gives no figure; most state half a percent. */
const TOP_ERROR_MV = 10;

/** Charge in (positive) and out (negative) with its moment; null where it was not noted. */
function movesOf({ charges, flights }: PackHistory) {
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
