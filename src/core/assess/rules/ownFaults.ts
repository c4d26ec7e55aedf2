import type { Instant, PersonId } from '../../measure';
import type { CountEvent, PackHistory } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** The latest rise of the pack's own count of faults, until somebody has looked the pack over since. */
export function ownFaults({ history }: CaseFile): readonly Finding[] {
  const rise = latestFaultRise(history);
  if (!rise || history.inspections.some(({ at }) => at >= rise.to.at)) return [];
  const { from, to, holderId } = rise;
  return [
    {
      rule: 'own-faults',
      severity: 'note',
      faults: to.faults - from.faults,
      fromAt: from.at,
      toAt: to.at,
      holderId,
      records: [...from.records, ...to.records],
    },
  ];
}

interface Rise {
  readonly from: CountEvent & { readonly faults: number };
  readonly to: CountEvent & { readonly faults: number };
  readonly holderId: PersonId | null;
}

/**
 * The latest two counts between which faults were added. Counts that could not be read stand for nothing. A fall is another pack's memory or
 * a slip, which is asked about where it is typed; the next count is compared with the fallen one.
 */
function latestFaultRise(history: PackHistory): Rise | null {
  const counts = history.counts.filter((one): one is Rise['from'] => one.faults !== null);
  for (let i = counts.length - 1; i > 0; i -= 1) {
    const [from, to] = [counts[i - 1]!, counts[i]!];
    if (to.faults > from.faults) return { from, to, holderId: holderThrough(history, from.at, to.at) };
  }
  return null;
}

/** Who had it all the time from the one moment to the other; null where nobody had, or not one person alone. */
function holderThrough({ takings }: PackHistory, fromAt: Instant, toAt: Instant): Rise['holderId'] {
  const during = takings.filter(({ at, endedAt }) => at < toAt && (endedAt === null || endedAt > fromAt));
  const holders = new Set(during.map(({ holderId }) => holderId));
  return holders.size === 1 ? during[0]!.holderId : null;
}
