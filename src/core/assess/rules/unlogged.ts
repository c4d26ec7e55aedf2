import { isLithium, soc } from '../../chemistry';
import type { CaseFile, RestedReading } from '../caseFile';
import type { Finding } from '../finding';
import type { LithiumChemistry } from '../../chemistry';

/**
 * The latest two rested readings do not fit together unless something happened that nobody logged. A smart pack drains
 * itself, so a fall says nothing there; a fall within self-discharge never counts. A house that logs readings only is
 * not told about every charge it never meant to log.
 */
export function unlogged({ history, rules, rested }: CaseFile): readonly Finding[] {
  const { pack, charges, flights } = history;
  const [from, to] = rested.slice(-2);
  if (!from || !to || !isLithium(pack.chemistry) || charges.length + flights.length === 0) return [];
  const between = ({ at }: { readonly at: number }) => at > from.at && at <= to.at;
  if (charges.some(between) || flights.some(between)) return [];
  const direction =
    certainRise(pack.chemistry, from, to) > rules.unlogged.rosePercent
      ? 'charge'
      : !pack.smart?.autoStorage && certainRise(pack.chemistry, to, from) > rules.unlogged.fellPercent
        ? 'use'
        : null;
  if (!direction) return [];
  return [
    {
      rule: 'unlogged',
      severity: 'note',
      direction,
      fromAt: from.at,
      toAt: to.at,
      fromMv: Math.min(...from.cellsMv),
      toMv: Math.min(...to.cellsMv),
      records: [...from.records, ...to.records],
    },
  ];
}

/** How much charge the lowest cell gained at the least, percent, granting both meters their error. */
function certainRise(chemistry: LithiumChemistry, from: RestedReading, to: RestedReading): number {
  const before = soc(chemistry, Math.min(...from.cellsMv), from.meterErrorMv).highPercent;
  return soc(chemistry, Math.min(...to.cellsMv), to.meterErrorMv).lowPercent - before;
}
