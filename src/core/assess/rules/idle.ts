import { isLithium } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** A lithium pack nobody has read for longer than the house leaves one alone. */
export function idle(file: CaseFile): readonly Finding[] {
  const dueAt = idleDueAt(file);
  if (dueAt === null || file.now < dueAt || !file.latest) return [];
  const { everyDays, doing } = file.rules.idle;
  return [
    {
      rule: 'idle',
      severity: 'note',
      lastReadAt: file.latest.at,
      everyDays,
      doing,
      records: file.latest.records,
    },
  ];
}

/** When the pack should next be read even if nothing happens to it; null for one that has no rested reading to count from. */
export function idleDueAt({ history, rules, latest }: CaseFile): Instant | null {
  return latest && isLithium(history.pack.chemistry) ? latest.at + rules.idle.everyDays * DAY_MS : null;
}
