import { z } from 'zod';
import { importAnswer, importedAnswer, keyAnswer, newKeyAnswer, takenBackAnswer } from '../answers/exchange';
import { list } from '../answers/schema';
import { importEnd, importForm, importPacks, importRecords, keyForm, takeBack } from '../exchange';
import type { Operations } from './operation';
import { decimalMark, print, readerZone } from './query';

/** Of what happened, when; packs and holds are as they stand now. */
const listPeriod = z.object({
  from: z.coerce.number().int().optional(),
  to: z.coerce.number().int().optional(),
  zone: readerZone,
  decimals: decimalMark,
});

export const exchangeOperations = {
  'GET /imports': {
    summary: 'What was brought in from files, the latest first.',
    action: 'register.import',
    answer: list(importAnswer),
  },
  'POST /imports': {
    summary: 'Begin to bring in a file. Sending it again is harmless.',
    action: 'register.import',
    body: importForm,
    answer: importAnswer,
  },
  'POST /imports/:id/packs': {
    summary: 'Packs of the file. Those that cannot be taken come back with the reason; the others are in.',
    action: 'register.import',
    body: importPacks,
    answer: importedAnswer,
  },
  'POST /imports/:id/records': {
    summary:
      'What happened to one pack by the file. What cannot be taken comes back with the reason; the rest is in.',
    action: 'register.import',
    body: importRecords,
    answer: importedAnswer,
  },
  'POST /imports/:id/end': {
    summary: 'The file is through.',
    action: 'register.import',
    body: importEnd,
    answer: importAnswer,
  },
  'POST /imports/:id/take-back': {
    summary: 'Take a whole import back, by corrections that say so.',
    action: 'register.import',
    body: takeBack,
    answer: takenBackAnswer,
  },
  'GET /exports/:table.csv': {
    summary: 'A list for a spreadsheet: packs, holds, readings, charges, flights, inspections or incidents.',
    action: 'register.read',
    query: listPeriod,
    answer: 'text/csv; charset=utf-8',
  },
  'GET /exports/:table.pdf': {
    summary: 'The same list on paper.',
    action: 'register.read',
    query: listPeriod,
    answer: 'application/pdf',
  },
  'GET /packs/:id/life.csv': {
    summary: 'A pack’s whole ledger for a spreadsheet, one line a record.',
    action: 'register.read',
    query: print,
    answer: 'text/csv; charset=utf-8',
  },
  'GET /packs/:id/life.pdf': {
    summary: 'A pack’s whole ledger on paper.',
    action: 'register.read',
    query: print,
    answer: 'application/pdf',
  },
  'GET /archive': {
    summary: 'The whole register as one archive of JSON Lines.',
    action: 'register.export',
    answer: 'application/gzip',
  },
  'GET /archive/packs/:id': {
    summary: 'One pack with its ledger, and what its records name, as an archive.',
    action: 'register.read',
    answer: 'application/gzip',
  },
  'PUT /archive': {
    summary: 'Read an archive into a register that holds nothing yet.',
    action: null,
    bytes: 'application/gzip',
    status: 200,
    answer: z.strictObject({ packs: z.int(), records: z.int() }),
  },
  'GET /keys': {
    summary: 'The keys of scripts.',
    action: 'key.edit',
    answer: list(keyAnswer),
  },
  'POST /keys': {
    confirms: true,
    logs: { did: 'added', of: 'key' },
    summary: 'Make a key for a script; it is told once.',
    action: 'key.edit',
    body: keyForm,
    answer: newKeyAnswer,
  },
  'DELETE /keys/:id': {
    logs: { did: 'ended', of: 'key' },
    summary: 'End a key.',
    action: 'key.edit',
    answer: null,
  },
} as const satisfies Operations;
