import type { FlightEvent } from '../../record';
import type { CaseFile } from '../caseFile';
import type { Finding } from '../finding';

const RECENT_FLIGHTS = 5;

/** The latest flight landed under the house's line, read under load at the end of it; and how often lately. */
export function landedLow({ history, rules }: CaseFile): readonly Finding[] {
  const { pack, flights } = history;
  const limitMv = rules.flight.landAtMv[pack.chemistry];
  const read = flights.filter((flight) => lowestLoaded(flight, pack.series) !== null).slice(-RECENT_FLIGHTS);
  const low = read.filter((flight) => lowestLoaded(flight, pack.series)! < limitMv);
  const latest = read.at(-1);
  if (!latest || low.at(-1) !== latest) return [];
  return [
    {
      rule: 'landed-low',
      severity: 'note',
      mv: lowestLoaded(latest, pack.series)!,
      at: latest.at,
      limitMv,
      times: low.length,
      ofFlights: read.length,
      records: low.flatMap(({ records }) => records),
    },
  ];
}

function lowestLoaded({ landing }: FlightEvent, series: number): number | null {
  if (landing?.condition !== 'loaded') return null;
  const { volts } = landing;
  return volts.of === 'cells' ? Math.min(...volts.cellsMv) : Math.round(volts.packMv / series);
}
