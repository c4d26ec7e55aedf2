import type { Purchase } from './purchase';

/** What is ordered together, and until the end of which quarter it lasts. */
export interface Order<Id> {
  /** At the beginning of this quarter, counted from 0. */
  readonly quarter: number;
  readonly lines: readonly { readonly id: Id; readonly packs: number }[];
}

/**
 * Joined orders: at the beginning of every so many quarters as many packs of each type as are likely to be wanted until the next order, with
 * what was ordered before counted in. Quarters in which nothing is wanted have none.
 */
export function joinedOrders<Id>({ types }: Purchase<Id>, everyQuarters: number): readonly Order<Id>[] {
  const quarters = types[0]?.upTo.length ?? 0;
  const ordered = types.map(() => 0);
  const orders: Order<Id>[] = [];
  for (let quarter = 0; quarter < quarters; quarter += everyQuarters) {
    const last = Math.min(quarters, quarter + everyQuarters) - 1;
    const lines = types.flatMap(({ id, upTo }, i) => {
      const packs = Math.round(upTo[last]!.middle) - ordered[i]!;
      if (packs <= 0) return [];
      ordered[i]! += packs;
      return [{ id, packs }];
    });
    if (lines.length > 0) orders.push({ quarter, lines });
  }
  return orders;
}

/**
 * What is to be put aside each month so that at the end of every quarter there is enough, nine times in ten.
 * @example reserveAMonth([{ low: 0, middle: 100, high: 300 }, { low: 0, middle: 200, high: 360 }]) // => 100
 */
export function reserveAMonth(money: Purchase<unknown>['money']): number {
  return Math.max(0, ...money.map(({ high }, quarter) => high / (3 * (quarter + 1))));
}
