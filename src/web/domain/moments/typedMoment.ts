import { TZDate } from '@date-fns/tz';
import { add, format, getDay, isValid, parse, startOfDay } from 'date-fns';
import type { Duration } from 'date-fns';
import type { Reader } from '../../../core/wording';

/** What is asked for: a day of the calendar, or a day with its time. */
export type Wanted = 'day' | 'minute';
/** Where a moment lies when what was typed fits several: a landing in the past, the next flying day ahead. */
export type Lean = 'past' | 'ahead';

/** A typed moment: its canonical text (`2026-12-03`, or `2026-12-03T18:00` in the reader's zone), or why it is none. */
export type TypedMoment =
  | { readonly outcome: 'empty' }
  | { readonly outcome: 'moment'; readonly value: string }
  | { readonly outcome: 'refused'; readonly why: string };

const DAY = 'yyyy-MM-dd';
const MINUTE = "yyyy-MM-dd'T'HH:mm";

/**
 * A day or a moment as hands write it: `fri 18:00`, `3.12.`, `3 dec 2025`, `18:00`, `in 2 d`, `3 h ago`, `tomorrow 7`,
 * `2026-12-03 18:00`. The day comes before the month, always.
 * @example typedMoment('3.12.', 'day', 'ahead', { now: Date.UTC(2026, 10, 26), zone: 'UTC' }) // => { outcome: 'moment', value: '2026-12-03' }
 */
export function typedMoment(text: string, wanted: Wanted, lean: Lean, { now, zone }: Reader): TypedMoment {
  const typed = text.trim().toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ');
  if (typed === '') return { outcome: 'empty' };
  const here = new TZDate(now, zone);
  try {
    const at = ofSpan(typed, here) ?? ofDayAndTime(typed, wanted, lean, here);
    return { outcome: 'moment', value: format(at, wanted === 'day' ? DAY : MINUTE) };
  } catch (error) {
    if (error instanceof NoMoment) return { outcome: 'refused', why: error.message };
    throw error;
  }
}

/** A canonical text as a field shows it, and as {@link typedMoment} reads it again; any other text as it is. */
export function momentWords(value: string): string {
  return shown(value, 'd MMM yyyy', 'd MMM yyyy HH:mm');
}

/** The same with its weekday, by which a hand notices a wrong date. */
export function weekdayWords(value: string): string {
  return shown(value, 'EEE d MMM yyyy', 'EEE d MMM yyyy HH:mm');
}

function shown(value: string, ofDay: string, ofMinute: string): string {
  const day = parse(value, DAY, new Date(0));
  if (isValid(day)) return format(day, ofDay);
  const minute = parse(value, MINUTE, new Date(0));
  return isValid(minute) ? format(minute, ofMinute) : value;
}

class NoMoment extends Error {}

const UNITS: readonly (readonly [RegExp, keyof Duration])[] = [
  [/^(?:m|min|mins|minutes?)$/, 'minutes'],
  [/^(?:h|hr|hrs|hours?)$/, 'hours'],
  [/^(?:d|days?)$/, 'days'],
  [/^(?:w|wk|weeks?)$/, 'weeks'],
  [/^(?:mo|months?)$/, 'months'],
  [/^(?:y|years?)$/, 'years'],
];

/** `in 2 d`, `+2d`, `3 h ago`, `-3h`: counted on the clock for hours, on the calendar for days and more. */
function ofSpan(typed: string, now: TZDate): TZDate | null {
  const match = /^(in |\+|-)?\s*(\d{1,4}) ?([a-z]+)( ago)?$/.exec(typed);
  if (!match) return null;
  const [, before, count, word, ago] = match;
  const unit = UNITS.find(([pattern]) => pattern.test(word!))?.[1];
  if (!unit || (before === undefined && ago === undefined)) return null;
  const sign = ago !== undefined || before === '-' ? -1 : 1;
  return moved(now, { [unit]: sign * Number(count) });
}

function ofDayAndTime(typed: string, wanted: Wanted, lean: Lean, now: TZDate): TZDate {
  if (typed === 'now') return now;
  const time = timeOf(typed);
  const words = time ? typed.slice(0, time.from).trim() : typed;
  if (words === '' && time) {
    if (wanted === 'day') throw new NoMoment('Type a day, as in 3.12. or fri; a time alone is none.');
    return leaning(at(now, time.minutes), lean, now);
  }
  const day = dayOf(words, lean, now, time?.minutes ?? null);
  if (wanted === 'day') return day;
  if (!time) throw new NoMoment(`Add the time, as in ${words} 18:00.`);
  return at(day, time.minutes);
}

/** `18:00`, `18h30`, `1800`, `6 pm` or a bare hour behind the day; where in the text it stands, and its minutes since midnight. */
function timeOf(typed: string): { readonly from: number; readonly minutes: number } | null {
  const match =
    /(?:^|[ t])(?:at )?(\d{1,2})[:h](\d{2})? ?(am|pm)?$/.exec(typed) ??
    /(?:^| )(?:at )?(\d{1,2})() ?(am|pm)$/.exec(typed) ??
    /(?<=[a-z.] )(?:at )?(?<![a-z] )(\d{1,2})()()$/.exec(typed) ??
    /(?<=(?:day|tomorrow|mon|tue|wed|thu|fri|sat|sun) )(?:at )?(\d{1,2}?)(\d{2})?()$/.exec(typed);
  if (!match) return null;
  const [, hours, minutes = '', half] = match;
  const base = Number(hours);
  const hour = half ? (base % 12) + (half === 'pm' ? 12 : 0) : base;
  if (hour > 23 || Number(minutes) > 59 || (half && (base < 1 || base > 12)))
    throw new NoMoment(`There is no time ${match[0].trim()}.`);
  return { from: match.index, minutes: hour * 60 + Number(minutes) };
}

const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
const MONTHS = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];
const NAMED: Readonly<Record<string, number>> = { today: 0, tomorrow: 1, yesterday: -1 };

function dayOf(words: string, lean: Lean, now: TZDate, minutes: number | null): TZDate {
  const today = startOfDay(now);
  const away = NAMED[words];
  if (away !== undefined) return moved(today, { days: away });
  const [, name, rest] = /^([a-z]{2,9})\.?(?: (.+))?$/.exec(words) ?? [];
  const weekday = named(name ?? '', WEEKDAYS);
  if (weekday === -1) return dateOf(words, lean, today);
  if (rest !== undefined) {
    const date = dateOf(rest, lean, today);
    if (getDay(date) !== weekday)
      throw new NoMoment(`${format(date, 'd MMM yyyy')} is a ${format(date, 'EEEE')}.`);
    return date;
  }
  const ahead = (weekday - getDay(today) + 7) % 7;
  const next = moved(today, { days: ahead });
  if (minutes !== null) {
    const wrong = lean === 'ahead' ? at(next, minutes) < now : at(next, minutes) > now;
    return wrong ? moved(next, { days: lean === 'ahead' ? 7 : -7 }) : next;
  }
  return lean === 'past' && ahead > 0 ? moved(next, { days: -7 }) : next;
}

/** Which of the names a word is, cut short to three letters or more; -1 for none. */
function named(word: string, names: readonly string[]): number {
  return word.length < 3 ? -1 : names.findIndex((name) => name.startsWith(word));
}

/** A date of the calendar, its day before its month; without a year the nearest that lies where it leans. */
function dateOf(words: string, lean: Lean, today: TZDate): TZDate {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(words);
  if (iso) return onCalendar(Number(iso[1]), Number(iso[2]), Number(iso[3]), today);
  const figures = /^(\d{1,2})[./-](\d{1,2})(?:[./-](\d{4}|\d{2})?)?$/.exec(words);
  const worded = /^(\d{1,2})\.? ?([a-z]{3,9})\.?(?: '?(\d{4}|\d{2}))?$/.exec(words);
  if (!figures && !worded) throw new NoMoment('Type a day as in 3.12., 3 Dec 2025, fri, or in 2 d.');
  const day = Number((figures ?? worded)![1]);
  const month = figures ? Number(figures[2]) : monthNamed(worded![2]!);
  if (month > 12)
    throw new NoMoment(`There is no month ${month}: the day comes first, as in ${month}.${day}.`);
  const year = (figures ?? worded)![3];
  if (year !== undefined)
    return onCalendar(year.length === 2 ? 2000 + Number(year) : Number(year), month, day, today);
  const nearest = onCalendar(today.getFullYear(), month, day, today);
  if (lean === 'ahead' && nearest < today) return onCalendar(today.getFullYear() + 1, month, day, today);
  if (lean === 'past' && nearest > today) return onCalendar(today.getFullYear() - 1, month, day, today);
  return nearest;
}

function monthNamed(word: string): number {
  const month = named(word, MONTHS);
  if (month === -1) throw new NoMoment(`“${word}” is no month.`);
  return month + 1;
}

function onCalendar(year: number, month: number, day: number, { timeZone }: TZDate): TZDate {
  const date = new TZDate(year, month - 1, day, timeZone ?? 'UTC');
  if (date.getMonth() !== month - 1 || date.getDate() !== day || month < 1)
    throw new NoMoment(`There is no ${day}.${month}.${year}.`);
  return date;
}

function moved(from: TZDate, by: Duration): TZDate {
  return add<TZDate, TZDate>(from, by);
}

function at(day: TZDate, minutes: number): TZDate {
  return new TZDate(
    day.getFullYear(),
    day.getMonth(),
    day.getDate(),
    Math.floor(minutes / 60),
    minutes % 60,
    day.timeZone ?? 'UTC',
  );
}

/** The nearest such moment on the side it leans to. */
function leaning(moment: TZDate, lean: Lean, now: TZDate): TZDate {
  if (lean === 'ahead' && moment < now) return moved(moment, { days: 1 });
  if (lean === 'past' && moment > now) return moved(moment, { days: -1 });
  return moment;
}
