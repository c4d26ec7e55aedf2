import type { ReportTable } from '../../contract';

export function column(
  title: string,
  unit: string | null = null,
  digits = 0,
): ReportTable['columns'][number] {
  return { title, unit, digits };
}

export function round(value: number, digits: number): number {
  return Math.round(value * 10 ** digits) / 10 ** digits;
}
