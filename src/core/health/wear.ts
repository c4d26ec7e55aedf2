import { DAY_MS } from '../measure';
import type { Instant, RecordId } from '../measure';
import type { PackHistory } from '../record';

/** Full cycles a pack has gone through, and for how many of them the charge had to be guessed. */
export interface Cycles {
  readonly count: number;
  /** Uses whose charge nobody noted; each counted as one that took out what the rules allow. */
  readonly guessed: number;
  readonly records: readonly RecordId[];
}

/**
 * Charge throughput ÷ capacity: what went in, or what was used, whichever is more, since one of the two is often not
 * written down. What it had behind it when it came is counted in.
 * @param deepestPercent what a use with nothing noted is taken to have used
 */
export function cycles({ pack, before, charges, flights }: PackHistory, deepestPercent: number): Cycles {
  const guess = (deepestPercent / 100) * pack.capacityMah;
  let charged = 0;
  let unnotedCharges = 0;
  for (const { mode, movedMah } of charges) {
    if (mode === 'discharge' || mode === 'storage') continue;
    charged += movedMah ?? guess;
    if (movedMah === null) unnotedCharges += 1;
  }
  let used = 0;
  let unnotedFlights = 0;
  for (const { usedMah } of flights) {
    used += usedMah ?? guess;
    if (usedMah === null) unnotedFlights += 1;
  }
  const byCharge = charged >= used;
  return {
    count: (before?.cycles ?? 0) + (byCharge ? charged : used) / pack.capacityMah,
    guessed: byCharge ? unnotedCharges : unnotedFlights,
    records: (byCharge ? charges : flights).at(-1)?.records ?? [],
  };
}

const YEAR_MS = 365.25 * DAY_MS;

/** Years in service; null for a pack nobody has received yet. */
export function ageYears({ pack, receivedAt }: PackHistory, now: Instant): number | null {
  const since = pack.inServiceAt ?? receivedAt;
  return since === null ? null : Math.max(0, now - since) / YEAR_MS;
}
