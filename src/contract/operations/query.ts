import { z } from 'zod';
import { formatByZone } from '../../core/measure';

/** Ids, commas between; more rows at a time are fetched as the whole list. */
export const idList = z
  .string('Say which packs.')
  .transform((value) => value.split(','))
  .pipe(z.array(z.uuid('This is not an id.')).min(1).max(200, 'At most 200 at once.'));

/** A reader's time zone, as an address that prints asks for it: times on paper are the reader's. */
export const readerZone = z.string().max(60).refine(isZone, 'This time zone is not known.').default('UTC');

/** How a spreadsheet of the reader's country writes decimals; a comma asks for semicolons between the columns. */
export const decimalMark = z.enum(['point', 'comma']).default('point');
export type DecimalMark = z.output<typeof decimalMark>;

export const print = z.object({ zone: readerZone, decimals: decimalMark });

const inZone = formatByZone('en-GB', {});

function isZone(zone: string): boolean {
  try {
    return Boolean(inZone(zone));
  } catch {
    return false;
  }
}
