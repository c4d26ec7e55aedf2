export const VERDICTS = ['fit', 'watch', 'hold', 'retire-advised', 'retired', 'recycled'] as const;
/** What should become of a pack, mildest first; the last two are what a person decided. */
export type Verdict = (typeof VERDICTS)[number];

export const MAY_FLY = ['yes', 'measure-first', 'inspect-first', 'no'] as const;
/** The pilot's question: may this pack be used? */
export type MayFly = (typeof MAY_FLY)[number];

/**
 * Whether nobody may charge or fly the pack: a custodian must decide first, or has retired it.
 * @example isOutOfUse('watch') // => false
 * @example isOutOfUse('recycled') // => true
 */
export function isOutOfUse(verdict: Verdict): boolean {
  return verdict !== 'fit' && verdict !== 'watch';
}

/**
 * Whether the pack is out of use and a person must say what becomes of it.
 * @example awaitsDecision('retire-advised') // => true
 * @example awaitsDecision('retired') // => false
 */
export function awaitsDecision(verdict: Verdict): boolean {
  return verdict === 'hold' || verdict === 'retire-advised';
}
