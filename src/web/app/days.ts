import type { Instant } from '../../core/measure';

/** The day of an instant as a date field holds it. */
export function dayOf(at: Instant): string {
  const date = new Date(at);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

/** A moment as a date-and-time field holds it, to the minute. */
export function localMinute(at: Instant): string {
  const date = new Date(at);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${dayOf(at)}T${two(date.getHours())}:${two(date.getMinutes())}`;
}

/** The moment a date-and-time field holds: null where it is empty, NaN where it holds none. */
export function minuteAt(text: string): Instant | null {
  if (text === '') return null;
  return /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/.test(text) ? new Date(text).getTime() : Number.NaN;
}

/** When a day of a date field begins, so many days on; NaN for a field that holds no day. */
export function startOfDay(day: string, later = 0): Instant {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(day);
  if (!match) return Number.NaN;
  return new Date(Number(match[1]), Number(match[2]) - 1, Number(match[3]) + later).getTime();
}
