import { median, trendOf } from '../health';
import type { Trend } from '../health';
import type { Instant, RecordId } from '../measure';
import type { HouseRules } from '../rules';
import type { PackFacts } from '../pack';
import type { Landing } from './landings';

/** A landing and the pack it was made with. */
export type LandingOf = Landing & Pick<PackFacts, 'chemistry'>;

/** How somebody lands, or how a craft or a type is landed: counted without blame. */
export interface Discipline {
  readonly flights: number;
  /** Landings read under load, and those of them under the house's line. */
  readonly read: number;
  readonly low: number;
  readonly lowRecords: readonly RecordId[];
  /** Flights whose charge was noted, those that went into the reserve, and by how many points on average. */
  readonly measured: number;
  readonly deep: number;
  readonly deepPoints: number | null;
  readonly deepRecords: readonly RecordId[];
  /** The middle landing against the house's line, millivolts a cell above it; null where none was read. */
  readonly aboveLineMv: number | null;
  /** Half of the landings lie within so many millivolts of each other; null for fewer than four. */
  readonly alikeMv: number | null;
  /** How the landings move, millivolts a month; null where nobody can say. */
  readonly perMonthMv: number | null;
  readonly lastAt: Instant | null;
}

const MONTH_DAYS = 30;
const LEAST_FOR_SPREAD = 4;
const ROUNDING = 1e-9;

/**
 * What some flights tell of landing. Volts count above the house's line for each pack's own chemistry, so that a pilot who flies two
 * chemistries is not compared with himself.
 */
export function discipline(
  landings: readonly LandingOf[],
  { flight }: Pick<HouseRules, 'flight'>,
): Discipline {
  const line = ({ chemistry }: LandingOf) => flight.landAtMv[chemistry];
  const read = landings.filter(({ loadedMv }) => loadedMv !== null);
  const above = read.map((landing) => landing.loadedMv! - line(landing));
  const low = read.filter((landing) => landing.loadedMv! < line(landing));
  const measured = landings.filter(({ depthPercent }) => depthPercent !== null);
  const deep = measured.filter(({ depthPercent }) => depthPercent! > flight.maxDodPercent + ROUNDING);
  const points = deep.map(({ depthPercent }) => depthPercent! - flight.maxDodPercent);
  return {
    flights: landings.length,
    read: read.length,
    low: low.length,
    lowRecords: low.map(({ recordId }) => recordId),
    measured: measured.length,
    deep: deep.length,
    deepPoints: points.length === 0 ? null : points.reduce((sum, one) => sum + one, 0) / points.length,
    deepRecords: deep.map(({ recordId }) => recordId),
    aboveLineMv: above.length === 0 ? null : median(above),
    alikeMv: above.length < LEAST_FOR_SPREAD ? null : middleHalf(above),
    perMonthMv: movement(read, above),
    lastAt: landings.reduce<Instant | null>((latest, { at }) => Math.max(latest ?? at, at), null),
  };
}

function middleHalf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))]!;
  return at(0.75) - at(0.25);
}

/** Only a movement that its range tells from none. */
function movement(read: readonly LandingOf[], above: readonly number[]): number | null {
  const points = read.map(({ at }, i) => ({ at, value: above[i]!, records: [] })).sort((a, b) => a.at - b.at);
  const trend = trendOf(points);
  return trend.enough && isCertain(trend) ? trend.perDay * MONTH_DAYS : null;
}

function isCertain({ perDayLow, perDayHigh }: Trend): boolean {
  return perDayLow > 0 || perDayHigh < 0;
}

/** A pack that has landed, by its lowest cell now. */
export interface LandedPack {
  readonly id: string;
  readonly typeId: string;
  readonly mv: number;
}

/** Packs joined on one parallel board may lie so far apart, millivolts a cell. Source: the practice; a board's own tolerance decides on the bench. */
const ALIKE_MV = 50;

/**
 * Packs that landed alike: of one type, all within the tolerance of each other, the largest groups first. Two and more make a load.
 * @example alikeGroups([{ id: 'a', typeId: 't', mv: 3750 }, { id: 'b', typeId: 't', mv: 3800 }, { id: 'c', typeId: 't', mv: 3801 }]).map((g) => g.length) // => [2]
 */
export function alikeGroups<Pack extends LandedPack>(packs: readonly Pack[]): readonly (readonly Pack[])[] {
  const groups: Pack[][] = [];
  for (const type of new Set(packs.map(({ typeId }) => typeId))) {
    let rest = packs.filter(({ typeId }) => typeId === type).sort((a, b) => a.mv - b.mv);
    while (rest.length > 0) {
      const from = widest(rest);
      const group = rest.filter(({ mv }) => mv >= from && mv <= from + ALIKE_MV);
      rest = rest.filter((pack) => !group.includes(pack));
      if (group.length > 1) groups.push(group);
    }
  }
  return groups.sort((a, b) => b.length - a.length);
}

/** From which volts on most packs lie within the tolerance. */
function widest(sorted: readonly LandedPack[]): number {
  let [best, count] = [sorted[0]!.mv, 0];
  for (const { mv: from } of sorted) {
    const within = sorted.filter(({ mv }) => mv >= from && mv <= from + ALIKE_MV).length;
    if (within > count) [best, count] = [from, within];
  }
  return best;
}
