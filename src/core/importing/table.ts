import type { Instant } from '../measure';
import { dateOrderOf, dayTimeIn } from './dates';
import type { DateOrder, DayTime } from './dates';
import { fieldNamed, guessedMatching, takesMany } from './fields';
import type { ImportField, ImportKind, Matching } from './fields';
import { decimalMarkOf } from './numbers';
import type { DecimalMark } from './numbers';
import { sheetOf, textOf } from './sheet';
import type { Cell, Rows, Sheet, SheetLine } from './sheet';

/** How a file is read: guessed first, put right by hand, and remembered for the next file with the same columns. */
export interface Reading {
  readonly matching: Matching;
  readonly decimals: DecimalMark;
  readonly dates: DateOrder;
  /** What a word of the file means here, by {@link wordKey}: a chemistry, the id of a place or person, a kind of record. */
  readonly words: Readonly<Record<string, string>>;
}

/** A file as it was opened, and how it seems to want to be read. */
export interface Opened {
  readonly sheet: Sheet;
  readonly guess: Reading;
  /** Whether the dates themselves said which order they are in. */
  readonly datesAreSure: boolean;
}

/** Finds the table in a file and guesses how to read it. */
export function openedAs(kind: ImportKind, rows: Rows): Opened {
  const sheet = sheetOf(rows, (name) => fieldNamed(kind, name) !== null);
  const matching = guessedMatching(kind, sheet.columns);
  const dates = dateOrderOf(cellsOf(sheet, matching, ['inService', 'date']));
  const decimals = decimalMarkOf(sheet.lines.flatMap(({ cells }) => cells));
  return { sheet, guess: { matching, decimals, dates: dates.order, words: {} }, datesAreSure: dates.isSure };
}

function cellsOf(sheet: Sheet, matching: Matching, fields: readonly ImportField[]): readonly Cell[] {
  const columns = matching.flatMap((field, i) => (field && fields.includes(field) ? [i] : []));
  return sheet.lines.flatMap(({ cells }) =>
    columns.flatMap((i) => (cells[i] === undefined ? [] : [cells[i]])),
  );
}

/** What a word of a field is remembered by. */
export function wordKey(field: ImportField, word: string): string {
  return `${field}:${word.trim().toLowerCase()}`;
}

/** One line read field by field. */
export interface FieldReader {
  readonly line: number;
  /** The text of a field; empty where no column is this field, or the cell is empty. */
  text(field: ImportField): string;
  cell(field: ImportField): Cell | undefined;
  /** The texts of a field that several columns can be, in their order. */
  texts(field: ImportField): readonly string[];
  /** The name of the column that is this field. */
  column(field: ImportField): string;
  /** What the person at the import said that this word means; null where nobody did. */
  meaning(field: ImportField): string | null;
}

/** Reads the lines of a sheet by its matching. */
export function readerOf({ columns }: Sheet, { matching, words }: Reading): (line: SheetLine) => FieldReader {
  const places = new Map<ImportField, number[]>();
  for (const [i, field] of matching.entries()) {
    if (field === null) continue;
    const known = places.get(field);
    if (known && takesMany(field)) known.push(i);
    else if (!known) places.set(field, [i]);
  }
  return ({ line, cells }) => {
    const at = (field: ImportField) => cells[places.get(field)?.[0] ?? -1];
    return {
      line,
      cell: at,
      text: (field) => textOf(at(field)),
      texts: (field) => (places.get(field) ?? []).map((i) => textOf(cells[i])),
      column: (field) => columns[places.get(field)?.[0] ?? -1] ?? '',
      meaning: (field) => words[wordKey(field, textOf(at(field)))] ?? null,
    };
  };
}

/** The moment a day and a time of day are in the reader's zone. */
export type Zone = (day: DayTime) => Instant;

/** A day in a cell, by the file's order; null where there is none. */
export function dayOf(cell: Cell | undefined, { dates }: Pick<Reading, 'dates'>): DayTime | null {
  return cell === undefined || textOf(cell) === '' ? null : dayTimeIn(cell, dates);
}
