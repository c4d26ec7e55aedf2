import { isLithium, socPercent } from '../chemistry';
import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import type { PackHistory } from '../record';
import type { HouseRules } from '../rules';
import { forecast } from './forecast';
import type { Direction, Forecast } from './forecast';
import { median } from './points';
import type { Point } from './points';
import {
  BASELINE_READINGS,
  meanResistance,
  mostGrown,
  resistanceBaseline,
  resistanceOfCell,
} from './resistance';
import { comparable } from './likeWithLike';
import { measure as measured } from './measured';
import type { Measured as Found } from './measured';
import { alarmsOf, bandAt, foretold, outlooks } from './outlook';
import type { Outlook, Siblings } from './outlook';
import { runTimes } from './runTime';
import { spread } from './spread';
import { trendOf } from './trend';
import type { NotEnough, Trend } from './trend';
import { ageYears, cycles } from './wear';

export type MeasureId = 'spread' | 'resistance' | 'capacity' | 'run-time' | 'temperature' | 'cycles' | 'age';

/** One measure of a pack's health: its values, what they are held against, where they are going. */
export interface Measure {
  readonly id: MeasureId;
  readonly unit: 'mV' | 'mΩ' | '×' | '%' | 'min/Ah' | '°C' | 'cycles' | 'years';
  readonly direction: Direction;
  readonly points: readonly Point[];
  /** One series a cell where the measure has one; empty otherwise. */
  readonly cells: readonly (readonly Point[])[];
  readonly baseline: number | null;
  readonly watch: number | null;
  readonly retire: number | null;
  readonly trend: Trend | NotEnough;
  /** How it wears by the filter that follows it; null for a measure told by its straight trend. */
  readonly course: Course | null;
  readonly toWatch: Forecast | null;
  readonly toRetire: Forecast | null;
  /** What the values are limited to, so that like is compared with like. */
  readonly compared: { readonly craft: string } | { readonly cell: number } | null;
}

/** A measure's wear as it was followed: how many values, since when it goes at another pace, and the band of its futures. */
export interface Course {
  readonly count: number;
  readonly firstAt: Instant;
  readonly lastAt: Instant;
  readonly changed: { readonly at: Instant; readonly how: 'knee' | 'step'; readonly seen: number } | null;
  /** In the measure's own unit; four futures in five lie between low and high. */
  readonly band: readonly {
    readonly at: Instant;
    readonly low: number;
    readonly middle: number;
    readonly high: number;
  }[];
  /** How many packs of its kind it borrows from; 0 for none. */
  readonly siblings: number;
}

export interface HealthReport {
  readonly measures: readonly Measure[];
  /** The earliest crossing of a line that recommends retiring, or of the age or cycle line; null when none is in sight. */
  readonly retirement: { readonly because: MeasureId; readonly forecast: Forecast } | null;
}

interface Reading {
  readonly at: Instant;
  readonly cellsMv: readonly number[];
  readonly byCell: boolean;
  readonly meterErrorMv: number;
  readonly records: Point['records'];
}

/** Near empty the curve falls steeply and any two cells drift apart; spread is compared above this charge only. */
const COMPARABLE_SOC_PERCENT = 20;

/** Everything measured of a pack's health, with trends and forecasts. Heavier than judging: for a page, not a list. */
export function healthReport(
  history: PackHistory,
  rested: readonly Reading[],
  rules: HouseRules,
  now: Instant,
  siblings: Siblings = {},
): HealthReport {
  const found = measured(history, rested, rules, now);
  const followed = outlooks(history, found, rules, siblings);
  const measures = [
    spreadMeasure(history, rested, rules),
    resistanceMeasure(history, rules, found, followed.find(({ measure }) => measure === 'resistance')?.cell),
    capacityMeasure(rules, found),
    runTimeMeasure(history, rules),
    temperatureMeasure(history, rules),
    cyclesMeasure(history, rules),
    ageMeasure(history, rules, now),
  ]
    .filter((measure) => measure !== null)
    .map((measure) => withForecasts(measure, now))
    .map((measure) => withCourse(measure, followed, siblings, now));
  return { measures, retirement: earliest(measures) };
}

type Measured = Omit<Measure, 'trend' | 'course' | 'toWatch' | 'toRetire'> & { readonly since?: Instant };

const NOTHING = { cells: [], baseline: null, compared: null } as const;

function spreadMeasure(history: PackHistory, rested: readonly Reading[], rules: HouseRules): Measured | null {
  const { chemistry, series } = history.pack;
  if (!isLithium(chemistry) || series < 2) return null;
  const points = unbalanced(history, rested)
    .filter(
      ({ byCell, cellsMv }) =>
        byCell && socPercent(chemistry, Math.min(...cellsMv)) >= COMPARABLE_SOC_PERCENT,
    )
    .map(({ at, cellsMv, records }) => ({ at, value: spread(cellsMv).mv, records }));
  const { watchMv, retireMv } = rules.spread;
  return {
    ...NOTHING,
    id: 'spread',
    unit: 'mV',
    direction: 'rising',
    points,
    watch: watchMv,
    retire: retireMv,
  };
}

/**
 * Readings that show how far the cells drift by themselves: those after a use, before a charge has closed them again. All
 * readings where no use was ever logged.
 */
function unbalanced({ flights, charges }: PackHistory, rested: readonly Reading[]): readonly Reading[] {
  if (flights.length === 0) return rested;
  const ends = [
    ...flights.map(({ at }) => ({ at, used: true })),
    ...charges.map(({ at }) => ({ at, used: false })),
  ].sort((a, b) => a.at - b.at);
  return rested.filter((reading) => ends.findLast(({ at }) => at <= reading.at)?.used);
}

/** The cell that has grown most is followed, against its own baseline; without a baseline, the mean cell in milliohm. */
function resistanceMeasure(
  { pack, resistances: all }: PackHistory,
  rules: HouseRules,
  { oddRecords }: Found,
  followedCell: number | null | undefined,
): Measured | null {
  const resistances = comparable(all, oddRecords);
  if (resistances.length === 0) return null;
  const cells = Array.from({ length: pack.series }, (_, i) => resistanceOfCell(resistances, i + 1));
  const baseline = resistanceBaseline(resistances);
  const shared = { ...NOTHING, id: 'resistance', direction: 'rising' } as const;
  if (!baseline) {
    const points = meanResistance(resistances);
    return { ...shared, unit: 'mΩ', points, cells, watch: null, retire: null };
  }
  const growth = cells.map((points, i) =>
    points.map((point) => ({ ...point, value: point.value / baseline[i]! })),
  );
  const cell = followedCell ?? mostGrown(resistances)?.cell ?? 1;
  return {
    ...shared,
    unit: '×',
    points: growth[cell - 1]!,
    cells: growth,
    baseline: 1,
    ...rules.health.irGrowth,
    compared: { cell },
  };
}

function capacityMeasure(rules: HouseRules, { capacity: points }: Found): Measured | null {
  if (points.length === 0) return null;
  const { watch, retire } = rules.health.capacityPercent;
  return {
    ...NOTHING,
    id: 'capacity',
    unit: '%',
    direction: 'falling',
    points,
    baseline: 100,
    watch,
    retire,
  };
}

function runTimeMeasure({ flights }: PackHistory, rules: HouseRules): Measured | null {
  const times = runTimes(flights, rules.flight.coldC);
  if (!times) return null;
  const { points, baseline, craft } = times;
  const { watch, retire } = rules.health.runTimeLossPercent;
  const lessBy = (percent: number) => baseline && baseline * (1 - percent / 100);
  return {
    ...NOTHING,
    id: 'run-time',
    unit: 'min/Ah',
    direction: 'falling',
    points,
    baseline,
    watch: lessBy(watch),
    retire: lessBy(retire),
    compared: { craft },
  };
}

function temperatureMeasure({ flights }: PackHistory, rules: HouseRules): Measured | null {
  const points = flights
    .filter(({ hottestC }) => hottestC !== null)
    .map(({ at, hottestC, records }) => ({ at, value: hottestC!, records }));
  if (points.length === 0) return null;
  return {
    ...NOTHING,
    id: 'temperature',
    unit: '°C',
    direction: 'rising',
    points,
    watch: rules.heat.useWatchC,
    retire: null,
  };
}

function cyclesMeasure(history: PackHistory, rules: HouseRules): Measured | null {
  const { pack, charges, flights } = history;
  if (charges.length + flights.length === 0) return null;
  const uses = charges.some(({ movedMah }) => movedMah !== null)
    ? charges.map(({ at, movedMah, records }) => ({ at, mah: movedMah, records }))
    : flights.map(({ at, usedMah, records }) => ({ at, mah: usedMah, records }));
  const guess = (rules.flight.maxDodPercent / 100) * pack.capacityMah;
  let sum = 0;
  const points = uses.map(({ at, mah, records }) => {
    sum += (mah ?? guess) / pack.capacityMah;
    return { at, value: sum, records };
  });
  const counted = cycles(history, rules.flight.maxDodPercent).count;
  const last = points.at(-1);
  if (last && counted > last.value) points.push({ ...last, value: counted });
  const limit = rules.health.cycles[pack.chemistry];
  return {
    ...NOTHING,
    id: 'cycles',
    unit: 'cycles',
    direction: 'rising',
    points,
    watch: limit,
    retire: null,
  };
}

function ageMeasure(history: PackHistory, rules: HouseRules, now: Instant): Measured | null {
  const years = ageYears(history, now);
  if (years === null) return null;
  const since = history.pack.inServiceAt ?? history.receivedAt!;
  const points = [{ at: now, value: years, records: [] }];
  const watch = rules.health.ageYears[history.pack.dutyClass];
  return { ...NOTHING, id: 'age', unit: 'years', direction: 'rising', points, watch, retire: null, since };
}

const YEAR_DAYS = 365.25;

function withForecasts({ since, ...measure }: Measured, now: Instant): Measure {
  if (since !== undefined) return { ...measure, course: null, ...dated(since, measure.watch!, now) };
  // The first readings are the baseline; a trend from them on would be bent by what made them the baseline.
  const points = measure.id === 'resistance' ? measure.points.slice(BASELINE_READINGS - 1) : measure.points;
  const trend = trendOf(measure.id === 'cycles' ? lastHalfYear(points) : points);
  const to = (limit: number | null) =>
    limit === null ? null : forecast(trend, limit, measure.direction, now);
  return { ...measure, trend, course: null, toWatch: to(measure.watch), toRetire: to(measure.retire) };
}

/** Capacity and resistance are followed by a filter that can bend; the others keep their straight trend. */
function withCourse(
  measure: Measure,
  followed: readonly Outlook[],
  siblings: Siblings,
  now: Instant,
): Measure {
  const outlook = followed.find((one) => one.measure === measure.id);
  if (!outlook || measure.watch === null) return measure;
  const { futures, toWatch, toRetire } = foretold(outlook, now);
  const told = (wear: number) => (outlook.measure === 'capacity' ? 100 - wear : 1 + wear / 100);
  const band = bandAt(futures).map(({ at, low, middle, high }) => {
    const ends = [told(low), told(high)];
    return { at, low: Math.min(...ends), middle: told(middle), high: Math.max(...ends) };
  });
  const { count, lastAt } = outlook.wear;
  const course: Course = {
    count,
    firstAt: measure.points[0]?.at ?? lastAt,
    lastAt,
    changed: alarmsOf(outlook).changed,
    band,
    siblings: siblings[outlook.measure]?.packs ?? 0,
  };
  return { ...measure, course, toWatch, toRetire };
}

/** Age moves by itself, and its crossing is a date. */
function dated(since: Instant, limit: number, now: Instant): Pick<Measure, 'trend' | 'toWatch' | 'toRetire'> {
  const at = since + limit * YEAR_DAYS * DAY_MS;
  const toWatch: Forecast =
    at <= now ? { state: 'crossed', at } : { state: 'range', earliest: at, expected: at, latest: at };
  return { trend: { enough: false, count: 1, wanted: 1 }, toWatch, toRetire: null };
}

/** How often a pack is used changes with the season's work; the pace of late is the better guess. */
function lastHalfYear(points: readonly Point[]): readonly Point[] {
  const last = points.at(-1);
  return last ? points.filter(({ at }) => at > last.at - 182 * DAY_MS) : points;
}

/** The first line to be crossed that says a pack should go; the age and cycle lines count, since they ask for a review. */
function earliest(measures: readonly Measure[]): HealthReport['retirement'] {
  const candidates = measures
    .map(({ id, toRetire, toWatch }) => ({
      because: id,
      forecast: id === 'age' || id === 'cycles' ? toWatch : toRetire,
    }))
    .filter(
      (one): one is { because: MeasureId; forecast: Extract<Forecast, { state: 'crossed' | 'range' }> } =>
        one.forecast?.state === 'crossed' || one.forecast?.state === 'range',
    );
  const when = ({ forecast: said }: (typeof candidates)[number]) =>
    said.state === 'crossed' ? said.at : said.expected;
  return candidates.reduce<(typeof candidates)[number] | null>(
    (first, one) => (first && when(first) <= when(one) ? first : one),
    null,
  );
}

/** How one cell stands beside its siblings: for comparing the cells of a pack. */
export interface CellStanding {
  readonly cell: number;
  /** How far it rests from the cells' median on the middle reading of the latest, millivolts. */
  readonly offMv: number | null;
  readonly irMilliohm: number | null;
  /** Its resistance against its own baseline, as a factor. */
  readonly irGrowth: number | null;
  /** How often it was the lowest among the latest rested readings. */
  readonly lowestTimes: number;
  readonly ofReadings: number;
}

const COMPARED_READINGS = 10;

/** The cells of a pack compared, by their latest rested readings and resistances. Empty for a pack read by its total. */
export function cellsCompared(history: PackHistory, rested: readonly Reading[]): readonly CellStanding[] {
  const latest = rested.filter(({ byCell }) => byCell).slice(-COMPARED_READINGS);
  const { resistances, pack } = history;
  if (pack.series < 2 || (latest.length === 0 && resistances.length === 0)) return [];
  const baseline = resistanceBaseline(resistances);
  return Array.from({ length: pack.series }, (_, i) => {
    const offs = latest.map(({ cellsMv }) => cellsMv[i]! - median(cellsMv));
    const now = resistances.length > 0 ? resistanceOfCell(resistances.slice(-1), i + 1)[0]!.value : null;
    return {
      cell: i + 1,
      offMv: offs.length > 0 ? Math.round(median(offs)) : null,
      irMilliohm: now,
      irGrowth: now !== null && baseline ? now / baseline[i]! : null,
      lowestTimes: latest.filter(({ cellsMv }) => isLowest(cellsMv, i)).length,
      ofReadings: latest.length,
    };
  });
}

/** Lowest, and alone: equal cells have no weakest. */
function isLowest(cellsMv: readonly number[], i: number): boolean {
  return cellsMv.every((mv, other) => other === i || mv > cellsMv[i]!);
}
