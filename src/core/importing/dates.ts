import { textOf } from './sheet';
import type { Cell } from './sheet';

/** In which order a file writes day, month and year; where the year comes first nothing is to be guessed. */
export type DateOrder = 'day-first' | 'month-first';

/** A day of the calendar, and the time of day where the cell has one. */
export interface DayTime {
  readonly year: number;
  readonly month: number;
  readonly day: number;
  /** Minutes since midnight. */
  readonly minutes: number | null;
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** The months that other languages begin with other letters. */
const OTHER_MONTHS: Readonly<Record<string, number>> = {
  mrt: 3,
  mae: 3,
  mär: 3,
  mai: 5,
  mei: 5,
  juin: 6,
  juil: 7,
  aou: 8,
  aoû: 8,
  okt: 10,
  dez: 12,
  déc: 12,
  fév: 2,
  avr: 4,
};

const NUMERIC = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})\.?$/;
/** Day 0 of the spreadsheets' own count of days. */
const SPREADSHEET_EPOCH = Date.UTC(1899, 11, 30);
const DAY = 86_400_000;

/**
 * A day as hands and spreadsheets write it.
 * @returns null where it is none, or none in this order
 * @example dayTimeIn('3.12.2025', 'day-first') // => { year: 2025, month: 12, day: 3, minutes: null }
 * @example dayTimeIn('2025-12-03 18:30', 'day-first') // => { year: 2025, month: 12, day: 3, minutes: 1110 }
 * @example dayTimeIn('31/12/25', 'month-first') // => null
 */
export function dayTimeIn(cell: Cell, order: DateOrder): DayTime | null {
  if (typeof cell === 'number') return ofSpreadsheet(cell);
  const text = textOf(cell);
  const time = timeIn(text);
  const rest = text
    .replace(TIME, ' ')
    .replace(/[T,]\s*$/, '')
    .trim();
  const day = dayIn(rest, order);
  return day && isOfCalendar(day) ? { ...day, minutes: time } : null;
}

const TIME = /(?:^|[\sT])(\d{1,2})[:h](\d{2})(?::\d{2}(?:\.\d+)?)?\s*(am|pm)?(?=$|[\sZ])Z?/i;

/**
 * A time of day in a cell of its own, or behind a date; minutes since midnight.
 * @example timeIn('18:30') // => 1110
 * @example timeIn('6:30 pm') // => 1110
 */
export function timeIn(cell: Cell): number | null {
  if (typeof cell === 'number') return cell >= 0 && cell < 1 ? Math.round(cell * 1440) : null;
  const match = TIME.exec(textOf(cell));
  if (!match) return null;
  const [, hours, minutes, half] = match;
  const base = Number(hours);
  const hour = half === undefined ? base : (base % 12) + (half.toLowerCase() === 'pm' ? 12 : 0);
  return hour < 24 && Number(minutes) < 60 ? hour * 60 + Number(minutes) : null;
}

type Day = Omit<DayTime, 'minutes'>;

function dayIn(text: string, order: DateOrder): Day | null {
  const numeric = NUMERIC.exec(text);
  if (numeric) {
    const [first, second, third] = numeric.slice(1).map(Number) as [number, number, number];
    if (numeric[1]!.length === 4) return { year: first, month: second, day: third };
    const year = numeric[3]!.length === 4 ? third : 2000 + third;
    return order === 'day-first' ? { year, month: second, day: first } : { year, month: first, day: second };
  }
  const monthOnly = /^(\d{1,2})[./-](\d{4})$/.exec(text) ?? /^(\d{4})-(\d{1,2})$/.exec(text);
  if (monthOnly) {
    const [a, b] = monthOnly.slice(1).map(Number) as [number, number];
    return a > 31 ? { year: a, month: b, day: 1 } : { year: b, month: a, day: 1 };
  }
  return named(text);
}

/** `12 Mar 2025`, `Mar 12, 2025`, `12. März 25`. */
function named(text: string): Day | null {
  const words = text.match(/\p{L}+|\d+/gu) ?? [];
  const month = words.map(monthOf).find((one) => one !== null);
  const figures = words.filter((word) => /^\d+$/.test(word)).map(Number);
  if (!month || figures.length < 1 || figures.length > 2) return null;
  if (figures.length === 1) return figures[0]! > 31 ? { year: figures[0]!, month, day: 1 } : null;
  const [day, year] = figures[0]! > 31 ? [figures[1]!, figures[0]!] : [figures[0]!, figures[1]!];
  return { year: year < 100 ? 2000 + year : year, month, day };
}

function monthOf(word: string): number | null {
  const lower = word.toLowerCase();
  const short = MONTHS.indexOf(lower.slice(0, 3)) + 1;
  return short || (OTHER_MONTHS[lower.slice(0, 4)] ?? OTHER_MONTHS[lower.slice(0, 3)] ?? null);
}

function ofSpreadsheet(days: number): DayTime | null {
  if (days < 30_000 || days > 80_000) return null;
  const at = new Date(SPREADSHEET_EPOCH + Math.round(days * 1440) * 60_000);
  const minutes = Number.isInteger(days) ? null : Math.round((at.getTime() % DAY) / 60_000);
  return { year: at.getUTCFullYear(), month: at.getUTCMonth() + 1, day: at.getUTCDate(), minutes };
}

function isOfCalendar({ year, month, day }: Day): boolean {
  if (year < 1990 || year > 2199) return false;
  const at = new Date(Date.UTC(year, month - 1, day));
  return at.getUTCMonth() === month - 1 && at.getUTCDate() === day;
}

/** The order a file writes its dates in, and whether the dates themselves say so. */
export interface GuessedOrder {
  readonly order: DateOrder;
  readonly isSure: boolean;
}

/**
 * Guesses from a file's dates: a first figure above 12 is a day, so is a second. Where no date tells, the day is taken to come first.
 * @example dateOrderOf(['03/04/2024', '25/04/2024']) // => { order: 'day-first', isSure: true }
 * @example dateOrderOf(['03/04/2024']) // => { order: 'day-first', isSure: false }
 */
export function dateOrderOf(cells: readonly Cell[]): GuessedOrder {
  let dayFirst = 0;
  let monthFirst = 0;
  let open = 0;
  for (const cell of cells) {
    const match = typeof cell === 'number' ? null : NUMERIC.exec(textOf(cell).replace(TIME, ' ').trim());
    if (!match || match[1]!.length === 4) continue;
    if (Number(match[1]) > 12) dayFirst += 1;
    else if (Number(match[2]) > 12) monthFirst += 1;
    else open += 1;
  }
  const isSure = open === 0 || dayFirst + monthFirst > 0;
  return { order: monthFirst > dayFirst ? 'month-first' : 'day-first', isSure };
}
