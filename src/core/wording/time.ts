import { DAY_MS, HOUR_MS, MINUTE_MS, formatByZone } from '../measure';
import type { Instant } from '../measure';
import { isWrittenLater } from '../record';

/** The reader's moment and time zone: the same instant is "tomorrow" to one and "today" to another. */
export interface Reader {
  readonly now: Instant;
  /** An IANA zone name. */
  readonly zone: string;
}

/**
 * An elapsed time as people say it: minutes under an hour, hours up to three days, then days.
 * @example span(1_500_000) // => "25 min"
 * @example span(172_800_000) // => "48 h"
 * @example span(864_000_000) // => "10 days"
 */
export function span(ms: number): string {
  const size = Math.abs(ms);
  if (size < HOUR_MS) return `${Math.floor(size / MINUTE_MS)} min`;
  if (size <= 3 * DAY_MS) return `${Math.floor(size / HOUR_MS)} h`;
  return `${Math.floor(size / DAY_MS)} days`;
}

/**
 * How long after it happened something was written down, where that is long: whoever relies on it should know.
 * @example writtenLater({ at: 0, recordedAt: 104_400_000 }) // => "written 29 h later"
 * @example writtenLater({ at: 0, recordedAt: 3_600_000 }) // => null
 */
export function writtenLater(record: { readonly at: Instant; readonly recordedAt: Instant }): string | null {
  return isWrittenLater(record) ? `written ${span(record.recordedAt - record.at)} later` : null;
}

/**
 * When something is due, in hours first: "due in 9 h (tomorrow 07:40)", "overdue by 3 h (since today 04:10)".
 * @example dueWords(7_200_000, { now: 0, zone: 'UTC' }) // => "due in 2 h (today 02:00)"
 */
export function dueWords(dueAt: Instant, reader: Reader): string {
  const left = dueAt - reader.now;
  if (left > 0) return `due in ${span(left)} (${whenWords(dueAt, reader)})`;
  if (left > -MINUTE_MS) return 'due now';
  return `overdue by ${span(left)} (since ${whenWords(dueAt, reader)})`;
}

/**
 * A moment as a person near it would name it: "today 04:10", "tomorrow 07:40", "Thu 09:10" within six days,
 * "3 Nov 09:10" in this year, "3 Nov 2024 09:10" otherwise.
 */
export function whenWords(at: Instant, reader: Reader): string {
  const there = calendar(at, reader.zone);
  const here = calendar(reader.now, reader.zone);
  const time = `${there.hour}:${there.minute}`;
  const days = (there.day - here.day) / DAY_MS;
  if (days === 0) return `today ${time}`;
  if (days === 1) return `tomorrow ${time}`;
  if (days === -1) return `yesterday ${time}`;
  if (days > 0 && days < 7) return `${there.weekday} ${time}`;
  return `${dateOf(there, here)} ${time}`;
}

/**
 * The time of day alone.
 * @example clockWords(0, { now: 0, zone: 'UTC' }) // => "00:00"
 */
export function clockWords(at: Instant, { zone }: Pick<Reader, 'zone'>): string {
  const { hour, minute } = calendar(at, zone);
  return `${hour}:${minute}`;
}

/**
 * The day alone, as short as it can be told.
 * @example dayWords(0, { now: 86_400_000 * 40, zone: 'UTC' }) // => "1 Jan"
 */
export function dayWords(at: Instant, reader: Reader): string {
  return dateOf(calendar(at, reader.zone), calendar(reader.now, reader.zone));
}

interface CalendarMoment {
  readonly weekday: string;
  readonly month: string;
  readonly date: string;
  readonly year: string;
  readonly hour: string;
  readonly minute: string;
  /** The calendar day as a UTC midnight, so that days can be counted across a clock change. */
  readonly day: number;
}

function dateOf(there: CalendarMoment, here: CalendarMoment): string {
  const date = `${there.date} ${there.month}`;
  return there.year === here.year ? date : `${date} ${there.year}`;
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const calendarFormat = formatByZone('en-GB', {
  weekday: 'short',
  year: 'numeric',
  month: 'numeric',
  day: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  hourCycle: 'h23',
});

function calendar(at: Instant, zone: string): CalendarMoment {
  const parts = new Map(
    calendarFormat(zone)
      .formatToParts(at)
      .map(({ type, value }) => [type, value]),
  );
  const part = (type: Intl.DateTimeFormatPartTypes) => parts.get(type) ?? '';
  const month = Number(part('month')) - 1;
  return {
    weekday: part('weekday'),
    month: MONTHS[month] ?? '',
    date: String(Number(part('day'))),
    year: part('year'),
    hour: part('hour'),
    minute: part('minute'),
    day: Date.UTC(Number(part('year')), month, Number(part('day'))),
  };
}
