import Papa from 'papaparse';
import type { DecimalMark } from '../../contract';

type Cell = string | number | null;

/** What a spreadsheet would work out; a figure below nothing is none, with a comma in it or not. */
const FORMULA = /^(?!-\d+(,\d+)?$)[=+\-@\t\r]/;

/**
 * A table as CSV that a spreadsheet opens as it is: a mark that says UTF-8, a line of titles, numbers as numbers. A text
 * that a spreadsheet would take for a formula is set behind an apostrophe, so that nothing typed here runs there.
 */
export function csv(
  titles: readonly string[],
  rows: readonly (readonly Cell[])[],
  mark: DecimalMark,
): string {
  const cell = (value: Cell) =>
    typeof value === 'number' && mark === 'comma' ? String(value).replace('.', ',') : value;
  const text = Papa.unparse([[...titles], ...rows.map((row) => row.map(cell))], {
    delimiter: mark === 'comma' ? ';' : ',',
    escapeFormulae: FORMULA,
    newline: '\r\n',
  });
  return `\uFEFF${text}\r\n`;
}
