import type { FlightEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';
import { ROUNDING } from './lines';

/** Told while it is among so many of the latest flights, and counted over twice as many. */
const RECENT_FLIGHTS = 5;
const COUNTED_FLIGHTS = 20;

/**
 * How deep each flight went: charge used against capacity as measured. What went into the reserve is told in points, and counted
 * by pack and pilot without blame. The deepest allowed use itself is allowed.
 */
export function deepUse({ history, rules, measured }: CaseFile): readonly Finding[] {
  const limitPercent = rules.flight.maxDodPercent;
  const depth = ({ usedMah }: FlightEvent) => (usedMah! / measured.capacityMah) * 100;
  const counted = history.flights.filter(({ usedMah }) => usedMah !== null).slice(-COUNTED_FLIGHTS);
  const deep = counted.filter((flight) => depth(flight) > limitPercent + ROUNDING);
  const latest = counted.slice(-RECENT_FLIGHTS).findLast((flight) => deep.includes(flight));
  if (!latest) return [];
  return [
    {
      rule: 'deep-use',
      severity: 'note',
      at: latest.at,
      pilot: latest.pilot,
      craft: latest.craft,
      percent: depth(latest),
      limitPercent,
      times: deep.length,
      ofFlights: counted.length,
      timesBySame: deep.filter(({ pilot }) => pilot === latest.pilot).length,
      records: deep.flatMap(({ records }) => records),
    },
  ];
}

/** The latest flight was in the cold: a pack gives less then and sags more, and its health is judged with that in mind. */
export function coldUse({ history, rules }: CaseFile): readonly Finding[] {
  const latest = history.flights.at(-1);
  const limitC = rules.flight.coldC;
  const celsius = latest?.ambientC ?? null;
  if (!latest || celsius === null || celsius >= limitC) return [];
  const { at, records } = latest;
  return [{ rule: 'cold-use', severity: 'note', at, celsius, limitC, records }];
}
