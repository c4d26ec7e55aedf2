import type { PackRow, RegisterAnswer } from '../../contract';
import type { Instant } from '../../core/measure';
import { addHours, NO_HOURS } from '../../core/storage';
import type { StorageHours } from '../../core/storage';
import { monthWords } from '../../core/wording';
import type { ComplianceLine } from '../workers/compliance.worker';

export const GROUPINGS = ['month', 'place', 'type', 'person'] as const;
export type Grouping = (typeof GROUPINGS)[number];

export interface Group {
  readonly name: string;
  readonly hours: StorageHours;
}

/** The first instants of the last so many months, and the present as the end of the last. */
export function monthStarts(now: Instant, months: number): readonly Instant[] {
  const date = new Date(now);
  const starts = Array.from({ length: months }, (_, i) =>
    Date.UTC(date.getUTCFullYear(), date.getUTCMonth() - (months - 1) + i, 1),
  );
  return [...starts, now];
}

/** The first instants of the months within a period, after its own beginning and before its end. */
export function monthsWithin(from: Instant, to: Instant): readonly Instant[] {
  const first = new Date(from);
  const starts: Instant[] = [from];
  for (let i = 1; ; i++) {
    const next = Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + i, 1);
    if (next >= to) return [...starts, to];
    starts.push(next);
  }
}

/** Which lines are wanted: of packs of a type, of a place, of somebody's hands; empty for all. */
export interface Narrowed {
  readonly type: string;
  readonly place: string;
  readonly person: string;
}

/** The lines that what was chosen leaves. */
export function narrowed(
  lines: readonly ComplianceLine[],
  { type, place, person }: Narrowed,
  rows: readonly PackRow[],
): readonly ComplianceLine[] {
  const ofType = new Set(rows.filter(({ typeId }) => typeId === type).map(({ id }) => id));
  return lines.filter(
    (line) =>
      (type === '' || ofType.has(line.packId)) &&
      (place === '' || line.placeId === place) &&
      (person === '' || line.holderId === person),
  );
}

/** The table as CSV, a line a group; a spreadsheet takes nothing in it for a formula. */
export function hoursCsv(by: Grouping, groups: readonly Group[]): string {
  const cell = (text: string) => `"${(/^[=+\-@]/.test(text) ? `'${text}` : text).replaceAll('"', '""')}"`;
  const hours = (value: number) => String(Math.round(value * 10) / 10);
  const lines = groups.map(({ name, hours: of }) =>
    [cell(name), hours(of.inBand), hours(of.allowed), hours(of.overdue), hours(of.unknown)].join(','),
  );
  const titles = [by, 'In band (h)', 'Out of band in time (h)', 'Overdue (h)', 'Unknown (h)']
    .map(cell)
    .join(',');
  return `\uFEFF${[titles, ...lines].join('\r\n')}\r\n`;
}

/** The hours added up by month, place, type or person; months in order, the rest the worst share first. */
export function grouped(
  lines: readonly ComplianceLine[],
  by: Grouping,
  starts: readonly Instant[],
  rows: readonly PackRow[],
  register: RegisterAnswer,
): readonly Group[] {
  const types = new Map(rows.map(({ id, typeId }) => [id, typeId]));
  const nameOf = (line: ComplianceLine): string => {
    switch (by) {
      case 'month':
        return monthWords(starts[line.period]!);
      case 'place':
        return register.places.find(({ id }) => id === line.placeId)?.name ?? 'no fixed place';
      case 'type':
        return register.types.find(({ id }) => id === types.get(line.packId))?.name ?? 'unknown type';
      case 'person':
        return register.people.find(({ id }) => id === line.holderId)?.name ?? 'in storage';
      default:
        return by satisfies never;
    }
  };
  const groups = new Map<string, StorageHours>();
  const ordered = by === 'month' ? lines.slice().sort((a, b) => a.period - b.period) : lines;
  for (const line of ordered) {
    const name = nameOf(line);
    groups.set(name, addHours(groups.get(name) ?? NO_HOURS, line));
  }
  const all = [...groups].map(([name, hours]) => ({ name, hours }));
  return by === 'month' ? all : all.sort((a, b) => outOf(b.hours) - outOf(a.hours));
}

function outOf({ inBand, allowed, overdue, unknown }: StorageHours): number {
  return (overdue + unknown) / Math.max(1, inBand + allowed + overdue + unknown);
}
