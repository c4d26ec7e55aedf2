import { CHEMISTRY } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The first so many resistance readings are the baseline. Source: the practice. */
const BASELINE_RESISTANCES = 3;
/** After so many charges a first measurement tells how the pack is, no longer how it was new. A house custom, no figure of the practice. */
const NEW_CHARGES = 5;

/** A new pack whose later ageing could not be told, because nobody measured how it came. */
export function baselineMissing(file: CaseFile): readonly Finding[] {
  const dueAt = baselineDueAt(file);
  if (dueAt === null) return [];
  return [
    {
      rule: 'baseline-missing',
      severity: 'note',
      resistances: file.history.resistances.length,
      missing: missing(file),
      dueAt,
      records: [],
    },
  ];
}

/** By when a new pack's baseline should be complete; null when it is, or when it is too late for one. */
export function baselineDueAt(file: CaseFile): Instant | null {
  const { receivedAt, charges } = file.history;
  if (receivedAt === null || charges.length > NEW_CHARGES) return null;
  return missing(file).length === 0 ? null : receivedAt + file.rules.baselineDays * DAY_MS;
}

function missing({ history }: CaseFile): readonly ('resistance' | 'thickness' | 'mass')[] {
  const { pack, resistances, inspections } = history;
  const byCell = CHEMISTRY[pack.chemistry].cellTaps;
  return [
    ...(byCell && resistances.length < BASELINE_RESISTANCES ? (['resistance'] as const) : []),
    ...(byCell && inspections.every(({ thicknessMm }) => thicknessMm === null)
      ? (['thickness'] as const)
      : []),
    ...(inspections.every(({ massG }) => massG === null) ? (['mass'] as const) : []),
  ];
}
