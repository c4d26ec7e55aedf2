import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** A nickel pack drains on the shelf and has no storage voltage to be kept at: it is topped up by the calendar. */
export function nimhTopUp(file: CaseFile): readonly Finding[] {
  const dueAt = topUpDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const everyDays = file.rules.nimhTopUpDays;
  const records = file.history.charges.at(-1)?.records ?? [];
  return [{ rule: 'nimh-top-up', severity: 'note', lastAt: dueAt - everyDays * DAY_MS, everyDays, records }];
}

/** When a nickel pack is next topped up, counted from its last charge or its receipt; null for any other chemistry. */
export function topUpDueAt({ history, rules }: CaseFile): Instant | null {
  const { pack, charges, receivedAt } = history;
  const last = charges.at(-1)?.at ?? receivedAt;
  return pack.chemistry === 'nimh' && last !== null ? last + rules.nimhTopUpDays * DAY_MS : null;
}
