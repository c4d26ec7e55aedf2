import { z } from 'zod';
import { REPORT_PARTS } from '../choices';
import { count, list, moment } from './schema';

const reportTable = z
  .strictObject({
    key: z.string(),
    about: z.enum(REPORT_PARTS).describe('The part of the report it belongs to.'),
    title: z.string(),
    columns: list(
      z.strictObject({
        title: z.string(),
        unit: z.string().nullable(),
        digits: count.describe('Decimals of its figures where they are read rather than reckoned with.'),
      }),
    ),
    rows: list(list(z.union([z.string(), z.number(), z.null()]))),
  })
  .meta({ id: 'ReportTable' });

export const reportAnswer = z
  .strictObject({
    asOf: moment.describe(
      'When it was made. Asked for again with this moment, it is the same report wherever that is still at hand.',
    ),
    from: moment,
    to: moment,
    tables: list(reportTable),
  })
  .meta({ id: 'Report' });
