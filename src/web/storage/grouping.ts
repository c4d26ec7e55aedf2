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
