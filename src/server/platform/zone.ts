import { z } from 'zod';

/** A reader's time zone, as an address that prints asks for it: times on paper are the reader's. */
export const readerZone = z.string().max(60).refine(isZone, 'This time zone is not known.').default('UTC');

function isZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}
