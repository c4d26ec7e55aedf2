import { restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { DAY_MS } from '../measure';
import { bell } from './random';
import type { Random } from './random';

/** A pack of cells that charge, drain and drift as real ones do. Charge in percent per cell. */
export interface SimPack {
  readonly chemistry: LithiumChemistry;
  readonly cells: readonly SimCell[];
}

interface SimCell {
  readonly socPercent: number;
  /** Charge a cell loses by itself, percent a month. */
  readonly leakPercentPerMonth: number;
  /** This cell's capacity against the label; a weaker cell empties further for the same charge drawn. */
  readonly capacityShare: number;
}

/** Charge a sound pack loses on the shelf. Source: the practice's figure for packs without their own bleed. */
const LEAK_PERCENT_PER_MONTH = 3;
const MONTH_MS = 30 * DAY_MS;

/** A new pack, all cells at one voltage but for the maker's tolerance. */
export function newSimPack(chemistry: LithiumChemistry, series: number, mv: number, random: Random): SimPack {
  const cells = Array.from({ length: series }, () => ({
    socPercent: clamp(socPercent(chemistry, mv) + bell(random) * 0.3),
    leakPercentPerMonth: LEAK_PERCENT_PER_MONTH * (1 + bell(random) * 0.05),
    capacityShare: 1 + bell(random) * 0.004,
  }));
  return { chemistry, cells };
}

/** The pack after lying for a while. */
export function rest(pack: SimPack, elapsedMs: number): SimPack {
  return mapCells(pack, (cell) => cell.socPercent - (cell.leakPercentPerMonth * elapsedMs) / MONTH_MS);
}

/** The pack after a use that took this share of the label's capacity out of every cell. */
export function draw(pack: SimPack, percent: number): SimPack {
  return mapCells(pack, (cell) => cell.socPercent - percent / cell.capacityShare);
}

/** The pack after a charge or discharge, balanced, that ended with every cell at this rested voltage. */
export function balanceTo(pack: SimPack, mv: number, random: Random): SimPack {
  const target = socPercent(pack.chemistry, mv);
  return mapCells(pack, () => target + bell(random) * 0.15);
}

/** The pack with one cell (numbered from 1) gone weak: it holds less and leaks more. */
export function weaken(
  pack: SimPack,
  cell: number,
  capacityShare: number,
  leakPercentPerMonth: number,
): SimPack {
  return {
    ...pack,
    cells: pack.cells.map((one, i) =>
      i + 1 === cell ? { ...one, capacityShare, leakPercentPerMonth } : one,
    ),
  };
}

/** What a meter shows of the rested pack: millivolts per cell to the hundredth of a volt, with the meter's own noise. */
export function readCells(pack: SimPack, random: Random, noiseMv = 2): number[] {
  return pack.cells.map((cell) => {
    const mv = restMv(pack.chemistry, cell.socPercent) + bell(random) * noiseMv;
    return Math.max(0, Math.round(mv / 10) * 10);
  });
}

function mapCells(pack: SimPack, socOf: (cell: SimCell) => number): SimPack {
  return { ...pack, cells: pack.cells.map((cell) => ({ ...cell, socPercent: clamp(socOf(cell)) })) };
}

function clamp(percent: number): number {
  return Math.min(100, Math.max(0, percent));
}
