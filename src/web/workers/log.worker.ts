import Papa from 'papaparse';
import { guessedLog, logDecimalsOf, LogReader, timeUnitOf } from '../../core/charging';
import type { LogForm, LogRead } from '../../core/charging';
import { delimiterOf, encodingOf, looksBinary } from './openFile';

/** A charger's log, and how it is to be read; null for as it seems to be. */
export interface LogQuestion {
  readonly id: number;
  readonly file: File;
  readonly form: LogForm | null;
}

export type LogMessage = { readonly id: number } & (
  | { readonly kind: 'progress'; readonly done: number; readonly of: number }
  | {
      readonly kind: 'opened';
      readonly columns: readonly string[];
      readonly form: LogForm;
      readonly samples: readonly (readonly string[])[];
    }
  | { readonly kind: 'read'; readonly read: LogRead }
  | { readonly kind: 'failed'; readonly why: 'no-table' | 'unreadable' }
);

/** So much of the file is looked at to guess how it is written. */
const LOOKED_AT_BYTES = 64_000;
/** Titles may stand above the names of the columns. */
const LOOKED_THROUGH = 20;

let latest = 0;

self.onmessage = ({ data }: MessageEvent<LogQuestion>) => {
  latest = data.id;
  void answer(data).catch(() => tell({ id: data.id, kind: 'failed', why: 'unreadable' }));
};

async function answer({ id, file, form: wanted }: LogQuestion): Promise<void> {
  const bytes = await file.slice(0, LOOKED_AT_BYTES).arrayBuffer();
  // A cut in the middle of a letter is no other encoding: the last few bytes are left out of the guess.
  const encoding = encodingOf(bytes.slice(0, Math.max(0, bytes.byteLength - 4)));
  const text = new TextDecoder(encoding).decode(bytes);
  if (looksBinary(text)) return tell({ id, kind: 'failed', why: 'unreadable' });
  const delimiter = delimiterOf(text);
  const { data: first } = Papa.parse<string[]>(text, {
    delimiter,
    preview: LOOKED_THROUGH,
    skipEmptyLines: false,
  });
  const head = headerOf(first);
  if (head === null) return tell({ id, kind: 'failed', why: 'no-table' });
  const columns = first[head]!.map((name) => name.trim());
  const samples = first.slice(head + 1, head + 4);
  const matching = guessedLog(columns);
  const form: LogForm = wanted ?? {
    matching,
    unit: timeUnitOf(columns[matching.indexOf('time')] ?? ''),
    decimals: logDecimalsOf(first.slice(head + 1).flat()),
  };
  tell({ id, kind: 'opened', columns, form, samples });
  const reader = new LogReader(form, columns);
  let row = 0;
  await new Promise<void>((done, fail) => {
    Papa.parse<string[]>(file, {
      delimiter,
      encoding,
      skipEmptyLines: false,
      chunk: ({ data, meta }, parser) => {
        if (id !== latest) {
          parser.abort();
          return done();
        }
        for (const cells of data) {
          if (row > head) reader.take(cells);
          row += 1;
        }
        tell({ id, kind: 'progress', done: meta.cursor, of: file.size });
      },
      complete: () => done(),
      error: fail,
    });
  });
  if (id === latest) tell({ id, kind: 'read', read: reader.done() });
}

/** The row in which most columns are something that is looked for; null where none is. */
function headerOf(rows: readonly (readonly string[])[]): number | null {
  let best = { row: -1, score: 0 };
  for (const [row, cells] of rows.entries()) {
    const score = guessedLog(cells.map((cell) => cell.trim())).filter((field) => field !== null).length;
    if (score > best.score) best = { row, score };
  }
  return best.row === -1 ? null : best.row;
}

function tell(message: LogMessage): void {
  self.postMessage(message);
}
