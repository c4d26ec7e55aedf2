import type { Instant } from '../../core/measure';

export const PERIODS = [
  { name: 'month', label: 'this month' },
  { name: 'quarter', label: 'three months' },
  { name: 'year', label: 'a year' },
] as const;
export type PeriodName = (typeof PERIODS)[number]['name'];

const MONTHS: Readonly<Record<PeriodName, number>> = { month: 0, quarter: 2, year: 11 };

/** Whole months up to the end of today, in this browser's zone. */
export function periodOf(name: PeriodName, now: Instant): { readonly from: Instant; readonly to: Instant } {
  const date = new Date(now);
  const from = new Date(date.getFullYear(), date.getMonth() - MONTHS[name], 1);
  const to = new Date(date.getFullYear(), date.getMonth(), date.getDate() + 1);
  return { from: from.getTime(), to: to.getTime() };
}

/** The day of an instant as a date field holds it. */
export function dayOf(at: Instant): string {
  const date = new Date(at);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

/** When a day of a date field begins, so many days on; NaN for a field that holds no day. */
export function startOfDay(day: string, later = 0): Instant {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(day);
  if (!match) return Number.NaN;
  return new Date(Number(match[1]), Number(match[2]) - 1, Number(match[3]) + later).getTime();
}
