import type { Chemistry } from '../chemistry';

/** What packs come to together on their way out: grams and watt-hours. */
export interface Total {
  readonly packs: number;
  readonly massG: number;
  readonly wh: number;
}

type Weighed = Omit<Total, 'packs'>;

/**
 * The sum of these packs.
 * @example totalOf([{ massG: 310, wh: 48.8 }, { massG: 310, wh: 48.8 }]) // => { packs: 2, massG: 620, wh: 97.6 }
 */
export function totalOf(packs: readonly Weighed[]): Total {
  const sum = (of: (pack: Weighed) => number) => packs.reduce((total, pack) => total + of(pack), 0);
  return { packs: packs.length, massG: sum(({ massG }) => massG), wh: sum(({ wh }) => wh) };
}

interface Kind {
  readonly chemistry: Chemistry;
  readonly apart: boolean;
}

/** The sums as a recycler counts them: chemistry by chemistry, damaged packs by themselves and last. */
export function totalsByChemistry(packs: readonly (Weighed & Kind)[]): readonly (Total & Kind)[] {
  return [false, true].flatMap((apart) => {
    const alike = packs.filter((pack) => pack.apart === apart);
    return [...new Set(alike.map(({ chemistry }) => chemistry))].map((chemistry) => ({
      chemistry,
      apart,
      ...totalOf(alike.filter((pack) => pack.chemistry === chemistry)),
    }));
  });
}
