import type { ReportTable } from '../../contract';
import { HOUR_MS } from '../../core/measure';
import type { CraftId, Instant, PersonId } from '../../core/measure';
import type { PackHistory } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { clippedFrom, clippedTo, exposureByHolder } from '../../core/storage';
import type { Stretch } from '../../core/storage';
import { isoDay } from '../platform/paper';
import { column, round } from './columns';
import type { ReportAsked } from './service';

/** What one person did with packs of one type in their hands. */
interface Kept {
  readonly personId: PersonId;
  readonly type: string;
  taken: number;
  late: number;
  lateHours: number;
  fullDays: number;
}

/** One pack that came back late, or is still out. */
interface LateReturn {
  readonly personId: PersonId;
  readonly tag: string;
  readonly craftId: CraftId | null;
  readonly since: Instant;
  readonly dueAt: Instant;
  /** Null while it is out. */
  readonly backAt: Instant | null;
}

/** A pack that somebody kept full, and for how long in the period. */
interface KeptFull {
  readonly personId: PersonId;
  readonly tag: string;
  readonly type: string;
  readonly days: number;
}

export interface CustodyCounts {
  /** By person and type. */
  readonly people: Map<string, Kept>;
  readonly late: LateReturn[];
  readonly full: KeptFull[];
}

/** Adds a pack's time in people's hands: what was taken out, what came back late, and how long it was kept full by whom. */
export function countCustody(
  counts: CustodyCounts,
  { tag, type }: { readonly tag: string; readonly type: string },
  history: PackHistory,
  stretches: readonly Stretch[],
  rules: HouseRules,
  { from, to, personId: wanted }: ReportAsked,
  now: Instant,
): void {
  const of = (personId: PersonId): Kept => {
    const key = `${personId} ${type}`;
    const known = counts.people.get(key) ?? { personId, type, taken: 0, late: 0, lateHours: 0, fullDays: 0 };
    counts.people.set(key, known);
    return known;
  };
  for (const { at, holderId, craftId, dueBackAt, endedAt } of history.takings) {
    if (at < from || at >= to || (wanted !== null && holderId !== wanted)) continue;
    const kept = of(holderId);
    kept.taken += 1;
    const dueAt = dueBackAt ?? at + rules.flight.outHours * HOUR_MS;
    const backAt = endedAt ?? now;
    if (backAt <= dueAt) continue;
    kept.late += 1;
    kept.lateHours += (backAt - dueAt) / HOUR_MS;
    counts.late.push({ personId: holderId, tag, craftId, since: at, dueAt, backAt: endedAt });
  }
  const within = stretches
    .map((stretch) => clippedFrom(stretch, from))
    .filter((stretch) => stretch !== null && stretch.from < to)
    .map((stretch) => clippedTo(stretch!, to));
  for (const { holderId, days } of exposureByHolder(history, within, rules)) {
    if (holderId === null || (wanted !== null && holderId !== wanted)) continue;
    of(holderId).fullDays += days;
    if (days >= LEAST_FULL_DAYS) counts.full.push({ personId: holderId, tag, type, days });
  }
}

/** Who returns late, and who keeps packs full; without blame, the records behind it in the table that follows. */
export function custodyTable({ people }: CustodyCounts, names: ReadonlyMap<string, string>): ReportTable {
  return {
    key: 'custody',
    about: 'handling',
    title: 'Packs in people’s hands',
    columns: [
      column('Person'),
      column('Type'),
      column('Taken out'),
      column('Came back late'),
      column('Late on average', 'h', 1),
      column('Kept full', 'full days at 25 °C', 1),
    ],
    rows: [...people.values()]
      .filter(({ taken, fullDays }) => taken > 0 || fullDays >= LEAST_FULL_DAYS)
      .sort((a, b) => b.late - a.late || b.fullDays - a.fullDays)
      .map(({ personId, type, taken, late, lateHours, fullDays }) => [
        names.get(personId) ?? 'somebody',
        type,
        taken,
        late,
        late === 0 ? null : round(lateHours / late, 1),
        round(fullDays, 1),
      ]),
  };
}

/** Less is a pack that waited for its flight. */
const LEAST_FULL_DAYS = 0.05;
/** A report names so many; the counts are of all. */
const MOST_NAMED = 500;

/** The packs behind what was kept full, the longest first. */
export function fullTable({ full }: CustodyCounts, names: ReadonlyMap<string, string>): ReportTable {
  return {
    key: 'kept-full',
    about: 'handling',
    title: 'Kept full',
    columns: [column('Person'), column('Pack'), column('Type'), column('Kept full', 'full days at 25 °C', 1)],
    rows: [...full]
      .sort((a, b) => b.days - a.days)
      .slice(0, MOST_NAMED)
      .map(({ personId, tag, type, days }) => [names.get(personId) ?? 'somebody', tag, type, round(days, 1)]),
  };
}

/** Every late return, the longest first. */
export function lateTable(
  { late }: CustodyCounts,
  names: ReadonlyMap<string, string>,
  craft: ReadonlyMap<CraftId, string>,
  now: Instant,
  zone: string,
): ReportTable {
  const hours = ({ dueAt, backAt }: LateReturn) => ((backAt ?? now) - dueAt) / HOUR_MS;
  return {
    key: 'late-returns',
    about: 'handling',
    title: 'Returned late',
    columns: [
      column('Person'),
      column('Pack'),
      column('Craft'),
      column('Taken out'),
      column('Due back'),
      column('Back'),
      column('Late', 'h', 1),
    ],
    rows: [...late]
      .sort((a, b) => hours(b) - hours(a))
      .slice(0, MOST_NAMED)
      .map((one) => [
        names.get(one.personId) ?? 'somebody',
        one.tag,
        one.craftId === null ? 'not noted' : (craft.get(one.craftId) ?? 'a craft'),
        isoDay(one.since, zone),
        isoDay(one.dueAt, zone),
        one.backAt === null ? 'not yet' : isoDay(one.backAt, zone),
        round(hours(one), 1),
      ]),
  };
}
