import type { ReportTable } from '../../contract';
import type { FlightEvent, PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { column, round } from './columns';
import type { ReportAsked } from './service';

/** The flights of one person on one craft. */
interface FlightCount {
  readonly pilot: string | null;
  readonly flownBy: string | null;
  readonly craft: string | null;
  flights: number;
  minutes: number;
  usedMah: number;
  landings: number;
  low: number;
}

export type FlightCounts = Map<string, FlightCount>;

/** Adds a pack's flights of the period, each to whoever flew and to what it was flown on. */
export function countFlights(
  counts: FlightCounts,
  { pack, flights }: PackHistory,
  rules: HouseRules,
  { from, to, personId, craft: wanted }: ReportAsked,
): void {
  const landAtMv = rules.flight.landAtMv[pack.chemistry] as number | undefined;
  for (const flight of flights) {
    const { at, pilot, flownBy = null, craft, minutes, usedMah } = flight;
    if (at < from || at >= to) continue;
    if (personId !== null && pilot !== personId) continue;
    if (wanted !== null && craft?.toLowerCase() !== wanted) continue;
    const key = `${pilot ?? flownBy} ${craft?.toLowerCase()}`;
    const known = counts.get(key) ?? {
      pilot,
      flownBy,
      craft,
      flights: 0,
      minutes: 0,
      usedMah: 0,
      landings: 0,
      low: 0,
    };
    const lowest = loadedLowestMv(flight, pack.series);
    known.flights += 1;
    known.minutes += minutes ?? 0;
    known.usedMah += usedMah ?? 0;
    known.landings += lowest === null ? 0 : 1;
    known.low += lowest !== null && landAtMv !== undefined && lowest < landAtMv ? 1 : 0;
    counts.set(key, known);
  }
}

/** The lowest cell under load at landing, or the average where only the pack's volts were read; null where nobody read. */
function loadedLowestMv({ landing }: FlightEvent, series: number): number | null {
  if (landing?.condition !== 'loaded') return null;
  return landing.volts.of === 'cells' ? Math.min(...landing.volts.cellsMv) : landing.volts.packMv / series;
}

/** Flights by person and craft, the busiest first. */
export function flightTable(counts: FlightCounts, names: ReadonlyMap<string, string>): ReportTable {
  return {
    key: 'flights',
    title: 'Flights by person and craft',
    columns: [
      column('Person'),
      column('Craft'),
      column('Flights'),
      column('Time', 'h', 1),
      column('Charge used', 'Ah', 1),
      column('Landings read'),
      column('Landed low'),
    ],
    rows: [...counts.values()]
      .sort((a, b) => b.flights - a.flights)
      .map(({ pilot, flownBy, craft, flights, minutes, usedMah, landings, low }) => [
        (pilot && names.get(pilot)) ?? flownBy ?? 'nobody named',
        craft ?? 'not noted',
        flights,
        round(minutes / 60, 1),
        round(usedMah / 1000, 1),
        landings,
        low,
      ]),
  };
}
