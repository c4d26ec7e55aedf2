import { z } from 'zod';
import { reportAnswer } from '../answers/reports';
import { REPORT_PARTS } from '../choices';
import { DAY_MS } from '../../core/measure';
import type { Operations } from './operation';
import { decimalMark, readerZone } from './query';

const LONGEST_DAYS = 3_660;

const period = z
  .object({
    from: z.coerce.number().int(),
    to: z.coerce.number().int(),
    type: z.uuid('This is not an id.').optional(),
    person: z
      .uuid('This is not an id.')
      .optional()
      .describe('In whose hands it lay, who flew, who reported.'),
    place: z.uuid('This is not an id.').optional().describe('Where it lay.'),
    craft: z.string().max(60).optional().describe('What it was flown on.'),
    about: z.enum(REPORT_PARTS).optional().describe('One part of it alone, on paper.'),
    asOf: z.coerce.number().int().optional(),
    zone: readerZone,
    decimals: decimalMark,
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'The period ends before it begins.' })
  .refine(({ from, to }) => to - from <= LONGEST_DAYS * DAY_MS, {
    path: ['from'],
    message: 'At most ten years at once.',
  });

export const reportOperations = {
  'GET /reports': {
    summary:
      'A report for a period. Asked for as application/x-ndjson, lines tell how far it is, and the last has the answer.',
    action: 'register.read',
    query: period,
    answer: reportAnswer,
  },
  'GET /reports.pdf': {
    summary: 'A report on paper.',
    action: 'register.read',
    query: period,
    answer: 'application/pdf',
  },
  'GET /reports/:table.csv': {
    summary: 'One table of a report for a spreadsheet.',
    action: 'register.read',
    query: period,
    answer: 'text/csv; charset=utf-8',
  },
} as const satisfies Operations;
