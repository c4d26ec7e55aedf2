import type { PackRow, RegisterAnswer } from '../../../contract';
import { awaitsDecision, STEP_KINDS, VERDICTS } from '../../../core/assess';
import { CHEMISTRY } from '../../../core/chemistry';
import { spread } from '../../../core/health';
import { DAY_MS } from '../../../core/measure';
import type { Instant } from '../../../core/measure';
import { cellsLabel, tagKey } from '../../../core/pack';
import { capacity, STEP_WORDS, STORAGE_WORDS, VERDICT_WORDS } from '../../../core/wording';

/** A row with everything a list shows or looks for already in words. Made once an answer, not once a keystroke. */
export interface ListedPack {
  readonly row: PackRow;
  readonly typeName: string;
  readonly cells: string;
  readonly chemistry: RegisterAnswer['types'][number]['chemistry'] | null;
  readonly place: string;
  readonly holder: string;
  readonly lowestMv: number | null;
  readonly spreadMv: number | null;
  readonly haystack: string;
}

export function listedPacks(rows: readonly PackRow[], register: RegisterAnswer): readonly ListedPack[] {
  const types = new Map(register.types.map((type) => [type.id, type]));
  const places = new Map(register.places.map(({ id, name }) => [id, name]));
  const people = new Map(register.people.map(({ id, name }) => [id, name]));
  return rows.map((row) => {
    const type = types.get(row.typeId);
    const place = (row.placeId && places.get(row.placeId)) ?? '';
    const holder = (row.holderId && people.get(row.holderId)) ?? '';
    const cells = type ? `${cellsLabel(type)} ${capacity(type.capacityMah)}` : '';
    const chemistry = type ? CHEMISTRY[type.chemistry].name : '';
    const measured = row.byCell && row.cellsMv && row.cellsMv.length > 0 ? spread(row.cellsMv) : null;
    const words = [
      row.tag,
      tagKey(row.tag),
      type?.name,
      cells,
      chemistry,
      VERDICT_WORDS[row.verdict],
      awaitsDecision(row.verdict) ? 'hold out-of-use' : '',
      STORAGE_WORDS[row.storage],
      row.storage === 'high' || row.storage === 'low' ? 'out-of-band' : '',
      row.next ? STEP_WORDS[row.next.do] : '',
      row.fieldPack ? 'field pack' : '',

      place,
      holder,
      row.owner,
    ];
    return {
      row,
      typeName: type?.name ?? '',
      cells: `${cells} ${chemistry}`.trim(),
      chemistry: type?.chemistry ?? null,
      place,
      holder,
      lowestMv: row.cellsMv ? Math.min(...row.cellsMv) : null,
      spreadMv: measured && row.cellsMv!.length > 1 ? measured.mv : null,
      haystack: words.filter(Boolean).join(' ').toLowerCase(),
    };
  });
}

/**
 * The packs that hold every typed word somewhere; `overdue` asks the clock, `due:inspect` the calendar. A word may be part
 * of a longer one.
 */
export function filtered(packs: readonly ListedPack[], typed: string, now: Instant): readonly ListedPack[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return packs;
  return packs.filter((pack) =>
    words.every((word) => {
      if (word === 'overdue') return isOverdueRow(pack.row, now);
      return word.startsWith('due:') ? isDueFor(pack.row, word.slice(4), now) : pack.haystack.includes(word);
    }),
  );
}

function isOverdueRow({ dueAt }: PackRow, now: Instant): boolean {
  return dueAt !== null && dueAt <= now;
}

/** Routine is due when its day is within the week. */
const DUE_AHEAD_MS = 7 * DAY_MS;

/** Whether the calendar asks for this task soon; `due:any` stands for every task. */
function isDueFor({ tasks }: PackRow, task: string, now: Instant): boolean {
  return tasks.some(
    ({ do: kind, dueAt }) => (task === 'any' || kind === task) && dueAt <= now + DUE_AHEAD_MS,
  );
}

/** What the table can show. `px` is a column's usual width; the usual columns together are as wide as the bench's page. */
export const COLUMNS = [
  { key: 'tag', name: 'Tag', always: true, px: 74 },
  { key: 'verdict', name: 'Verdict', always: true, px: 212 },
  { key: 'cells', name: 'Cells', always: false, px: 136 },
  { key: 'type', name: 'Type', always: false, px: 230 },
  { key: 'ladder', name: 'Ladder', always: false, px: 100 },
  { key: 'lowest', name: 'Lowest', always: false, px: 122 },
  { key: 'spread', name: 'Spread', always: false, px: 76 },
  { key: 'charge', name: 'Holds', always: false, px: 140 },
  { key: 'due', name: 'Clock', always: false, px: 204 },
  { key: 'next', name: 'Next step', always: false, px: 172 },
  { key: 'place', name: 'Place', always: false, px: 136 },
  { key: 'holder', name: 'With', always: false, px: 150 },
  { key: 'read', name: 'Last read', always: false, px: 150 },
  { key: 'owner', name: 'Owner', always: false, px: 170 },
] as const;
export type ColumnKey = (typeof COLUMNS)[number]['key'];

export const DEFAULT_COLUMNS: readonly ColumnKey[] = [
  'tag',
  'verdict',
  'cells',
  'ladder',
  'lowest',
  'spread',
  'due',
  'next',
  'place',
];

/** What a column sorts by; null goes last whichever way. */
export function sortValue(pack: ListedPack, column: ColumnKey): string | number | null {
  const { row } = pack;
  switch (column) {
    case 'tag':
      return row.tag;
    case 'verdict':
      // What was decided is over: no pack that left comes before one that waits.
      return row.verdict === 'retired' || row.verdict === 'recycled' ? null : VERDICTS.indexOf(row.verdict);
    case 'cells':
      return pack.cells;
    case 'type':
      return pack.typeName;
    case 'ladder':
    case 'lowest':
      return pack.lowestMv;
    case 'spread':
      return pack.spreadMv;
    case 'charge':
      return row.socPercent;
    case 'due':
      return row.dueAt;
    case 'next':
      return row.next && STEP_KINDS.indexOf(row.next.do);
    case 'place':
      return pack.place || null;
    case 'holder':
      return pack.holder || null;
    case 'read':
      return row.readAt;
    case 'owner':
      return row.owner;
    default:
      return column satisfies never;
  }
}

export interface SortOrder {
  readonly column: ColumnKey;
  readonly descending: boolean;
}

/** `due` or `-due`, as it stands in the address; anything else sorts by tag. */
export function sortFrom(text: string | null): SortOrder {
  const descending = text?.startsWith('-') ?? false;
  const column = COLUMNS.find(({ key }) => key === text?.replace(/^-/, ''))?.key;
  return column ? { column, descending } : { column: 'tag', descending: false };
}

const collator = new Intl.Collator('en', { numeric: true });

export function sorted(
  packs: readonly ListedPack[],
  { column, descending }: SortOrder,
): readonly ListedPack[] {
  const sign = descending ? -1 : 1;
  const valued = packs.map((pack) => ({ pack, value: sortValue(pack, column) }));
  valued.sort((a, b) => {
    if (a.value === null || b.value === null) return Number(a.value === null) - Number(b.value === null);
    if (typeof a.value === 'number' && typeof b.value === 'number') return sign * (a.value - b.value);
    return sign * collator.compare(String(a.value), String(b.value));
  });
  return valued.map(({ pack }) => pack);
}

/** The columns as they are named and in that order, those always shown first; the usual ones when none are named. */
export function columnsFrom(names: readonly string[] | null): readonly ColumnKey[] {
  const named = COLUMNS.filter(({ key, always }) => !always && names?.includes(key)).map(({ key }) => key);
  if (names === null) return DEFAULT_COLUMNS;
  return [...ALWAYS, ...named.sort((a, b) => names.indexOf(a) - names.indexOf(b))];
}

const ALWAYS = COLUMNS.filter(({ always }) => always).map(({ key }) => key);
