import { FULL_OCCASIONS } from '../../inspection';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The house looks every pack over by the calendar; this one's turn has come. */
export function inspectionDue(file: CaseFile): readonly Finding[] {
  const dueAt = inspectionDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const last = lastFullInspection(file);
  return [
    {
      rule: 'inspection-due',
      severity: 'note',
      lastAt: last?.at ?? null,
      everyDays: file.rules.inspectionDays,
      dueAt,
      records: last?.records ?? [],
    },
  ];
}

/** When the pack is next looked over by the calendar, counted from its last full inspection or its receipt. */
export function inspectionDueAt(file: CaseFile): Instant | null {
  const from = lastFullInspection(file)?.at ?? file.history.receivedAt;
  return from === null ? null : from + file.rules.inspectionDays * DAY_MS;
}

function lastFullInspection({ history }: CaseFile) {
  return history.inspections.findLast(({ occasion }) => FULL_OCCASIONS.has(occasion)) ?? null;
}
