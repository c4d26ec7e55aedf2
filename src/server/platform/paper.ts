import type { Content, ContentTable, CustomTableLayout } from 'pdfmake/interfaces';
import { formatByZone } from '../../core/measure';
import type { Instant } from '../../core/measure';
import type { PaperDocument } from './pdf';

/** How printed forms look: an A4 sheet, hairlines instead of boxes, figures that line up. */
export const PAPER: Pick<PaperDocument, 'pageSize' | 'pageMargins' | 'defaultStyle' | 'numbered'> = {
  pageSize: 'A4',
  pageMargins: [42, 42, 42, 48],
  defaultStyle: { font: 'Text', fontSize: 10, lineHeight: 1.25, color: '#1d1b16' },
  numbered: true,
};

/** The ink of labels and asides. */
export const QUIET = '#5c5546';

export const hairlines = { width: 0.6, colour: '#8f836b' };

/** How tables are ruled, by name: a document is data alone. */
export const LAYOUTS = {
  ruled: {
    hLineWidth: (i, node) =>
      i === 0 ? 0 : i === 1 ? 1.2 : i === node.table.body.length ? 0 : hairlines.width,
    hLineColor: (i) => (i === 1 ? '#1d1b16' : '#d8cdb8'),
    vLineWidth: () => 0,
    paddingLeft: (i) => (i === 0 ? 0 : 6),
    paddingRight: () => 6,
    paddingTop: () => 2,
    paddingBottom: () => 2,
  },
} satisfies Record<string, CustomTableLayout>;

const paperDayFormat = formatByZone('en-GB', { dateStyle: 'medium' });
const paperTimeFormat = formatByZone('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const isoDayFormat = formatByZone('sv-SE', { dateStyle: 'short' });
const isoTimeFormat = formatByZone('sv-SE', { dateStyle: 'short', timeStyle: 'short' });

/** A day as paper says it: with its year, since paper outlives it. */
export function paperDay(at: Instant | null, zone: string): string {
  return at === null ? '' : paperDayFormat(zone).format(at);
}

/** A day and hour as paper says them. */
export function paperTime(at: Instant, zone: string): string {
  return paperTimeFormat(zone).format(at);
}

/** A day as a table and a spreadsheet sort it. */
export function isoDay(at: Instant, zone: string): string {
  return isoDayFormat(zone).format(at);
}

/** A moment as a table and a spreadsheet sort it, to the minute. */
export function isoTime(at: Instant, zone: string): string {
  return isoTimeFormat(zone).format(at);
}

export function heading(title: string, aside: string): Content {
  return {
    columns: [
      { text: title, bold: true, fontSize: 16 },
      { text: aside, font: 'Mono', alignment: 'right', width: 140 },
    ],
    margin: [0, 0, 0, 10],
  };
}

/**
 * A ruled table: titles once a page, text to the left, figures to the right.
 * @param figuresFrom the first column that holds figures
 */
export function tableOf(
  titles: readonly string[],
  rows: readonly (readonly string[])[],
  widths: (number | string)[],
  figuresFrom: number,
): ContentTable {
  const align = (i: number): 'left' | 'right' => (i >= figuresFrom ? 'right' : 'left');
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths,
      body: [
        titles.map((text, i) => ({ text, bold: true, fontSize: 9, alignment: align(i) })),
        ...rows.map((row) =>
          row.map((text, i) => ({
            text,
            alignment: align(i),
            font: i >= figuresFrom ? 'Mono' : 'Text',
            fontSize: 9,
          })),
        ),
      ],
    },
    layout: 'ruled',
  };
}
