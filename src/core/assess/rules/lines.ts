import type { Lines } from '../../rules';
import type { Severity } from '../finding';

/** How grave a value that rises past its lines is; null while it is on the right side of both. A line itself counts as reached. */
export function risenTo(value: number, lines: Lines): Severity | null {
  if (value >= lines.retire) return 'retire';
  return value >= lines.watch ? 'watch' : null;
}

/** The same for a value that falls. */
export function fallenTo(value: number, lines: Lines): Severity | null {
  if (value <= lines.retire) return 'retire';
  return value <= lines.watch ? 'watch' : null;
}
