import type { Lines } from '../../rules';
import type { Severity } from '../finding';

/** Ratios of measured figures miss their line by a floating-point hair: 6.3 ÷ 4.2 is to reach × 1.5. */
export const ROUNDING = 1e-9;

/**
 * How grave a value that rises past its lines is; null while it is on the right side of both. A line itself counts as reached.
 * @example risenTo(79, { watch: 80, retire: 100 }) // => null
 * @example risenTo(80, { watch: 80, retire: 100 }) // => 'watch'
 * @example risenTo(6.3 / 4.2, { watch: 1.3, retire: 1.5 }) // => 'retire'
 */
export function risenTo(value: number, lines: Lines): Severity | null {
  if (value >= lines.retire - ROUNDING) return 'retire';
  return value >= lines.watch - ROUNDING ? 'watch' : null;
}
