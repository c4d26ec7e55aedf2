import { CHEMISTRY, isLithium } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import type { Instant, RecordId } from '../measure';
import { chargeRateC } from '../record';
import type { ChargeEvent, PackHistory } from '../record';

/** One rested reading of every cell, as the clock needs it. */
export interface RestedCells {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly meterErrorMv?: number;
  readonly records: readonly RecordId[];
}

interface Happened {
  readonly at: Instant;
  readonly records: readonly RecordId[];
}

/** One thing that tells where a pack stands towards its storage band, or that nobody knows any more. */
export type StorageEvidence =
  | (RestedCells & { readonly kind: 'read' })
  /**
   * A charge ended, and where: its end volts cell by cell, or the top voltage a finished charge went to (one figure for every
   * cell). `taper` was taken off before the last of it; `loose` was broken off, so its volts were still under charge.
   */
  | (Happened & {
      readonly kind: 'charged';
      readonly cellsMv: readonly number[];
      readonly how: 'ends' | 'top' | 'taper' | 'loose';
      readonly rateC: number | null;
    })
  /** A charge was broken off, and only what went in is known. */
  | (Happened & { readonly kind: 'filled'; readonly movedMah: number; readonly rateC: number | null })
  /** A storage job ended; only a rested reading will confirm it. */
  | (Happened & { readonly kind: 'stored' })
  /** Flown or drained: what is left is not known until it is read. */
  | (Happened & { readonly kind: 'used'; readonly usedMah: number | null })
  /** Something was charged or taken out, and nobody noted what it came to. */
  | (Happened & { readonly kind: 'unknown' });

/** All that the records tell about a pack's charge, oldest first. */
export function storageEvidence(
  history: Pick<PackHistory, 'pack' | 'charges' | 'flights'>,
  rested: readonly RestedCells[],
): readonly StorageEvidence[] {
  const { pack, charges, flights } = history;
  const evidence: StorageEvidence[] = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    kind: 'read',
    at,
    cellsMv,
    ...(meterErrorMv === undefined ? {} : { meterErrorMv }),
    records,
  }));
  const { chemistry } = pack;
  if (!isLithium(chemistry) || (charges.length === 0 && flights.length === 0)) return evidence;
  for (const charge of charges) evidence.push(chargeEvidence(pack.capacityMah, chemistry, charge));
  for (const { at, usedMah, records } of flights) evidence.push({ kind: 'used', at, usedMah, records });
  return evidence.sort((a, b) => a.at - b.at);
}

/** What a job on the charger left behind, from its own end. */
function chargeEvidence(
  capacityMah: number,
  chemistry: LithiumChemistry,
  charge: ChargeEvent,
): StorageEvidence {
  const { at, mode, ending, endCellsMv, settings, records } = charge;
  // An estimate tells what it holds well enough; only a measurement tells its capacity.
  const movedMah = charge.movedMah ?? charge.bench?.shareMah ?? null;
  if (mode === 'storage') return { kind: ending === 'complete' ? 'stored' : 'unknown', at, records };
  // Volts under a discharge load rebound, so only what came out is counted.
  if (mode === 'discharge') return { kind: 'used', at, usedMah: movedMah, records };
  const rateC = chargeRateC(charge, capacityMah);
  const charged = (how: 'ends' | 'top' | 'taper' | 'loose', cellsMv: readonly number[]): StorageEvidence => ({
    kind: 'charged',
    at,
    cellsMv,
    how,
    rateC,
    records,
  });
  const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv!;
  switch (ending) {
    case 'complete':
      return endCellsMv ? charged('ends', endCellsMv) : charged('top', [topMv]);
    case 'taper':
    case 'quick':
      return charged('taper', endCellsMv ? endCellsMv.map((mv) => Math.min(mv, topMv)) : [topMv]);
    case 'stopped':
    case 'timed-out':
    case 'error':
      if (endCellsMv) return charged('loose', endCellsMv);
      return movedMah === null
        ? { kind: 'unknown', at, records }
        : { kind: 'filled', at, movedMah, rateC, records };
    default:
      return ending satisfies never;
  }
}
