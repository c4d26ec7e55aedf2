import { parseFigure } from '../../../core/reading';
import type { OwnCounters } from '../../../core/record';

/** What somebody typed of the counts on a pack's own display. */
export interface TypedCounters {
  readonly cycles: string;
  readonly faults: string;
}

export const NO_COUNTERS: TypedCounters = { cycles: '', faults: '' };

/** What the typed counts mean; null where neither was read. `errors` names what cannot be a count, and then nothing may be saved. */
export function countersTyped({ cycles, faults }: TypedCounters): {
  readonly counters: OwnCounters | null;
  readonly errors: Partial<TypedCounters>;
} {
  const [cyclesRead, faultsRead] = [countTyped(cycles), countTyped(faults)];
  const errors = {
    ...(cyclesRead.error && { cycles: cyclesRead.error }),
    ...(faultsRead.error && { faults: faultsRead.error }),
  };
  const isRead = cyclesRead.count !== null || faultsRead.count !== null;
  return {
    counters: isRead ? { cycles: cyclesRead.count, faults: faultsRead.count } : null,
    errors,
  };
}

const MOST = 100_000;

function countTyped(text: string): { readonly count: number | null; readonly error?: string } {
  const typed = parseFigure(text);
  if (typed.outcome === 'empty') return { count: null };
  if (typed.outcome === 'refused') return { count: null, error: `“${typed.text}” is not a count.` };
  const isCount = Number.isInteger(typed.value) && typed.value >= 0 && typed.value <= MOST;
  return isCount ? { count: typed.value } : { count: null, error: 'A count is a whole number from 0 up.' };
}
