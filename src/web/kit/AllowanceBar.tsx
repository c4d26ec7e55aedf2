import { hoursBetween } from '../../core/measure';
import type { Instant } from '../../core/measure';

/** Hours used of hours allowed. Past the allowance it is full and hatched; the words beside it say by how much. */
export function AllowanceBar({
  since,
  allowanceHours,
  now,
  short = false,
}: {
  since: Instant;
  allowanceHours: number;
  now: Instant;
  /** For a table's column. */
  short?: boolean;
}) {
  const used = hoursBetween(since, now);
  const overdue = used >= allowanceHours;
  return (
    <span
      role="img"
      aria-label={`${Math.floor(used)} of ${allowanceHours} hours used`}
      className={`inline-block h-2 ${short ? 'w-12' : 'w-24'} shrink-0 border border-rule align-middle ${overdue ? 'hatched' : ''}`}
    >
      {!overdue && (
        <span className="block h-full bg-used" style={{ width: `${(used / allowanceHours) * 100}%` }} />
      )}
    </span>
  );
}
