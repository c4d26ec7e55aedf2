import { DAY_MS } from '../../measure';
import type { ResistanceEvent } from '../../record';
import type { CapacityPoint } from '../capacity';
import { median } from '../points';
import { resistanceAt25 } from '../resistance';
import type { WearValue } from './filter';

/** What a filter follows: the values with their noise, and the error that all of them share. */
export interface WearSeries {
  readonly values: readonly WearValue[];
  readonly sharedSd: number;
  /** The cell followed, from 1; null for a measure of the whole pack. */
  readonly cell: number | null;
}

/** The noise worked out is scaled by what the values show: as if so many values had agreed with it already. */
const PRIOR_VALUES = 6;

/** How much noisier the values are than worked out, as variance: each held against the line between its neighbours. */
function noiseScale(values: readonly WearValue[]): number {
  const offs: number[] = [];
  for (let i = 1; i + 1 < values.length; i++) {
    const [before, one, after] = [values[i - 1]!, values[i]!, values[i + 1]!];
    const share = after.at > before.at ? (one.at - before.at) / (after.at - before.at) : 0.5;
    const line = before.value + share * (after.value - before.value);
    const expected = one.noise + (1 - share) ** 2 * before.noise + share ** 2 * after.noise;
    offs.push(Math.abs(one.value - line) / Math.sqrt(expected));
  }
  if (offs.length === 0) return 1;
  const shown = (1.4826 * median(offs)) ** 2;
  return (PRIOR_VALUES + offs.length * shown) / (PRIOR_VALUES + offs.length);
}

function scaled(values: readonly WearValue[], scale: number): readonly WearValue[] {
  return values.map((one) => ({ ...one, noise: one.noise * scale }));
}

const BIN_DAYS = 7;
const MOST_BINS = 45;
/** Joined values share what their instrument was off that week, so their noise shrinks a little less than it should. */
const JOINED = 1.2;

/** Capacity turned into wear: percent of the label lost, joined by the week. */
export function capacitySeries(points: readonly CapacityPoint[]): WearSeries {
  const raw = points.map(({ at, value, error }) => ({ at, value: 100 - value, noise: error ** 2 }));
  const scale = noiseScale(raw);
  const values = joined(scaled(raw, scale));
  // The curve bent, the meter's gain: what no number of measurements averages out, percent.
  return { values, sharedSd: 0.9 * Math.max(0.8, Math.sqrt(scale)), cell: null };
}

function joined(values: readonly WearValue[]): readonly WearValue[] {
  const [first, last] = [values[0], values.at(-1)];
  if (!first || !last) return [];
  const width = Math.max(BIN_DAYS * DAY_MS, (last.at - first.at) / MOST_BINS);
  const bins: WearValue[][] = [];
  for (const one of values) {
    const bin = bins.at(-1);
    if (bin && one.at - bin[0]!.at < width) bin.push(one);
    else bins.push([one]);
  }
  return bins.map((bin) => {
    if (bin.length === 1) return bin[0]!;
    const weight = bin.reduce((sum, { noise }) => sum + 1 / noise, 0);
    const mean = bin.reduce((sum, { value, noise }) => sum + value / noise, 0) / weight;
    const middle = median(bin.map(({ value }) => value));
    const noise = JOINED / weight;
    const value = Math.abs(middle - mean) > Math.sqrt(noise) ? middle : mean;
    return { at: median(bin.map(({ at }) => at)), value, noise };
  });
}

const BASELINE_READINGS = 3;
/** A cell differs from its pack's median by about this, as a share; a baseline cell is drawn to the median accordingly. */
const CELLS_DIFFER = 0.035;
/** Noise of one cell's resistance before anything is known of the meter, as a share, with the weight of so many values. */
const CELL_NOISE = 0.045;
const CELL_NOISE_WEIGHT = 8;
const CONTACT_NOISE = 0.02;
/** A thermometer is off by about 1.2 °C, and resistance changes by 2.8 % a degree. */
const TEMPERATURE_NOISE = 0.028 * 1.2;
/** The temperature's own law is off by this a degree away from 25 °C. */
const LAW_NOISE = 0.004;
/** The cell that has grown most is found by so many of the latest values, and by the later half while there are fewer. */
const GROWN_BY = 12;

/** Resistance turned into wear: percent above its baseline, for the cell that has grown most; null without readings after a baseline. */
export function resistanceSeries(readings: readonly ResistanceEvent[]): WearSeries | null {
  if (readings.length <= BASELINE_READINGS) return null;
  const logs = readings.map(({ irMilliohm, temperatureC }) =>
    irMilliohm.map((one) => Math.log(resistanceAt25(one, temperatureC))),
  );
  const cells = logs[0]!.length;
  const v = (cellNoise(logs) ** 2 / BASELINE_READINGS) * JOINED;
  const baseline = baselineOf(logs.slice(0, BASELINE_READINGS), v);
  const later = readings.slice(BASELINE_READINGS);
  const growth = (cell: number) =>
    logs.slice(BASELINE_READINGS).map((one) => Math.exp(one[cell]! - baseline[cell]!));
  const latest = Math.min(GROWN_BY, Math.max(3, Math.ceil(later.length / 2)));
  const grown = Array.from({ length: cells }, (_, cell) => median(growth(cell).slice(-latest)));
  const cell = grown.indexOf(Math.max(...grown));
  const noise = cellNoise(logs);
  const raw = growth(cell).map((factor, i) => {
    const { at, temperatureC } = later[i]!;
    const share = Math.hypot(noise, CONTACT_NOISE, TEMPERATURE_NOISE, (25 - temperatureC) * LAW_NOISE);
    return { at, value: 100 * (factor - 1), noise: (100 * factor * share) ** 2 };
  });
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  const shared = Math.sqrt(
    (1.3 * (TEMPERATURE_NOISE ** 2 + CONTACT_NOISE ** 2)) / BASELINE_READINGS +
      v / cells +
      lambda * v +
      0.01 ** 2,
  );
  return { values: scaled(raw, noiseScale(raw)), sharedSd: 0.9 * shared, cell: cell + 1 };
}

/** Each cell's baseline, its logarithm: three readings of a cell are noisy, so it is drawn towards its siblings. */
function baselineOf(logs: readonly (readonly number[])[], v: number): readonly number[] {
  const own = logs[0]!.map((_, cell) => median(logs.map((one) => one[cell]!)));
  const pack = median(own);
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  return own.map((one) => pack + lambda * (one - pack));
}

/** Noise of one cell beside its siblings, as a share: what temperature and contact do to all alike is not in it. */
function cellNoise(logs: readonly (readonly number[])[]): number {
  const changes: number[] = [];
  for (let i = 1; i < logs.length; i++) {
    const mean = (one: readonly number[]) => one.reduce((sum, value) => sum + value, 0) / one.length;
    const [before, after] = [logs[i - 1]!, logs[i]!];
    if (before.length < 2) break;
    const moved = mean(after) - mean(before);
    for (const [cell, value] of after.entries()) changes.push(Math.abs(value - before[cell]! - moved));
  }
  if (changes.length === 0) return CELL_NOISE;
  const shown = (1.4826 * median(changes)) / Math.SQRT2;
  const weight = changes.length;
  return Math.sqrt(
    (CELL_NOISE_WEIGHT * CELL_NOISE ** 2 + weight * shown ** 2) / (CELL_NOISE_WEIGHT + weight),
  );
}
