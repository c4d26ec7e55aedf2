import { Router } from 'express';
import type { ReportAnswer, ReportTable } from '../../contract';
import type { Instant, PackTypeId, PersonId, PlaceId } from '../../core/measure';
import { checkpointOnPaper } from '../evidence';
import { csv } from '../platform/csv';
import { sendFile } from '../platform/file';
import type { Told } from '../platform/heavy';
import { rawRoute } from '../platform/http';
import type { Api, Asked } from '../platform/http';
import { PAPER, QUIET, heading, paperDay, paperTime, tableOf } from '../platform/paper';
import { printed } from '../platform/pdf';
import { Refused } from '../platform/problems';
import { PROGRESS_TYPE, progressTo } from '../platform/progress';
import { REPORT } from './service';
import type { ReportAsked } from './service';

/** So many reports stay at hand, so that what is on screen is exported and printed without being made again. */
const MOST_KEPT = 5;

interface Kept {
  /** What was asked. */
  readonly of: string;
  readonly answer: ReportAnswer;
}

/** What the three ways to a report have in common. */
type Period = Pick<Asked<'GET /reports'>, 'query' | 'now' | 'heavily'>;

/** Reports for a period: on screen, each table for a spreadsheet, all of them on paper. */
export function reportRoutes(api: Api): Router {
  const router = Router();
  const kept: Kept[] = [];
  const made = async ({ query, now, heavily }: Period, told?: Told) => {
    const { from, to, type, person, place, craft, zone, decimals, asOf } = query;
    const of = JSON.stringify([from, to, type, person, place, craft, zone]);
    const known = kept.find(({ of: other, answer }) => other === of && answer.asOf === asOf);
    const reader = { now, zone };
    const what: ReportAsked = {
      from,
      to,
      typeId: (type ?? null) as PackTypeId | null,
      personId: (person ?? null) as PersonId | null,
      placeId: (place ?? null) as PlaceId | null,
      craft: craft === undefined || craft.trim() === '' ? null : craft.trim().toLowerCase(),
    };
    const answer =
      known?.answer ?? (await heavily(REPORT, { databaseUrl: api.database.url, asked: what, reader }, told));
    if (!known && kept.unshift({ of, answer }) > MOST_KEPT) kept.pop();
    return { answer, reader, decimals };
  };
  rawRoute(router, api, 'GET /reports', async (asked, res) => {
    if (asked.req.accepts(['json', PROGRESS_TYPE]) !== PROGRESS_TYPE) {
      res.json((await made(asked)).answer);
      return;
    }
    const progress = progressTo<ReportAnswer>(res);
    progress.answered((await made(asked, progress.told)).answer);
  });
  rawRoute(router, api, 'GET /reports.pdf', async (asked, res) => {
    const { answer, reader } = await made(asked);
    const part = asked.query.about;
    const day = (at: Instant) => paperDay(at, reader.zone);
    const period = `${day(answer.from)} – ${day(answer.to - 1)}, as of ${paperTime(answer.asOf, reader.zone)}`;
    const pdf = await printed(asked.heavily, {
      ...PAPER,
      info: { title: 'Report' },
      content: [
        heading('Report', ''),
        { text: period, margin: [0, -8, 0, 10], color: QUIET },
        ...answer.tables
          .filter(({ about }) => part === undefined || part === about)
          .flatMap((table) => [
            {
              text: table.title,
              bold: true,
              fontSize: 12,
              margin: [0, 10, 0, 4] as [number, number, number, number],
            },
            table.rows.length > 0 ? tableOn(table) : { text: 'Nothing in this period.', color: QUIET },
          ]),
        ...(await checkpointOnPaper(asked.em, api.signer, reader.now, reader.zone)),
      ],
    });
    sendFile(res, { name: 'report.pdf', bytes: pdf });
  });
  rawRoute(router, api, 'GET /reports/:table.csv', async (asked, res) => {
    const { answer, decimals } = await made(asked);
    const table = answer.tables.find(({ key }) => key === asked.params.table);
    if (!table) throw new Refused('not-found', { detail: 'There is no such table.' });
    sendFile(res, { name: `${table.key}.csv`, bytes: csv(titles(table), table.rows, decimals) });
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
