import type { Instant, PackId, PersonId, PlaceId } from '../../core/measure';
import { restedReadings } from '../../core/assess';
import type { HouseRules } from '../../core/rules';
import { addHours, carriedForward, NO_HOURS, storageEvidence, storageHours } from '../../core/storage';
import type { StorageHours } from '../../core/storage';
import { allHistories } from './histories';

/** How was the register stored, period by period? */
export interface ComplianceQuestion {
  readonly rules: HouseRules;
  /** Rising instants; period i runs from starts[i] to starts[i + 1]. */
  readonly starts: readonly Instant[];
}

/** Hours of one pack in one place, in one pair of hands, in one period. The page adds them up as it is asked to. */
export interface ComplianceLine extends StorageHours {
  readonly packId: PackId;
  readonly period: number;
  readonly placeId: PlaceId | null;
  readonly holderId: PersonId | null;
}

export type ComplianceMessage =
  | { readonly kind: 'progress'; readonly packsSoFar: number; readonly packs: number }
  | { readonly kind: 'done'; readonly lines: readonly ComplianceLine[] }
  | { readonly kind: 'failed' };

self.onmessage = ({ data }: MessageEvent<ComplianceQuestion>) => {
  void answer(data).catch(() => tell({ kind: 'failed' }));
};

async function answer({ rules, starts }: ComplianceQuestion): Promise<void> {
  const lines: ComplianceLine[] = [];
  for await (const { passing, packsSoFar, packs } of allHistories()) {
    for (const pack of passing) {
      const history = await pack.history();
      const { rested } = restedReadings(history, rules);
      const stretches = carriedForward(history.pack, storageEvidence(history, rested), rules, starts.at(-1)!);
      const summed = new Map<string, ComplianceLine>();
      for (const held of storageHours(history, stretches, rules, starts)) {
        const key = `${held.period} ${held.placeId} ${held.holderId}`;
        const known = summed.get(key) ?? { ...held, ...NO_HOURS, packId: history.pack.id };
        summed.set(key, { ...known, ...addHours(known, held) });
      }
      lines.push(...summed.values());
    }
    tell({ kind: 'progress', packsSoFar, packs });
  }
  tell({ kind: 'done', lines });
}

function tell(message: ComplianceMessage): void {
  self.postMessage(message);
}
