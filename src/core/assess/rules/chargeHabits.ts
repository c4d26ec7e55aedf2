import { isLithium } from '../../chemistry';
import { DAY_MS, MINUTE_MS } from '../../measure';
import { chargeRateC, putsIn } from '../../record';
import type { ChargeEvent, FlightEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { ChargeBreach, Finding } from '../finding';
import { lukewarmAtEase } from './heat';

/** Told while it is among so many of the latest charges. */
const RECENT_CHARGES = 5;
/** And counted over so many. */
const COUNTED_CHARGES = 20;
/** Chargers set amps in steps; half a percent over a rate is the step. */
const STEP = 1.005;

/**
 * Charges that did not keep the house's rules: above the label's, the field's or a gentle rate, above 1C without a rating
 * or after a long rest, above the house's top voltage, too cold, or too soon after a warm landing. Named, and counted by pack and
 * person, without blame and without taking the pack out of use: what was done is evidence.
 */
export function chargeHabits(file: CaseFile): readonly Finding[] {
  const { pack, charges, flights } = file.history;
  if (!isLithium(pack.chemistry)) return [];
  const filled = charges.filter(putsIn).slice(-COUNTED_CHARGES);
  const judged = filled.map((charge) => ({ charge, breaches: breachesOf(file, charge, flights) }));
  const broken = judged.filter(({ breaches }) => breaches.length > 0);
  const latest = judged.slice(-RECENT_CHARGES).findLast(({ breaches }) => breaches.length > 0);
  if (!latest) return [];
  const { at, by } = latest.charge;
  return [
    {
      rule: 'charge-habits',
      severity: 'note',
      at,
      by,
      breaches: latest.breaches,
      times: broken.length,
      ofCharges: filled.length,
      timesBySame: broken.filter(({ charge }) => charge.by === by).length,
      records: broken.flatMap(({ charge }) => charge.records),
    },
  ];
}

function breachesOf(
  file: CaseFile,
  charge: ChargeEvent,
  flights: readonly FlightEvent[],
): readonly ChargeBreach[] {
  const { rules, history } = file;
  const { pack } = history;
  const limits = rules.charge;
  const breaches: ChargeBreach[] = [];
  const rateC = chargeRateC(charge, pack.capacityMah);
  const over = (limitC: number) => rateC !== null && rateC > limitC * STEP;
  if (pack.chargeC === null && over(1)) breaches.push({ of: 'unrated', rateC: rateC!, limitC: 1 });
  else if (pack.chargeC !== null && over(pack.chargeC))
    breaches.push({ of: 'label-rate', rateC: rateC!, limitC: pack.chargeC });
  if (over(limits.fieldC)) breaches.push({ of: 'field-rate', rateC: rateC!, limitC: limits.fieldC });
  if (over(limits.afterRestC) && isAfterRest(file, charge))
    breaches.push({ of: 'after-rest', rateC: rateC!, limitC: limits.afterRestC });
  const { topMv } = charge.settings;
  const houseTopMv = isLithium(pack.chemistry) ? rules.topMv[pack.chemistry] : Infinity;
  if (topMv !== null && topMv > houseTopMv) breaches.push({ of: 'house-top', topMv, limitMv: houseTopMv });
  if (charge.temperatureC !== null && charge.temperatureC < limits.coldC)
    breaches.push({ of: 'cold', celsius: charge.temperatureC, limitC: limits.coldC });
  const landed = flights.findLast(({ at }) => at <= charge.startedAt);
  const minutes = landed ? (charge.startedAt - landed.at) / MINUTE_MS : Infinity;
  if (landed && cameWarm(file, landed) && minutes < limits.warmLandingMinutes)
    breaches.push({
      of: 'warm-landing',
      minutes: Math.round(minutes),
      limitMinutes: limits.warmLandingMinutes,
    });
  if (lukewarmAtEase(charge, pack.capacityMah)) breaches.push({ of: 'felt-lukewarm' });
  return breaches;
}

/** The first charge after a season's rest, or the first of all. */
function isAfterRest({ history, rules }: CaseFile, charge: ChargeEvent): boolean {
  const ends = [...history.flights, ...history.charges]
    .map(({ at }) => at)
    .filter((at) => at <= charge.startedAt && at < charge.at);
  const last = ends.length > 0 ? Math.max(...ends) : history.receivedAt;
  return last !== null && charge.startedAt - last >= rules.seasonStartDays * DAY_MS;
}

/** A pack too warm to be charged: the practice lets it cool to 30 °C. */
const COOL_C = 30;

function cameWarm(_file: CaseFile, { hottestC, felt }: FlightEvent): boolean {
  return felt === 'warm' || felt === 'hot' || (hottestC ?? 0) > COOL_C;
}
