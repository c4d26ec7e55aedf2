import { z } from 'zod';
import { ROLES } from '../core/lifecycle';
import { importId, instant, keyId, line, packId, recordId, sha256, text } from './fields';
import type { RecordKind } from '../core/record';
import { recordDraft } from './record';
import { receivePack } from './register';

export const IMPORT_KINDS = ['packs', 'history'] as const;
const MOST_LINES = 1_000_000;

/** How a file was read: kept so that the next file with the same columns is read the same way. */
const reading = z.strictObject({
  matching: z.array(z.string().max(40).nullable()).max(200, 'At most 200 columns.'),
  decimals: z.enum(['comma', 'point']),
  dates: z.enum(['day-first', 'month-first']),
  words: z.record(z.string().max(200), z.string().max(80)),
  /** What all lines of a history are; `by-line` where each says so itself. */
  whole: z.string().max(20).nullable(),
});

/** A file about to be brought in. */
export const importForm = z.strictObject({
  id: importId,
  kind: z.enum(IMPORT_KINDS, 'Say what the file holds.'),
  fileName: line(200, 'The file’s name'),
  /** SHA-256 of the file, so that the same file is known again. */
  digest: sha256,
  /** The names of its columns, by which its reading is remembered. */
  columnsKey: z.string().max(4_000, 'The names of the columns are too long.'),
  reading,
  lines: z.int().min(0).max(MOST_LINES, 'At most a million lines.'),
});

/** Packs of an import, each with the remark that stood in its line. */
export const importPacks = z.strictObject({
  packs: z
    .array(
      receivePack.extend({ note: z.strictObject({ recordId, text: text(4_000, 'The remark') }).nullable() }),
    )
    .min(1, 'No pack came.')
    .max(100, 'At most 100 packs at once.'),
});

/** What an older book may tell; what is decided, moved or put right is written by those who do it, through its own gate. */
const TOLD_BY_BOOKS: ReadonlySet<RecordKind> = new Set<RecordKind>([
  'reading',
  'resistance',
  'charge',
  'flight',
  'inspection',
  'note',
]);

/** What happened to one pack, by the file. */
export const importRecords = z.strictObject({
  packId,
  records: z
    .array(
      recordDraft.refine(({ kind }) => TOLD_BY_BOOKS.has(kind), {
        path: ['kind'],
        message: 'No file brings in a record of this kind.',
      }),
    )
    .min(1, 'No record came.')
    .max(500, 'At most 500 records at once.'),
});

export const importEnd = z.strictObject({ refused: z.int().min(0).max(MOST_LINES) });

export const takeBack = z.strictObject({ reason: text(500, 'The reason') });

/** A key by which a club's own script asks, until a day. */
export const keyForm = z.strictObject({
  id: keyId,
  name: line(60, 'The name'),
  role: z
    .enum(ROLES, 'Choose a role.')
    .refine((role) => role !== 'custodian', 'A script is no custodian: choose what it needs.'),
  endsAt: instant,
});
