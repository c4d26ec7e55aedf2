import { isLithium } from '../../chemistry';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

/** Repetition is looked for in so many of the latest flights. */
const RECENT_FLIGHTS = 5;

/**
 * Too hot in use. Over the hold line the pack is out until a custodian has inspected it, however long ago; over the watch
 * line it matters while it is recent, and more when it keeps happening.
 */
export function hotUse({ history, rules }: CaseFile): readonly Finding[] {
  const { useHoldC, useWatchC } = rules.heat;
  const measured = history.flights.filter(({ hottestC }) => hottestC !== null);
  const scorched = measured.findLast(({ hottestC }) => hottestC! > useHoldC);
  const recent = measured.slice(-RECENT_FLIGHTS);
  const hot = recent.filter(({ hottestC }) => hottestC! > useWatchC);
  const worst = scorched ?? hot.at(-1);
  if (!worst) return [];
  return [
    {
      rule: 'hot-use',
      severity: scorched ? 'hold' : 'watch',
      celsius: worst.hottestC!,
      at: worst.at,
      times: hot.length,
      ofFlights: recent.length,
      limits: rules.heat,
      records: scorched ? scorched.records : hot.flatMap(({ records }) => records),
    },
  ];
}

/** A lithium pack is barely warm while it charges: hot means stop, isolate, hold. */
export function hotCharge({ history, rules }: CaseFile): readonly Finding[] {
  if (!isLithium(history.pack.chemistry)) return [];
  const { chargeHoldC, chargeWatchC } = rules.heat;
  const measured = history.charges.filter(({ temperatureC }) => temperatureC !== null);
  const hot = measured.findLast(({ temperatureC }) => temperatureC! > chargeHoldC);
  const latest = measured.at(-1);
  const warm = latest && latest.temperatureC! > chargeWatchC ? latest : null;
  const worst = hot ?? warm;
  if (!worst) return [];
  return [
    {
      rule: 'hot-charge',
      severity: hot ? 'hold' : 'watch',
      celsius: worst.temperatureC!,
      at: worst.at,
      limits: rules.heat,
      records: worst.records,
    },
  ];
}
