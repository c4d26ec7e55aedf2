import type { HistoriesAnswer } from '../../contract';
import type { PackFacts } from '../../core/pack';
import { fold } from '../../core/record';
import type { PackHistory, PackRecord } from '../../core/record';
import { ask } from '../app/api';
import { bytesOf, unpacked } from '../app/packed';

/** A pack on its way past, and how it stands as the register judged it. */
export interface PassingPack {
  readonly facts: PackFacts;
  /** Unpacked and folded when it is first asked for. */
  readonly history: () => Promise<PackHistory>;
  readonly standing: HistoriesAnswer['packs'][number]['standing'];
}

/** One part of the register, for one of several workers that go through it together. */
export interface Share {
  readonly share: number;
  readonly shares: number;
}

const WHOLE: Share = { share: 0, shares: 1 };

/** Some packs on their way past, and how far the reading has come. */
export interface HistoriesPage {
  readonly passing: readonly PassingPack[];
  readonly records: number;
  /** The rules under which they stand as they do. */
  readonly rulesVersion: number;
  readonly packsSoFar: number;
  /** Of the whole register. */
  readonly packs: number;
}

/**
 * Reads every pack's ledger from the server, a page at a time. The next page is on its way while this one is
 * worked on. For workers: a register of millions of records is never held as a whole.
 */
export async function* allHistories(share = WHOLE): AsyncGenerator<HistoriesPage> {
  let packsSoFar = 0;
  let coming: Promise<HistoriesAnswer> | null = page(share, null);
  while (coming) {
    const { packs, next, total, placeTemperatures, rulesVersion }: HistoriesAnswer = await coming;
    coming = next === null ? null : page(share, next);
    // Nobody awaits it yet; a failure is told when its turn comes.
    coming?.catch(() => undefined);
    packsSoFar += packs.length;
    const passing = packs.map((pack) => passingPack(pack, placeTemperatures));
    const records = packs.reduce((sum, { count }) => sum + count, 0);
    yield { passing, records, rulesVersion, packsSoFar, packs: total };
  }
}

function passingPack(
  { facts: own, standing, packed, records }: HistoriesAnswer['packs'][number],
  placeTemperatures: HistoriesAnswer['placeTemperatures'],
): PassingPack {
  const facts = { ...own, placeTemperatures };
  const folded = async () => {
    const first = packed === null ? [] : await unpacked<readonly PackRecord[]>(bytesOf(packed));
    return fold(facts, [...first, ...records]);
  };
  let history: Promise<PackHistory> | null = null;
  return { facts, standing, history: () => (history ??= folded()) };
}

function page({ share, shares }: Share, after: string | null): Promise<HistoriesAnswer> {
  return ask('GET /histories', {
    query: { packed: 'yes', share, shares, ...(after === null ? {} : { after }) },
  });
}
