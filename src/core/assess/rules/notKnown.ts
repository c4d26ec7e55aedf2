import { isLithium } from '../../chemistry';
import { DAY_MS } from '../../measure';
import type { Instant } from '../../measure';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/**
 * Nothing of the pack was measured for so long that nobody knows how it is: most packs that die in a winter were called fit
 * because nothing was recorded. A pack never measured at all is told so by another rule.
 */
export function notKnown(file: CaseFile): readonly Finding[] {
  const at = notKnownAt(file);
  if (at === null || file.now < at) return [];
  const afterDays = file.rules.health.unknownDays;
  const since = at - afterDays * DAY_MS;
  return [{ rule: 'not-known', severity: 'watch', since, afterDays, records: [] }];
}

/** From when on nobody will know how the pack is, if nothing is measured until then; null for one never measured. */
export function notKnownAt({ history, rules, latest }: CaseFile): Instant | null {
  const { pack, resistances, charges, flights } = history;
  const known = [latest?.at, resistances.at(-1)?.at];
  // A nickel pack is known by how it charges and runs; its volts say little.
  if (!isLithium(pack.chemistry)) known.push(charges.at(-1)?.at, flights.at(-1)?.at);
  const moments = known.filter((at) => at !== undefined);
  return moments.length === 0 ? null : Math.max(...moments) + rules.health.unknownDays * DAY_MS;
}
