import { isLithium, soc } from '../../chemistry';
import { DAY_MS } from '../../measure';
import { leakedPercent } from '../../storage';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';

/** Over a shorter time a meter's error looks like a leak; over a longer one somebody would have read it. */
const LEAST_DAYS = 3;
/** A pair of readings older than this says nothing of the pack now. */
const RECENT_DAYS = 120;

/**
 * Two readings with nothing logged between show a cell that lost far more than its chemistry leaks: it is losing charge by itself.
 * Granted both meters their error. A pack that bleeds itself is left out, for its own electronics take the charge.
 */
export function shelfLoss({ history, rules, rested, now }: CaseFile): readonly Finding[] {
  const { pack, charges, flights } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.smart?.autoStorage) return [];
  const worked = [...charges, ...flights];
  const limitPercent = rules.health.leakPercentAWeek;
  for (let i = rested.length - 1; i > 0 && now - rested[i]!.at < RECENT_DAYS * DAY_MS; i--) {
    const to = rested[i]!;
    const from = rested[i - 1]!;
    const days = (to.at - from.at) / DAY_MS;
    if (days < LEAST_DAYS) continue;
    // Whoever read it only twice in its life, or logged nothing, may have used it: that is another rule's question.
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const losses = lostCells(chemistry, from, to);
    const most = Math.max(...losses);
    const percentAWeek = ((most - leakedPercent(to.at - from.at)) / days) * 7;
    if (percentAWeek <= limitPercent) return [];
    // A fall that a week's leak cannot explain is a use nobody logged.
    if (most > rules.unlogged.fellPercent) return [];
    return [
      {
        rule: 'shelf-loss',
        severity: 'watch',
        cell: to.byCell && losses.length > 1 ? losses.indexOf(most) + 1 : null,
        percentAWeek,
        limitPercent,
        fromAt: from.at,
        toAt: to.at,
        records: [...from.records, ...to.records],
      },
    ];
  }
  return [];
}

/** What each cell certainly lost between two readings, percent. */
function lostCells(
  chemistry: Parameters<typeof soc>[0],
  from: RestedReading,
  to: RestedReading,
): readonly number[] {
  if (from.cellsMv.length !== to.cellsMv.length) return [0];
  return to.cellsMv.map(
    (mv, i) =>
      soc(chemistry, from.cellsMv[i]!, from.meterErrorMv).lowPercent -
      soc(chemistry, mv, to.meterErrorMv).highPercent,
  );
}
