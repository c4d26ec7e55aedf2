import type { PackRow, PackTypeAnswer } from '../../contract';
import type { HouseRules } from '../../core/rules';
import { CellLadder } from '../kit/CellLadder';
import { cellsRange } from './cellsRange';

/** A pack's cells as last read, at row height: the ladder, and from the lowest to the highest. */
export function RowCells({ pack, type, rules }: { pack: PackRow; type: PackTypeAnswer; rules: HouseRules }) {
  if (!pack.cellsMv) return null;
  return (
    <span className="flex items-center gap-2 max-sm:hidden">
      <CellLadder chemistry={type.chemistry} cellsMv={pack.cellsMv} rules={rules} />
      <span className="w-28 font-mono">{cellsRange(pack.cellsMv)}</span>
    </span>
  );
}
