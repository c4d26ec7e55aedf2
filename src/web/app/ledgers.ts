import type { HistoriesAnswer } from '../../contract';
import type { PackId } from '../../core/measure';
import { ask } from './api';

/** The ledgers of these packs. Long ones come in several answers: the register sends only so much at once. */
export async function ledgersOf(
  ids: readonly PackId[],
): Promise<Pick<HistoriesAnswer, 'packs' | 'placeTemperatures'>> {
  const named = ids.join(',');
  let page = await ask('GET /histories', { query: { ids: named } });
  const packs = [...page.packs];
  while (page.next !== null) {
    page = await ask('GET /histories', { query: { ids: named, after: page.next } });
    packs.push(...page.packs);
  }
  return { packs, placeTemperatures: page.placeTemperatures };
}
