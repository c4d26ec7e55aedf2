import { Router } from 'express';
import type { Request } from 'express';
import { z } from 'zod';
import type { ReportTable } from '../../contract';
import type { PackTypeId } from '../../core/measure';
import { DAY_MS } from '../../core/measure';
import { csv, decimalMark } from '../platform/csv';
import { sendFile } from '../platform/file';
import { admitted, parsed } from '../platform/http';
import type { Api } from '../platform/http';
import { PAPER, QUIET, heading, paperDay, tableOf } from '../platform/paper';
import { printed } from '../platform/pdf';
import { Refused } from '../platform/problems';
import { readerZone } from '../platform/zone';
import { report } from './service';

const LONGEST_DAYS = 3_660;

const asked = z
  .object({
    from: z.coerce.number().int(),
    to: z.coerce.number().int(),
    type: z.uuid('This is not an id.').optional(),
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
  const made = async (req: Request) => {
    const { em } = await admitted(api, req, 'register.read');
    const { from, to, type, zone, decimals } = parsed(asked, req.query);
    const reader = { now: api.clock.now(), zone };
    const answer = await report(em, { from, to, typeId: (type ?? null) as PackTypeId | null }, reader);
    return { answer, reader, decimals };
  };
  router.get('/reports', async (req, res) => {
    res.json((await made(req)).answer);
  });
  router.get('/reports.pdf', async (req, res) => {
    const { answer, reader } = await made(req);
    const period = `${paperDay(answer.from, reader.zone)} – ${paperDay(answer.to - 1, reader.zone)}`;
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
    const { answer, decimals } = await made(req);
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
