import { isLithium } from '../../chemistry';
import { MINUTE_MS } from '../../measure';
import type { Instant } from '../../measure';
import { chargeRateC } from '../../record';
import type { ChargeEvent, FlightEvent } from '../../record';
import { byAnswer } from '../answered';
import type { CaseFile } from '../caseFile';
import type { Finding, Severity } from '../finding';

/** Repetition is looked for in so many of the latest flights. */
const RECENT_FLIGHTS = 5;

/**
 * Too hot in use. Over the hold line, or too hot to touch, the pack is out until a custodian has inspected it, however long ago;
 * over the watch line it matters while it is recent, and more when it keeps happening. A pack that has just landed is warm: that
 * alone says nothing.
 */
export function hotUse(file: CaseFile): readonly Finding[] {
  const { history, rules } = file;
  const { useHoldC, useWatchC } = rules.heat;
  const isScorched = ({ hottestC, felt }: FlightEvent) => felt === 'hot' || (hottestC ?? 0) > useHoldC;
  const scorched = byAnswer(file, 'hot-use', history.flights.filter(isScorched));
  const recent = history.flights.filter(({ hottestC }) => hottestC !== null).slice(-RECENT_FLIGHTS);
  const hot = recent.filter(({ hottestC }) => hottestC! > useWatchC);
  const told = (
    worst: FlightEvent | undefined,
    severity: Severity,
    flights: readonly FlightEvent[],
  ): Finding[] =>
    worst
      ? [
          {
            rule: 'hot-use',
            severity,
            celsius: worst.hottestC,
            at: worst.at,
            times: hot.length,
            ofFlights: recent.length,
            limits: rules.heat,
            records: flights.flatMap(({ records }) => records),
          },
        ]
      : [];
  const answered = told(scorched.old.at(-1), 'hold', scorched.old);
  if (scorched.fresh.length > 0) return [...told(scorched.fresh.at(-1), 'hold', scorched.fresh), ...answered];
  const milder = hot.filter((flight) => !isScorched(flight));
  return [...answered, ...told(milder.at(-1), 'watch', milder)];
}

/**
 * A lithium pack is barely warm while it charges: hot means stop, isolate, hold; so does warm to the hand. A nickel pack gets
 * warm by itself; too hot to touch, or over its own line, it is stopped and cools.
 */
export function hotCharge(file: CaseFile): readonly Finding[] {
  const { history, rules } = file;
  const { chargeHoldC, chargeWatchC, nimhChargeC } = rules.heat;
  const lithium = isLithium(history.pack.chemistry);
  const told = (
    charge: ChargeEvent | undefined,
    severity: Severity,
    charges: readonly ChargeEvent[],
  ): Finding[] =>
    charge
      ? [
          {
            rule: 'hot-charge',
            severity,
            celsius: charge.temperatureC,
            felt: charge.felt ?? null,
            at: charge.at,
            limits: rules.heat,
            records: charges.flatMap(({ records }) => records),
          },
        ]
      : [];
  const latest = history.charges.findLast(({ temperatureC, felt }) => temperatureC !== null || felt);
  if (!lithium) {
    const stop = latest && (latest.felt === 'hot' || (latest.temperatureC ?? 0) > nimhChargeC);
    return stop ? told(latest, 'watch', [latest]) : [];
  }
  const isHot = ({ temperatureC, felt }: ChargeEvent) =>
    felt === 'warm' || felt === 'hot' || (temperatureC ?? 0) > chargeHoldC;
  const hot = byAnswer(file, 'hot-charge', history.charges.filter(isHot));
  const answered = told(hot.old.at(-1), 'hold', hot.old);
  if (hot.fresh.length > 0) return [...told(hot.fresh.at(-1), 'hold', hot.fresh), ...answered];
  const isWarm = latest && !isHot(latest) && (latest.temperatureC ?? 0) > chargeWatchC;
  return [...answered, ...(isWarm ? told(latest, 'watch', [latest]) : [])];
}

/** Whether a pack was no more than lukewarm where only cool was to be expected: at up to 1C. */
export function lukewarmAtEase(charge: ChargeEvent, capacityMah: number): boolean {
  return charge.felt === 'lukewarm' && (chargeRateC(charge, capacityMah) ?? 1) <= 1;
}

/** When a use or a charge ended that a pack may still be warm from; null when none ended within so many minutes before. */
export function warmFrom({ history, rules }: CaseFile, at: Instant): Instant | null {
  const ends = [...history.flights, ...history.charges].map((one) => one.at).filter((end) => end <= at);
  const last = Math.max(0, ...ends);
  return at - last < rules.heat.coolMinutes * MINUTE_MS ? last : null;
}
