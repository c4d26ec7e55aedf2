import type { ResistanceEvent } from '../record';
import { median } from './points';
import type { Point } from './points';

/**
 * A cell's resistance as it would be at 25 °C. Resistance doubles from 25 to 0 °C: R25 = R(T)·2^((T−25)/25).
 * @param celsius the cell's temperature when it was measured
 * @example resistanceAt25(8, 0) // => 4
 * @example resistanceAt25(4, 25) // => 4
 */
export function resistanceAt25(milliohm: number, celsius: number): number {
  return milliohm * 2 ** ((celsius - 25) / 25);
}

/** The first this many readings are the baseline of a new pack. Source: the practice's receipt list. */
export const BASELINE_READINGS = 3;

/** Each cell's own baseline, mΩ at 25 °C; null until there are enough readings for one. */
export function resistanceBaseline(resistances: readonly ResistanceEvent[]): readonly number[] | null {
  if (resistances.length < BASELINE_READINGS) return null;
  const first = resistances.slice(0, BASELINE_READINGS).map(at25);
  return first[0]!.map((_, cell) => median(first.map((cells) => cells[cell]!)));
}

/** Each cell's resistance over time, mΩ at 25 °C. */
export function resistanceOfCell(resistances: readonly ResistanceEvent[], cell: number): readonly Point[] {
  return resistances.map((event) => ({
    at: event.at,
    value: resistanceAt25(event.irMilliohm[cell - 1]!, event.temperatureC),
    records: event.records,
  }));
}

/** The mean cell's resistance over time, mΩ at 25 °C. */
export function meanResistance(resistances: readonly ResistanceEvent[]): readonly Point[] {
  return resistances.map((event) => {
    const cells = at25(event);
    const value = cells.reduce((sum, one) => sum + one, 0) / cells.length;
    return { at: event.at, value, records: event.records };
  });
}

function at25({ irMilliohm, temperatureC }: ResistanceEvent): number[] {
  return irMilliohm.map((milliohm) => resistanceAt25(milliohm, temperatureC));
}

/** A reading's temperature correction is off by so much a degree away from 25 °C, as a share. Source: forecasts on cells of known wear: ln 2 ÷ 25 ± 0.004. */
const UNSURE_A_DEGREE = 0.004;

/**
 * What a factor certainly is, the error of its temperature correction granted.
 * @example certainFactor(2, 25) // => 2
 * @example certainFactor(2, 0) // => 1.8
 */
export function certainFactor(factor: number, celsius: number): number {
  return factor * (1 - UNSURE_A_DEGREE * Math.abs(25 - celsius));
}

/** How far one cell stands out, as a factor, and which. */
export interface CellFactor {
  readonly cell: number;
  readonly factor: number;
  readonly milliohm: number;
  readonly against: number;
}

/**
 * The cell that has grown most against its own baseline; null without a baseline or a reading after it. Judged by the
 * median of the latest three readings.
 */
export function mostGrown(resistances: readonly ResistanceEvent[]): CellFactor | null {
  const baseline = resistanceBaseline(resistances);
  if (!baseline || resistances.length <= BASELINE_READINGS) return null;
  return worst(latestCells(resistances), (_, i) => baseline[i]!);
}

/** How far each of the latest three readings says a cell has grown, the temperature's error granted; oldest first. */
export function growthOf(resistances: readonly ResistanceEvent[], cell: number): readonly number[] {
  const baseline = resistanceBaseline(resistances);
  if (!baseline) return [];
  return resistances
    .slice(BASELINE_READINGS)
    .slice(-BASELINE_READINGS)
    .map((event) => certainFactor(at25(event)[cell - 1]! / baseline[cell - 1]!, event.temperatureC));
}

/** How far each of the latest three readings has a cell above its siblings; oldest first. One temperature moves all cells alike. */
export function apartOf(resistances: readonly ResistanceEvent[], cell: number): readonly number[] {
  return resistances.slice(-BASELINE_READINGS).map((event) => {
    const cells = at25(event);
    return cells[cell - 1]! / median(cells.filter((_, other) => other !== cell - 1));
  });
}

/** The cell that stands furthest above its siblings in one reading; null for a pack of one cell. */
export function apartIn(reading: ResistanceEvent): CellFactor | null {
  const cells = at25(reading);
  return cells.length < 2 ? null : worst(cells, (_, i) => median(cells.filter((__, other) => other !== i)));
}

/**
 * The cell that stands furthest above its siblings' median; null for a pack of one cell or without a reading. Judged by
 * the median of the latest three readings.
 */
export function mostApart(resistances: readonly ResistanceEvent[]): CellFactor | null {
  if (resistances.length === 0 || resistances[0]!.irMilliohm.length < 2) return null;
  const latest = latestCells(resistances);
  return worst(latest, (_, i) => median(latest.filter((__, other) => other !== i)));
}

/** The largest rise of one cell between the last two readings; null before there are two. */
export function lastJump(resistances: readonly ResistanceEvent[]): CellFactor | null {
  const [before, after] = resistances.slice(-2).map(at25);
  return before && after ? worst(after, (_, i) => before[i]!) : null;
}

function latestCells(resistances: readonly ResistanceEvent[]): number[] {
  const latest = resistances.slice(-BASELINE_READINGS).map(at25);
  return latest[0]!.map((_, cell) => median(latest.map((cells) => cells[cell]!)));
}

function worst(cells: readonly number[], against: (value: number, i: number) => number): CellFactor {
  return cells
    .map((milliohm, i) => {
      const other = against(milliohm, i);
      return { cell: i + 1, factor: milliohm / other, milliohm, against: other };
    })
    .reduce((most, one) => (one.factor > most.factor ? one : most));
}
