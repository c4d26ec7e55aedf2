import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** A pack that lay unused for a season is looked over before it flies again. */
export function longRest(file: CaseFile): readonly Finding[] {
  const dueAt = seasonStartDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const { seasonStartDays } = file.rules;
  const since = dueAt - seasonStartDays * DAY_MS;
  return [
    { rule: 'long-rest', severity: 'note', since, days: seasonStartDays, records: lastUse(file).records },
  ];
}

/**
 * When a pack's rest becomes long: counted from its last charge or use, or from its last season-start inspection.
 * A pack never used has nothing to come back from: its receipt is its first inspection.
 */
export function seasonStartDueAt(file: CaseFile): Instant | null {
  const { at } = lastUse(file);
  if (at === null) return null;
  const looked = file.history.inspections.findLast(({ occasion }) => occasion === 'season-start')?.at ?? at;
  return Math.max(at, looked) + file.rules.seasonStartDays * DAY_MS;
}

/** A job to storage ends a use; it does not count as one. */
function lastUse({ history }: CaseFile) {
  const flight = history.flights.at(-1);
  const charge = history.charges.findLast(({ mode }) => mode !== 'storage');
  const last = flight && charge ? (flight.at > charge.at ? flight : charge) : (flight ?? charge);
  return { at: last?.at ?? null, records: last?.records ?? [] };
}
