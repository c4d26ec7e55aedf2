import type { HistoriesAnswer } from '../../contract';
import { fold } from '../../core/record';
import type { PackHistory } from '../../core/record';
import { ask } from '../app/api';

/** A pack's history on its way past, and how far the reading has come. */
export interface HistoriesPage {
  readonly histories: readonly PackHistory[];
  readonly records: number;
  readonly packsSoFar: number;
  readonly packs: number;
}

/**
 * Reads every pack's ledger from the server, a page at a time, folded. The next page is on its way while this one is
 * worked on. For workers: a register of millions of records is never held as a whole.
 */
export async function* allHistories(): AsyncGenerator<HistoriesPage> {
  let packsSoFar = 0;
  let coming: Promise<HistoriesAnswer> | null = page(null);
  while (coming) {
    const { packs, next, total, placeTemperatures }: HistoriesAnswer = await coming;
    coming = next === null ? null : page(next);
    // Nobody awaits it yet; a failure is told when its turn comes.
    coming?.catch(() => undefined);
    packsSoFar += packs.length;
    yield {
      histories: packs.map(({ facts, records }) => fold({ ...facts, placeTemperatures }, records)),
      records: packs.reduce((sum, { records }) => sum + records.length, 0),
      packsSoFar,
      packs: total,
    };
  }
}

function page(after: string | null): Promise<HistoriesAnswer> {
  return ask('GET /histories', { query: after === null ? {} : { after } });
}
