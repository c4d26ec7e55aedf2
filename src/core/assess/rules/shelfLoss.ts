import { isLithium, soc, socPercent } from '../../chemistry';
import { median } from '../../health';
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
    if (percentAWeek <= limitPercent) break;
    // A fall that a week's leak cannot explain is a use nobody logged.
    if (most > rules.unlogged.fellPercent) break;
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
  return lossAgainAndAgain(chemistry, rested, worked, limitPercent, now);
}

/** So many times in a row on the shelf a loss beside the siblings is no meter's error any more. */
const REPEATED = 5;
const LEAST_REPEATED_DAYS = 2;

/** One cell that loses more than its siblings each time the pack lies, by the middle of the latest times. */
function lossAgainAndAgain(
  chemistry: Parameters<typeof soc>[0],
  rested: readonly RestedReading[],
  worked: readonly { readonly at: number; readonly startedAt: number }[],
  limitPercent: number,
  now: number,
): readonly Finding[] {
  const times: { losses: readonly number[]; from: RestedReading; to: RestedReading }[] = [];
  for (let i = rested.length - 1; i > 0 && times.length < REPEATED; i--) {
    const [from, to] = [rested[i - 1]!, rested[i]!];
    const days = (to.at - from.at) / DAY_MS;
    if (now - to.at > RECENT_DAYS * DAY_MS) break;
    if (days < LEAST_REPEATED_DAYS || !to.byCell || to.cellsMv.length < 2) continue;
    if (from.cellsMv.length !== to.cellsMv.length) continue;
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const lost = to.cellsMv.map(
      (mv, c) => socPercent(chemistry, from.cellsMv[c]!) - socPercent(chemistry, mv),
    );
    const losses = lost.map((one, c) => ((one - median(lost.filter((_, other) => other !== c))) / days) * 7);
    times.push({ losses, from, to });
  }
  if (times.length < REPEATED) return [];
  const middles = times[0]!.losses.map((_, c) => median(times.map(({ losses }) => losses[c]!)));
  const percentAWeek = Math.max(...middles);
  if (percentAWeek <= limitPercent) return [];
  const records = times.flatMap(({ from, to }) => [...from.records, ...to.records]);
  return [
    {
      rule: 'shelf-loss',
      severity: 'watch',
      cell: middles.indexOf(percentAWeek) + 1,
      percentAWeek,
      limitPercent,
      fromAt: times.at(-1)!.from.at,
      toAt: times[0]!.to.at,
      records: [...new Set(records)],
    },
  ];
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
