import { isLithium } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { PackHistory } from '../../record';
import type { HouseRules } from '../../rules';
import { fullTimeBetween } from '../../storage';
import type { Carried, FullTime } from '../../storage';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Time at full adds up; a year back is far enough to tell a season's carelessness. */
const LOOKED_BACK_DAYS = 365;

/**
 * The pack spent too long full within the last year, counted in days full at 25 °C: ten separate days harm as ten in a
 * row do. A stretch that reaches back beyond the year counts with what lies within it. What it cost cannot be seen yet, so it is
 * watched.
 */
export function longFull({ history, rules, measured, now }: CaseFile): readonly Finding[] {
  const { pack } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.fieldPack) return [];
  const full = fullDays(history, measured.carried, rules, now);
  const { days } = full;
  const limitDays = rules.health.fullDaysAYear;
  if (days < limitDays) return [];
  const longest = full.longest();
  const records = measured.evidence
    .filter(({ at }) => at >= longest.from && at <= longest.to)
    .flatMap((one) => one.records);
  return [
    {
      rule: 'long-full',
      severity: 'watch',
      days,
      limitDays,
      longestFrom: longest.from,
      longestTo: longest.to,
      records,
    },
  ];
}

/** Days' worth full within the year before a moment, and the stretch that gave most of them. */
export function fullDays(
  history: PackHistory,
  carried: Pick<Carried, 'past' | 'open'>,
  rules: HouseRules,
  now: Instant,
): FullTime {
  return fullTimeBetween(history, carried, rules, now - LOOKED_BACK_DAYS * DAY_MS, now);
}
