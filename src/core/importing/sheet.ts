/** One cell as its file had it: text, or a number where the file itself knows numbers. */
export type Cell = string | number;
export type Rows = readonly (readonly Cell[])[];

/** A table found in a file: one name a column, and the rows below with the number of the line each stands in. */
export interface Sheet {
  readonly columns: readonly string[];
  readonly lines: readonly SheetLine[];
}

export interface SheetLine {
  /** Counted from 1, as an editor or a spreadsheet counts. */
  readonly line: number;
  readonly cells: readonly Cell[];
}

/** A title, a date of printing and an empty line may stand above the names. */
const LOOKED_THROUGH = 20;

/**
 * Finds the table in a file's rows: the names of its columns are the row in which most cells are names that `isKnown` knows.
 * A row of groups above it ("Cells" over 1, 2, 3, 4) is read along. Lines without anything in them are left out.
 * @param isKnown whether a column of this name is something that is looked for
 */
export function sheetOf(rows: Rows, isKnown: (name: string) => boolean): Sheet {
  const head = headerRow(rows, isKnown);
  const columns = namesOf(rows, head);
  const lines = rows
    .map((cells, i) => ({ line: i + 1, cells }))
    .slice(head + 1)
    .filter(({ cells }) => cells.some((cell) => textOf(cell) !== ''));
  return { columns, lines };
}

function headerRow(rows: Rows, isKnown: (name: string) => boolean): number {
  let best = { row: 0, score: -1 };
  for (const [row, cells] of rows.slice(0, LOOKED_THROUGH).entries()) {
    const known = namesOf(rows, row).filter((name, i) => textOf(cells[i]) !== '' && isKnown(name)).length;
    if (known > best.score) best = { row, score: known };
  }
  return best.row;
}

/** Names of the columns, each with its group before it where it is a bare number or stands under one that is wider than itself. */
function namesOf(rows: Rows, head: number): string[] {
  const own = rows[head] ?? [];
  const above = head > 0 ? rows[head - 1]! : [];
  let group = '';
  return own.map((cell, i) => {
    const name = textOf(cell).replace(/\s+/g, ' ');
    const over = textOf(above[i]);
    if (over !== '') group = over;
    if (name === '') return over;
    return /^#?\d{1,2}$/.test(name) && group !== '' ? `${group} ${name.replace('#', '')}` : name;
  });
}

/** A cell's text, blanks around it dropped; nothing where the row is shorter. */
export function textOf(cell: Cell | undefined): string {
  return cell === undefined
    ? ''
    : String(cell)
        .replace(/\u00a0|\u202f/g, ' ')
        .trim();
}
