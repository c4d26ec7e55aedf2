import { isLithium } from '../chemistry';
import { putsIn } from '../record';
import type { HouseRules } from '../rules';
import type { Contents } from '../storage';
import type { CaseFile } from './caseFile';

export const CHARGED = ['charged', 'charge-first', 'unknown'] as const;
/** The pilot's other question: is it charged for a flight? */
export type Charged = (typeof CHARGED)[number];

/** By the lowest cell, against the house's line; a nickel pack by whether it was charged since its last use. */
export function chargedOf({ history, rules, contents }: CaseFile): Charged {
  const { pack, charges, flights } = history;
  if (isLithium(pack.chemistry)) return chargedBy(contents, rules);
  const charge = charges.findLast(putsIn);
  if (!charge) return 'unknown';
  return flights.some(({ at }) => at > charge.at) ? 'charge-first' : 'charged';
}

/** The same of a lithium pack, by what it holds; null where nobody knows. */
export function chargedBy(contents: Contents | null, { flight }: Pick<HouseRules, 'flight'>): Charged {
  if (!contents) return 'unknown';
  const { percent, lowPercent, highPercent } = contents.lowest;
  const line = flight.chargedPercent;
  // After a use of which nothing was noted it may be nearly full or empty.
  if (contents.basis === 'used' && lowPercent === 0 && highPercent >= line) return 'unknown';
  return percent >= line - 1e-9 ? 'charged' : 'charge-first';
}
