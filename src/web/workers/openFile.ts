import Papa from 'papaparse';
import type { Cell, Rows } from '../../core/importing';

export const ENCODINGS = ['utf-8', 'windows-1252', 'utf-16le', 'utf-16be'] as const;
export type Encoding = (typeof ENCODINGS)[number];
export const DELIMITERS = [',', ';', '\t', '|'] as const;
export type Delimiter = (typeof DELIMITERS)[number];

/** How the bytes of a text file become rows; guessed, and put right by hand. Null for a workbook, which says so itself. */
export interface TextForm {
  readonly encoding: Encoding;
  readonly delimiter: Delimiter;
}

/** A file's rows, whatever it was. */
export interface OpenedRows {
  readonly rows: Rows;
  readonly text: TextForm | null;
  /** The sheets of a workbook by name; the rows are those of `sheet`. */
  readonly sheets: readonly string[];
  readonly sheet: string | null;
}

/**
 * The rows of a CSV file or a workbook.
 * @param wanted what the person chose instead of the guess
 * @throws where a file is neither
 */
export async function openedRows(
  bytes: ArrayBuffer,
  wanted: { readonly text?: Partial<TextForm>; readonly sheet?: string } = {},
): Promise<OpenedRows> {
  return isWorkbook(bytes) ? workbook(bytes, wanted.sheet) : textRows(bytes, wanted.text ?? {});
}

/** Workbooks are zip files. */
function isWorkbook(bytes: ArrayBuffer): boolean {
  const [p, k] = new Uint8Array(bytes, 0, Math.min(2, bytes.byteLength));
  return p === 0x50 && k === 0x4b;
}

async function workbook(bytes: ArrayBuffer, wanted: string | undefined): Promise<OpenedRows> {
  const { default: readWorkbook } = await import('read-excel-file/universal');
  const sheets = await readWorkbook(new Blob([bytes]));
  const found =
    sheets.find(({ sheet }) => sheet === wanted) ?? sheets.find(({ data }) => data.length > 1) ?? sheets[0];
  return {
    rows: (found?.data ?? []).map((row) => row.map(cellOf)),
    text: null,
    sheets: sheets.map(({ sheet }) => sheet),
    sheet: found?.sheet ?? null,
  };
}

/** What a workbook's cell holds; the package's own type names more than it ever gives. */
function cellOf(value: unknown): Cell {
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return value;
  // A workbook knows days without a zone; they come as if it were UTC.
  if (value instanceof Date) return value.toISOString().slice(0, 16);
  return value === true ? 'yes' : value === false ? 'no' : '';
}

function textRows(bytes: ArrayBuffer, wanted: Partial<TextForm>): OpenedRows {
  const encoding = wanted.encoding ?? encodingOf(bytes);
  const text = new TextDecoder(encoding).decode(bytes);
  if (looksBinary(text)) throw new Error('This is neither a table of text nor a workbook.');
  const delimiter = wanted.delimiter ?? delimiterOf(text);
  const { data } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: false });
  return { rows: data, text: { encoding, delimiter }, sheets: [], sheet: null };
}

export function looksBinary(text: string): boolean {
  return text.slice(0, 4_000).includes('\u0000');
}

/** By its first bytes where they say so; as UTF-8 where it is, else as Western Europe wrote before it. */
export function encodingOf(bytes: ArrayBuffer): Encoding {
  const [a, b] = new Uint8Array(bytes, 0, Math.min(2, bytes.byteLength));
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** How many of the first lines are looked at for the sign between columns. */
const LOOKED_AT = 60;

/** The sign that parts most lines into the same number of columns; of two alike, the one that makes more columns. */
export function delimiterOf(text: string): Delimiter {
  const score = (delimiter: Delimiter) => {
    const { data } = Papa.parse<string[]>(text, { delimiter, preview: LOOKED_AT, skipEmptyLines: 'greedy' });
    const widths = new Map<number, number>();
    for (const { length } of data) if (length > 1) widths.set(length, (widths.get(length) ?? 0) + 1);
    const [width, lines] = [...widths].sort((x, y) => y[1] - x[1] || y[0] - x[0])[0] ?? [1, 0];
    return lines * 100 + width;
  };
  return [...DELIMITERS].sort((a, b) => score(b) - score(a))[0]!;
}
