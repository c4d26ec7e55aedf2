import type { Lines } from '../../rules';
import type { Severity } from '../finding';

/** Ratios of measured figures miss their line by a floating-point hair: 6.3 ÷ 4.2 is to reach × 1.5. */
export const ROUNDING = 1e-9;

/** How grave a value that rises past its lines is; null while it is on the right side of both. A line itself counts as reached. */
export function risenTo(value: number, lines: Lines): Severity | null {
  if (value >= lines.retire - ROUNDING) return 'retire';
  return value >= lines.watch - ROUNDING ? 'watch' : null;
}
