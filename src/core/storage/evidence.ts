import { CHEMISTRY, isLithium } from '../chemistry';
import type { Instant, RecordId } from '../measure';
import type { ChargeEvent, PackHistory } from '../record';

/** One rested reading of every cell, as the clock needs it. */
export interface RestedCells {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly records: readonly RecordId[];
}

/** One thing that tells where a pack stands towards its storage band, or that nobody knows any more. */
export type StorageEvidence =
  | (RestedCells & { readonly kind: 'read' })
  /** A charge ended with the cells at this voltage. */
  | {
      readonly kind: 'charged';
      readonly at: Instant;
      readonly mv: number;
      readonly records: readonly RecordId[];
    }
  /** A storage job ended; only a rested reading will confirm it. */
  | { readonly kind: 'stored'; readonly at: Instant; readonly records: readonly RecordId[] }
  /** Flown or drained: what is left is not known until it is read. */
  | {
      readonly kind: 'used';
      readonly at: Instant;
      readonly usedMah: number | null;
      readonly records: readonly RecordId[];
    };

/** All that the records tell about a pack's charge, oldest first. */
export function storageEvidence(
  history: PackHistory,
  rested: readonly RestedCells[],
): readonly StorageEvidence[] {
  const evidence: StorageEvidence[] = rested.map(({ at, cellsMv, records }) => ({
    kind: 'read',
    at,
    cellsMv,
    records,
  }));
  if (history.charges.length === 0 && history.flights.length === 0) return evidence;
  for (const charge of history.charges) evidence.push(chargeEvidence(history, charge));
  for (const { at, usedMah, records } of history.flights)
    evidence.push({ kind: 'used', at, usedMah, records });
  return evidence.sort((a, b) => a.at - b.at);
}

function chargeEvidence({ pack }: PackHistory, charge: ChargeEvent): StorageEvidence {
  const { at, mode, ending, movedMah, endCellsMv, settings, records } = charge;
  if (mode === 'storage' && ending === 'complete') return { kind: 'stored', at, records };
  if (mode === 'discharge' || mode === 'storage') return { kind: 'used', at, usedMah: movedMah, records };
  if (endCellsMv) return { kind: 'charged', at, mv: Math.max(...endCellsMv), records };
  if (ending !== 'complete') return { kind: 'used', at, usedMah: null, records };
  const fullMv = isLithium(pack.chemistry) ? CHEMISTRY[pack.chemistry].fullMv : null;
  return { kind: 'charged', at, mv: settings.topMv ?? fullMv ?? 0, records };
}
