import type { Range } from '../../core/fleet';
import type { PackTypeId } from '../../core/measure';
import type { FleetMessage } from '../workers/fleet.worker';

/** One type with all that is told of it. */
export interface PurchaseLine {
  readonly typeId: PackTypeId;
  readonly name: string;
  readonly inService: number;
  readonly over: number;
  readonly wanted: number;
  readonly price: number | null;
  /** The most packs of it that a flying day to come wants; null where none does. */
  readonly flyingDays: number | null;
  readonly cyclesAYear: number;
  readonly learntFrom: number;
  readonly quarters: readonly Range[];
  readonly total: Range;
}

/** How a range is written in a table: one figure where both ends are the same. */
export function rangeWords({ low, high }: Pick<Range, 'low' | 'high'>): string {
  return low === high ? String(low) : `${low}–${high}`;
}

/** The table as a file: a line a type, a range as three columns. */
export function purchaseCsv(lines: readonly PurchaseLine[], quarterNames: readonly string[]): string {
  const head = [
    'type',
    'in service',
    'to be retired',
    'kept in service',
    'price',
    'flying days want',
    'cycles a pack and year',
    ...quarterNames.flatMap((name) => [
      `until ${name} at least`,
      `until ${name} likely`,
      `until ${name} at most`,
    ]),
    'all at least',
    'all likely',
    'all at most',
  ];
  const rows = lines.map((line) => [
    line.name,
    line.inService,
    line.over,
    line.wanted,
    line.price ?? '',
    line.flyingDays ?? '',
    line.cyclesAYear.toFixed(1),
    ...[...line.quarters, line.total].flatMap(({ low, middle, high }) => [low, middle, high]),
  ]);
  return csvOf(head, rows);
}

/** A table as a file for a spreadsheet. */
export function csvOf(head: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const cell = (value: string | number) => (typeof value === 'number' ? String(value) : quoted(value));
  return [head, ...rows].map((row) => `${row.map(cell).join(',')}\r\n`).join('');
}

/** A name that begins with a sign a spreadsheet would work out is told apart from a formula. */
function quoted(text: string): string {
  const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** What the forecast said, joined with what the register and the page know of each type. */
export function purchaseLines(
  { types, purchase }: Extract<FleetMessage, { kind: 'done' }>,
  of: (typeId: PackTypeId) => Pick<PurchaseLine, 'name' | 'wanted' | 'price' | 'flyingDays'>,
): readonly PurchaseLine[] {
  return types
    .map((type): PurchaseLine => {
      const said = purchase.types.find(({ id }) => id === type.typeId)!;
      return { ...type, ...of(type.typeId), quarters: said.quarters, total: said.upTo.at(-1)! };
    })
    .sort((a, b) => b.total.middle - a.total.middle || a.name.localeCompare(b.name));
}
