import { isLithium } from '../chemistry';
import { restedReadings } from '../assess';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { selfStoredAt } from '../storage';

/** Something about typed cells that a slip of the finger would explain: asked once, then believed. */
export type Unusual =
  | {
      readonly code: 'moved';
      readonly cell: number;
      readonly mv: number;
      readonly beforeMv: number;
      readonly beforeAt: Instant;
    }
  | { readonly code: 'apart'; readonly cell: number; readonly mv: number; readonly othersMv: number };

/** More than self-discharge, a meter and a day's temperature explain, millivolts. */
const MOVED_MV = 120;
/** A cell this far from the middle of its siblings is either dying or mistyped, millivolts. */
const APART_MV = 150;

/**
 * What is unusual about cells as typed: a cell that moved although nothing was charged or flown since it was last read, or
 * one far from its siblings that was not so before. Null for nothing, and for a pack read by its total.
 */
export function unusual(
  history: PackHistory,
  rules: HouseRules,
  cellsMv: readonly number[],
  now: Instant,
): Unusual | null {
  const { pack, charges, flights } = history;
  if (!isLithium(pack.chemistry) || cellsMv.length !== pack.series) return null;
  const before = restedReadings(history, rules).rested.at(-1) ?? null;
  const comparable = before?.byCell ? before : null;
  const apart = farthestCell(cellsMv);
  if (apart && !(comparable && wasApart(comparable.cellsMv, apart.cell))) return { code: 'apart', ...apart };
  if (!comparable) return null;
  const workedSince = [...charges, ...flights].some(({ at }) => at > comparable.at);
  const bledAt = selfStoredAt(pack, comparable.at, rules);
  if (workedSince || (bledAt !== null && now > comparable.at + (bledAt - comparable.at) / 4)) return null;
  const moves = cellsMv.map((mv, i) => Math.abs(mv - comparable.cellsMv[i]!));
  const most = Math.max(...moves);
  if (most < MOVED_MV) return null;
  const i = moves.indexOf(most);
  return {
    code: 'moved',
    cell: i + 1,
    mv: cellsMv[i]!,
    beforeMv: comparable.cellsMv[i]!,
    beforeAt: comparable.at,
  };
}

function farthestCell(cellsMv: readonly number[]): { cell: number; mv: number; othersMv: number } | null {
  if (cellsMv.length < 2) return null;
  const middle = cellsMv.map((_, i) => middleOf(cellsMv.filter((_mv, other) => other !== i)));
  const distance = cellsMv.map((mv, i) => Math.abs(mv - middle[i]!));
  const most = Math.max(...distance);
  const i = distance.indexOf(most);
  return most >= APART_MV ? { cell: i + 1, mv: cellsMv[i]!, othersMv: middle[i]! } : null;
}

function wasApart(cellsMv: readonly number[], cell: number): boolean {
  const apart = farthestCell(cellsMv);
  return apart?.cell === cell;
}

function middleOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return Math.round((sorted[Math.floor(half)]! + sorted[Math.ceil(half) - 1]!) / 2);
}
