import { isLithium } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { PackHistory } from '../../record';
import type { HouseRules } from '../../rules';
import { clippedFrom, clippedTo, exposureDays } from '../../storage';
import type { Stretch } from '../../storage';
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
  const { days, longest } = fullDays(history, measured.carried.stretches, rules, now);
  const limitDays = rules.health.fullDaysAYear;
  if (days < limitDays) return [];
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
  stretches: readonly Stretch[],
  rules: HouseRules,
  now: Instant,
) {
  const { chemistry } = history.pack;
  const from = now - LOOKED_BACK_DAYS * DAY_MS;
  let days = 0;
  let longest = { days: 0, from: 0, to: 0 };
  if (!isLithium(chemistry)) return { days, longest };
  for (const stretch of stretches) {
    if (stretch.to <= from || stretch.from >= now) continue;
    const within = clippedTo(clippedFrom(stretch, from)!, now);
    const full = exposureDays(history, within, chemistry, rules);
    days += full;
    if (full > longest.days) longest = { days: full, from: within.from, to: within.to };
  }
  return { days, longest };
}
