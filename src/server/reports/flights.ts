import type { ReportTable } from '../../contract';
import { landingsOf } from '../../core/flying';
import type { Landing } from '../../core/flying';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import type { Reader } from '../../core/wording';
import { isoDay } from '../platform/paper';
import { column, round } from './columns';
import type { ReportAsked } from './service';

/** The flights of one person on one craft with packs of one type. */
interface FlightCount {
  readonly type: string;
  readonly pilot: string | null;
  readonly flownBy: string | null;
  readonly craft: string | null;
  flights: number;
  minutes: number;
  usedMah: number;
  landings: number;
  low: number;
  deep: number;
  deepPoints: number;
}

/** A landing under the house's line, or a flight that went into the reserve: the record behind a count. */
interface ToldLanding extends Landing {
  readonly tag: string;
}

export interface FlightCounts {
  readonly counts: Map<string, FlightCount>;
  readonly told: ToldLanding[];
}

/** Adds a pack's flights of the period, each to whoever flew and to what it was flown on. */
export function countFlights(
  { counts, told }: FlightCounts,
  { tag, type }: { readonly tag: string; readonly type: string },
  history: PackHistory,
  capacityMah: number,
  rules: HouseRules,
  { from, to, personId, craft: wanted }: ReportAsked,
): void {
  const { chemistry } = history.pack;
  for (const landing of landingsOf(history, capacityMah)) {
    const { at, pilot, flownBy, craft, minutes, usedMah, loadedMv, depthPercent } = landing;
    if (at < from || at >= to) continue;
    if (personId !== null && pilot !== personId) continue;
    if (wanted !== null && craft?.toLowerCase() !== wanted) continue;
    const key = `${pilot ?? flownBy} ${craft?.toLowerCase()} ${type}`;
    const known = counts.get(key) ?? {
      ...{ type, pilot, flownBy, craft, flights: 0, minutes: 0, usedMah: 0, landings: 0, low: 0 },
      ...{ deep: 0, deepPoints: 0 },
    };
    const isLow = loadedMv !== null && loadedMv < rules.flight.landAtMv[chemistry];
    const points = Math.max(0, (depthPercent ?? 0) - rules.flight.maxDodPercent);
    const isDeep = points > ROUNDING;
    known.flights += 1;
    known.minutes += minutes ?? 0;
    known.usedMah += usedMah ?? 0;
    known.landings += loadedMv === null ? 0 : 1;
    known.low += isLow ? 1 : 0;
    known.deep += isDeep ? 1 : 0;
    known.deepPoints += isDeep ? points : 0;
    counts.set(key, known);
    if (isLow || isDeep) told.push({ ...landing, tag });
  }
}

/** The deepest allowed use itself is allowed, whatever binary makes of it. */
const ROUNDING = 1e-9;
/** A report names so many; the counts are of all. */
const MOST_NAMED = 500;

/** Flights by person, craft and type, the busiest first. */
export function flightTable({ counts }: FlightCounts, names: ReadonlyMap<string, string>): ReportTable {
  return {
    key: 'flights',
    about: 'handling',
    title: 'Flights by person, craft and type',
    columns: [
      column('Person'),
      column('Craft'),
      column('Type'),
      column('Flights'),
      column('Time', 'h', 1),
      column('Charge used', 'Ah', 1),
      column('Landings read'),
      column('Landed low'),
      column('Into the reserve'),
      column('Points on average', null, 1),
    ],
    rows: [...counts.values()]
      .sort((a, b) => b.flights - a.flights)
      .map(({ pilot, flownBy, craft, type, flights, minutes, usedMah, landings, low, deep, deepPoints }) => [
        (pilot && names.get(pilot)) ?? flownBy ?? 'nobody named',
        craft ?? 'not noted',
        type,
        flights,
        round(minutes / 60, 1),
        round(usedMah / 1000, 1),
        landings,
        low,
        deep,
        deep === 0 ? null : round(deepPoints / deep, 1),
      ]),
  };
}

/** The flights behind the counts: each that landed low or went into the reserve, the latest first. */
export function landingTable(
  { told }: FlightCounts,
  names: ReadonlyMap<string, string>,
  { zone }: Pick<Reader, 'zone'>,
): ReportTable {
  return {
    key: 'landings',
    about: 'handling',
    title: 'Landed low, or into the reserve',
    columns: [
      column('Person'),
      column('Craft'),
      column('Pack'),
      column('Day'),
      column('In the air', 'V a cell', 2),
      column('Rested', 'V a cell', 2),
      column('Taken out', '%'),
    ],
    rows: [...told]
      .sort((a, b) => b.at - a.at)
      .slice(0, MOST_NAMED)
      .map(({ pilot, flownBy, craft, tag, at, loadedMv, restedMv, depthPercent }) => [
        (pilot && names.get(pilot)) ?? flownBy ?? 'nobody named',
        craft ?? 'not noted',
        tag,
        isoDay(at, zone),
        loadedMv === null ? null : round(loadedMv / 1000, 2),
        restedMv === null ? null : round(restedMv / 1000, 2),
        depthPercent === null ? null : Math.round(depthPercent),
      ]),
  };
}
