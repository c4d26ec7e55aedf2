import { PAPER, heading, tableOf } from '../platform/paper';
import type { PaperDocument } from '../platform/pdf';
import type { List } from './lists';

/** A pack's whole life on paper: every record in the order it was written, as many pages as it takes. */
export function lifeOnPaper(tag: string, { rows }: List): PaperDocument {
  const told = rows.map(([seq, time, what, figures, words, by, written, corrected]) => [
    String(seq),
    String(time),
    String(what),
    [figures, words, corrected === null ? null : `(corrected by no. ${corrected})`]
      .filter(Boolean)
      .join(' · '),
    // A day later it is said; the spreadsheet has every moment.
    String(written).slice(0, 10) > String(time).slice(0, 10)
      ? `${String(by)}, written ${String(written)}`
      : String(by),
  ]);
  return {
    ...PAPER,
    info: { title: `Life of ${tag}` },
    content: [
      heading('Life of a battery pack', tag),
      {
        text: `${rows.length} records, in the order they were written.`,
        margin: [0, -6, 0, 8],
      },
      tableOf(['No.', 'When', 'What', 'Record', 'By'], told, [26, 82, 62, '*', 80], 5),
    ],
  };
}

/** More lines than this are a spreadsheet's work. */
const MOST_LINES = 2_000;

/** A list on paper, across the sheet. */
export function listOnPaper(name: string, { titles, rows }: List): PaperDocument {
  const shown = rows.slice(0, MOST_LINES);
  const title = name.charAt(0).toUpperCase() + name.slice(1);
  return {
    ...PAPER,
    pageOrientation: 'landscape',
    defaultStyle: { ...PAPER.defaultStyle, fontSize: 7 },
    info: { title },
    content: [
      heading(title, ''),
      {
        text: `${rows.length} lines${shown.length < rows.length ? `; the first ${MOST_LINES} stand here, all are in the CSV` : ''}.`,
        margin: [0, -6, 0, 8],
      },
      rows.length === 0
        ? { text: 'None.' }
        : {
            table: {
              headerRows: 1,
              dontBreakRows: true,
              widths: titles.map(() => 'auto' as const),
              body: [
                titles.map((text) => ({ text, bold: true })),
                ...shown.map((row) => row.map((cell) => ({ text: cell === null ? '' : String(cell) }))),
              ],
            },
            layout: 'lightHorizontalLines',
          },
    ],
  };
}
