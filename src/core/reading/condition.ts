import { MINUTE_MS } from '../measure';
import type { Instant } from '../measure';

export const READING_CONDITIONS = ['rested', 'settling', 'loaded'] as const;

/**
 * In what state the pack was read: `rested` (off load and charge for the rest the house rules ask),
 * `settling` (not yet so long), `loaded` (in the craft, current flowing).
 */
export type ReadingCondition = (typeof READING_CONDITIONS)[number];

/** Which conclusions a reading in this condition may carry. Under load, or soon after, volts tell nothing of charge. */
export const DECIDES: Readonly<
  Record<ReadingCondition, { readonly storage: boolean; readonly spread: boolean }>
> = {
  rested: { storage: true, spread: true },
  settling: { storage: false, spread: false },
  loaded: { storage: false, spread: false },
};

/**
 * The condition a reading really had. A pack read under load less than the rest ago cannot be rested yet,
 * whatever was ticked: its volts are still climbing back.
 * @param lastLoadedAt when the pack was last known under load before this reading; null if never
 * @example conditionHeld('rested', 25 * 60_000, 0, 30) // => 'settling'
 * @example conditionHeld('rested', 30 * 60_000, 0, 30) // => 'rested'
 * @example conditionHeld('loaded', 0, null, 30) // => 'loaded'
 */
export function conditionHeld(
  claimed: ReadingCondition,
  at: Instant,
  lastLoadedAt: Instant | null,
  restMinutes: number,
): ReadingCondition {
  if (claimed !== 'rested' || lastLoadedAt === null) return claimed;
  return at - lastLoadedAt < restMinutes * MINUTE_MS ? 'settling' : 'rested';
}
