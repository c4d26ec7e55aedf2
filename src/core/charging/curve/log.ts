import { curveWith, EMPTY_CURVE, pointsOf } from './point';
import type { CurvePoint, KeptCurve } from './point';

export const LOG_FIELDS = ['time', 'cell', 'pack', 'amps', 'moved', 'celsius'] as const;
/** What a column of a charger's log may be. Several columns may be cells, in their order; each other field is one column. */
export type LogField = (typeof LOG_FIELDS)[number];
export type LogMatching = readonly (LogField | null)[];

export const TIME_UNITS = ['s', 'ms', 'min'] as const;
export type TimeUnit = (typeof TIME_UNITS)[number];

export const LOG_DECIMALS = ['comma', 'point'] as const;
/** What parts the decimals in a log. */
export type LogDecimals = (typeof LOG_DECIMALS)[number];

/** How a log is read: guessed first, put right by hand, remembered for the next one with the same columns. */
export interface LogForm {
  readonly matching: LogMatching;
  /** What a bare number of the time column counts; times of day and dates say so themselves. */
  readonly unit: TimeUnit;
  readonly decimals: LogDecimals;
}

const NAMES: readonly (readonly [RegExp, LogField])[] = [
  [/time|zeit|second|sekund|elapsed|^sec|^t$|^ms$|^s$|minute/i, 'time'],
  [/cell\s*\d|^c\d+$|zelle\s*\d/i, 'cell'],
  [/temp|°c|celsius|^deg/i, 'celsius'],
  [/mah|charge|capacity|^ah\b|\bah\b|ladung/i, 'moved'],
  [/current|amp|strom|^i$|\bm?a\b/i, 'amps'],
  [/volt|spannung|^u$|\bm?v\b/i, 'pack'],
];

/** What the columns of a log seem to be, by their names; of two that could be one thing the first counts. */
export function guessedLog(columns: readonly string[]): LogMatching {
  const taken = new Set<LogField>();
  return columns.map((name) => {
    const field = NAMES.find(([pattern]) => pattern.test(name.trim()))?.[1] ?? null;
    if (field === null || (field !== 'cell' && taken.has(field))) return null;
    taken.add(field);
    return field;
  });
}

/**
 * What a bare number in a column of this name counts.
 * @example timeUnitOf('Time [ms]') // => "ms"
 * @example timeUnitOf('minutes') // => "min"
 * @example timeUnitOf('t') // => "s"
 */
export function timeUnitOf(name: string): TimeUnit {
  if (/\bms\b|millis/i.test(name)) return 'ms';
  return /\bmin/i.test(name) ? 'min' : 's';
}

/** Why a log gives no curve. */
export type LogFault = 'no-time' | 'nothing-measured' | 'no-line' | 'too-long';

export type LogRead =
  | {
      readonly points: readonly CurvePoint[];
      readonly lines: number;
      /** Lines that held no time, no figure, or a time before the line above them. */
      readonly skipped: number;
    }
  | { readonly fault: LogFault };

const SECONDS: Readonly<Record<TimeUnit, number>> = { s: 1, ms: 0.001, min: 60 };
/** A charge takes no longer; what goes on longer is several, or another clock. */
const LONGEST_SECONDS = 2 * 86_400;
/** More points than most of a day of charging makes at one in ten seconds, with its steps; of a longer one every second is left out. */
export const MOST_POINTS = 8_000;
/** Charge is added up from the current over a gap no longer than this. */
const LONGEST_GAP_SECONDS = 120;

/** Reads a log line by line; what is kept does not grow with the log, but with the time it spans. */
export class LogReader {
  readonly #places: Readonly<Record<Exclude<LogField, 'cell'>, number>>;
  readonly #cells: readonly number[];
  #points: CurvePoint[] = [];
  #kept: KeptCurve = EMPTY_CURVE;
  #lines = 0;
  #skipped = 0;
  #first: number | null = null;
  #last: CurvePoint | null = null;
  #movedMah = 0;
  #isTooLong = false;
  #keptAt = -1;

  constructor(
    private readonly form: LogForm,
    private readonly columns: readonly string[],
  ) {
    const place = (field: LogField) => form.matching.indexOf(field);
    this.#places = {
      time: place('time'),
      pack: place('pack'),
      amps: place('amps'),
      moved: place('moved'),
      celsius: place('celsius'),
    };
    this.#cells = form.matching.flatMap((field, i) => (field === 'cell' ? [i] : []));
  }

  take(cells: readonly string[]): void {
    if (cells.every((cell) => cell.trim() === '')) return;
    this.#lines += 1;
    const point = this.#pointOf(cells);
    if (!point || (this.#last && point.seconds <= this.#last.seconds)) {
      this.#skipped += 1;
      return;
    }
    if (point.seconds > LONGEST_SECONDS) {
      this.#isTooLong = true;
      return;
    }
    this.#last = point;
    // A curve is kept by the whole second; what comes between two of them only adds to the charge.
    const seconds = Math.round(point.seconds);
    if (seconds > this.#keptAt) this.#keep({ ...point, seconds });
    this.#keptAt = Math.max(this.#keptAt, seconds);
  }

  done(): LogRead {
    const { time, ...figures } = this.#places;
    if (time === -1) return { fault: 'no-time' };
    if (this.#cells.length === 0 && Object.values(figures).every((place) => place === -1))
      return { fault: 'nothing-measured' };
    if (this.#isTooLong) return { fault: 'too-long' };
    const points = [...this.#points, ...pointsOf(this.#kept)];
    if (points.length === 0) return { fault: 'no-line' };
    return { points, lines: this.#lines, skipped: this.#skipped };
  }

  /** Only the newest point stays in what is asked whether to keep the next one, so that a long log costs no more a line than a short one. */
  #keep(point: CurvePoint): void {
    const after = curveWith(this.#kept, point);
    this.#points.push(...after.points.slice(0, -1));
    this.#kept = { ...after, points: after.points.slice(-1) };
    if (this.#points.length >= MOST_POINTS - 2) this.#points = this.#points.filter((_, i) => i % 2 === 0);
  }

  #pointOf(cells: readonly string[]): CurvePoint | null {
    const seconds = this.#secondsOf(cells[this.#places.time] ?? '');
    if (seconds === null) return null;
    const mv =
      this.#cells.length > 0
        ? this.#cells.map((i) => this.#millivolts(cells[i], MOST_CELL_V))
        : this.#places.pack === -1
          ? []
          : [this.#millivolts(cells[this.#places.pack], MOST_PACK_V)];
    const read = mv.filter((one) => one !== null);
    // A line without its volts is half a line; one cell too few is another pack's.
    if (read.length !== mv.length) return null;
    const amps = this.#scaled('amps', cells, /\bma\b(?!h)/i, 0.001);
    const counted = this.#scaled('moved', cells, /(?<!m)ah\b/i, 1000);
    if (read.length === 0 && amps === null && counted === null) return null;
    if (Math.abs(amps ?? 0) > MOST_AMPS || Math.abs(counted ?? 0) > MOST_MAH) return null;
    const dt = this.#last ? Math.min(LONGEST_GAP_SECONDS, seconds - this.#last.seconds) : 0;
    this.#movedMah += Math.max(0, dt) * Math.abs(amps ?? 0) * (1000 / 3600);
    return {
      seconds,
      mv: read,
      amps: Math.abs(amps ?? 0),
      movedMah: Math.abs(
        counted ?? (this.#places.moved === -1 ? this.#movedMah : (this.#last?.movedMah ?? 0)),
      ),
      celsius: this.#figure(cells[this.#places.celsius]),
    };
  }

  #secondsOf(text: string): number | null {
    const clock = dateSeconds(text) ?? clockSeconds(text);
    const figure = clock ?? this.#figure(text);
    if (figure === null) return null;
    const seconds = clock === null ? figure * SECONDS[this.form.unit] : figure;
    this.#first ??= seconds;
    return seconds - this.#first;
  }

  #figure(text: string | undefined): number | null {
    return text === undefined ? null : figureIn(text, this.form.decimals);
  }

  /** Volts as they stand; what no pack can show is millivolts. */
  #millivolts(text: string | undefined, most: number): number | null {
    const value = this.#figure(text);
    if (value === null || value < 0) return null;
    return Math.round(value > most ? value : value * 1000);
  }

  #scaled(field: 'amps' | 'moved', cells: readonly string[], other: RegExp, factor: number): number | null {
    const place = this.#places[field];
    const value = place === -1 ? null : this.#figure(cells[place]);
    return value !== null && other.test(this.columns[place] ?? '') ? value * factor : value;
  }
}

/** More than any charger of this trade gives or counts: the decimals are read the wrong way. */
const MOST_AMPS = 500;
const MOST_MAH = 1_000_000;
const MOST_CELL_V = 10;
const MOST_PACK_V = 200;

const FIGURE = {
  point: /^[^\d.,-]*(-?\d+(?:\.\d+)?(?:e[+-]?\d+)?)[^\d.,]*$/i,
  comma: /^[^\d.,-]*(-?\d+(?:,\d+)?(?:e[+-]?\d+)?)[^\d.,]*$/i,
} as const;

/** A figure with its unit behind it. An instrument groups no thousands, so a mark that is not the decimals' makes it no figure. */
function figureIn(text: string, decimals: LogDecimals): number | null {
  const found = FIGURE[decimals].exec(text.trim())?.[1];
  return found === undefined ? null : Number(found.replace(',', '.'));
}

/**
 * Which mark parts the decimals in these cells of a log. Instruments group no thousands, so the one that stands between figures is it.
 * @example logDecimalsOf(['0', '3,701', '5,20']) // => "comma"
 * @example logDecimalsOf(['0', '3.701']) // => "point"
 */
export function logDecimalsOf(cells: readonly string[]): LogDecimals {
  const count = (mark: LogDecimals) =>
    cells.filter((cell) => /\d[.,]\d/.test(cell) && figureIn(cell, mark) !== null).length;
  return count('comma') > count('point') ? 'comma' : 'point';
}

/** `1:02:03`, `02:03` or `18:40:05.250` in seconds; null for anything else. */
function clockSeconds(text: string): number | null {
  const parts = /^\s*(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2})(?:[.,](\d{1,6}))?\s*$/.exec(text);
  if (!parts) return null;
  const [, hours, minutes, seconds, rest] = parts;
  return Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(`${seconds}.${rest ?? 0}`);
}

/** A date with a time of day, in seconds as if it were UTC; only the differences count. */
function dateSeconds(text: string): number | null {
  const parts =
    /^\s*(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})[T ]+(\d{1,2}):(\d{1,2})(?::(\d{1,2})(?:[.,](\d{1,6}))?)?/.exec(
      text,
    ) ?? dayFirst(text);
  if (!parts) return null;
  const [, year, month, day, hour, minute, second = '0', rest = '0'] = parts;
  return (
    Date.UTC(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute), Number(second)) /
      1000 +
    Number(`0.${rest}`)
  );
}

function dayFirst(text: string): string[] | null {
  const parts =
    /^\s*(\d{1,2})[./-](\d{1,2})[./-](\d{4})[T ]+(\d{1,2}):(\d{1,2})(?::(\d{1,2})(?:[.,](\d{1,6}))?)?/.exec(
      text,
    );
  if (!parts) return null;
  const [whole, day, month, year, ...time] = parts;
  return [whole, year!, month!, day!, ...time.map((one) => one ?? '0')];
}
