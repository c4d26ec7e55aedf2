import { volts } from '../../core/wording';

/** "3.83–3.85", or one figure where all say the same. */
export function cellsRange(cellsMv: readonly number[]): string {
  const [lowest, highest] = [Math.min(...cellsMv), Math.max(...cellsMv)];
  return lowest === highest ? volts(lowest) : `${volts(lowest)}–${volts(highest)}`;
}
