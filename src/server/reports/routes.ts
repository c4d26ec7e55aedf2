import { Router } from 'express';
import type { Request, Response } from 'express';
import { z } from 'zod';
import type { ReportAnswer, ReportTable } from '../../contract';
import type { Instant, PackTypeId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import { csv, decimalMark } from '../platform/csv';
import { sendFile } from '../platform/file';
import { admitted, parsed } from '../platform/http';
import type { Api } from '../platform/http';
import { PAPER, QUIET, heading, paperDay, paperTime, tableOf } from '../platform/paper';
import { printed } from '../platform/pdf';
import { Refused } from '../platform/problems';
import { PROGRESS_TYPE, progressTo, whileAsked } from '../platform/progress';
import { readerZone } from '../platform/zone';
import { report } from './service';
import type { UnderWay } from './service';

const LONGEST_DAYS = 3_660;
/** So many reports stay at hand, so that what is on screen is exported and printed without being made again. */
const MOST_KEPT = 5;

interface Kept {
  /** What was asked. */
  readonly of: string;
  readonly answer: ReportAnswer;
}

const asked = z
  .object({
    from: z.coerce.number().int(),
    to: z.coerce.number().int(),
    type: z.uuid('This is not an id.').optional(),
    asOf: z.coerce.number().int().optional(),
    zone: readerZone,
    decimals: decimalMark,
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'The period ends before it begins.' })
  .refine(({ from, to }) => to - from <= LONGEST_DAYS * DAY_MS, {
    path: ['from'],
    message: 'At most ten years at once.',
  });

/** Reports for a period: on screen, each table for a spreadsheet, all of them on paper. */
export function reportRoutes(api: Api): Router {
  const router = Router();
  const kept: Kept[] = [];
  const made = async (req: Request, res: Response, told: UnderWay['told'] = () => undefined) => {
    const { em } = await admitted(api, req, 'register.read');
    const { from, to, type, zone, decimals, asOf } = parsed(asked, req.query);
    const of = JSON.stringify([from, to, type, zone]);
    const known = kept.find(({ of: other, answer }) => other === of && answer.asOf === asOf);
    const reader = { now: api.clock.now(), zone };
    const what = { from, to, typeId: (type ?? null) as PackTypeId | null };
    const answer = known?.answer ?? (await report(em, what, reader, { told, signal: whileAsked(res) }));
    if (!known && kept.unshift({ of, answer }) > MOST_KEPT) kept.pop();
    return { answer, reader, decimals };
  };
  router.get('/reports', async (req, res) => {
    if (req.accepts(['json', PROGRESS_TYPE]) !== PROGRESS_TYPE) {
      res.json((await made(req, res)).answer);
      return;
    }
    const progress = progressTo<ReportAnswer>(res);
    progress.answered((await made(req, res, progress.told)).answer);
  });
  router.get('/reports.pdf', async (req, res) => {
    const { answer, reader } = await made(req, res);
    const day = (at: Instant) => paperDay(at, reader.zone);
    const period = `${day(answer.from)} – ${day(answer.to - 1)}, as of ${paperTime(answer.asOf, reader.zone)}`;
    const pdf = await printed({
      ...PAPER,
      info: { title: 'Report' },
      content: [
        heading('Report', ''),
        { text: period, margin: [0, -8, 0, 10], color: QUIET },
        ...answer.tables.flatMap((table) => [
          {
            text: table.title,
            bold: true,
            fontSize: 12,
            margin: [0, 10, 0, 4] as [number, number, number, number],
          },
          table.rows.length > 0 ? tableOn(table) : { text: 'Nothing in this period.', color: QUIET },
        ]),
      ],
    });
    sendFile(res, 'report.pdf', pdf);
  });
  router.get('/reports/:table.csv', async (req, res) => {
    const { answer, decimals } = await made(req, res);
    const table = answer.tables.find(({ key }) => key === req.params.table);
    if (!table) throw new Refused('not-found', { detail: 'There is no such table.' });
    sendFile(res, `${table.key}.csv`, csv(titles(table), table.rows, decimals));
  });
  return router;
}

function titles({ columns }: ReportTable): string[] {
  return columns.map(({ title, unit }) => (unit ? `${title} (${unit})` : title));
}

function tableOn(table: ReportTable) {
  const isFigure = (i: number) => table.rows.some((row) => typeof row[i] === 'number');
  const firstFigure = table.columns.findIndex((_column, i) => isFigure(i));
  return tableOf(
    titles(table),
    table.rows.map((row) => row.map((cell, i) => cellWords(cell, table.columns[i]!.digits))),
    table.columns.map((_column, i) => (isFigure(i) ? 52 : '*')),
    firstFigure === -1 ? table.columns.length : firstFigure,
  );
}

function cellWords(cell: string | number | null, digits: number): string {
  return typeof cell === 'number' ? cell.toFixed(digits) : (cell ?? '');
}
