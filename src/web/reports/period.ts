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
