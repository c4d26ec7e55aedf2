import { isLithium } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * New packs arrive near storage voltage and level. One that did not, looked at on receipt and not charged since, has lain
 * badly or leaks, and goes back to the seller.
 */
export function notAsDelivered({ history, rules, rested, now }: CaseFile): readonly Finding[] {
  const { pack, receivedAt, before, charges, flights, inspections } = history;
  const receipt = inspections.find(({ occasion }) => occasion === 'receipt');
  const first = rested[0];
  if (!receipt || !first || receivedAt === null || !isLithium(pack.chemistry)) return [];
  // A pack that was in use before it came was never delivered here.
  if (before !== null) return [];
  // Later than a seller takes it back the finding helps nobody.
  if (now - receivedAt > rules.returnDays * DAY_MS) return [];
  if ([...charges, ...flights].some(({ startedAt }) => startedAt <= first.at)) return [];
  const lowestMv = Math.min(...first.cellsMv);
  const highestMv = Math.max(...first.cellsMv);
  const { bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  const outsideBy = Math.max(0, bandLowMv - lowestMv, highestMv - bandHighMv);
  const spreadMv = highestMv - lowestMv;
  const limits = { arrivalMv: rules.arrivalMv, toleranceMv: rules.spread.toleranceMv };
  if (outsideBy <= limits.arrivalMv && spreadMv <= limits.toleranceMv) return [];
  return [
    {
      rule: 'not-as-delivered',
      severity: 'watch',
      at: first.at,
      lowestMv,
      highestMv,
      spreadMv,
      outsideBy,
      limits,
      records: [...first.records, ...receipt.records],
    },
  ];
}
