import type { Chemistry } from '../chemistry';
import type { CraftId, Instant } from '../measure';

/** A least and a most, both allowed; null where there is no such limit. */
export interface Span {
  readonly least: number | null;
  readonly most: number | null;
}

/**
 * A craft's low-voltage cut-off as it is set. `lithium`: so many millivolts a cell for so many cells. `nickel`: the mode for nickel packs,
 * which cuts nothing on a lithium one. `none`: it has none, or it is switched off. `unknown`: nobody has looked.
 */
export type CutOff =
  | { readonly mode: 'lithium'; readonly cells: number; readonly cellMv: number }
  | { readonly mode: 'nickel' | 'none' | 'unknown' };

export const CUT_OFF_MODES = [
  'lithium',
  'nickel',
  'none',
  'unknown',
] as const satisfies readonly CutOff['mode'][];

/** What a craft takes, draws and risks. */
export interface CraftFacts {
  readonly chemistries: readonly Chemistry[];
  readonly cells: { readonly least: number; readonly most: number };
  /** By the label, milliampere-hours. */
  readonly capacityMah: Span;
  /** Grams. */
  readonly massG: Span;
  /** What it draws for minutes on end, and what it draws for seconds; amps, null where nobody has measured. */
  readonly sustainedA: number | null;
  readonly burstA: number | null;
  readonly connector: string | null;
  /** An ordinary flight. */
  readonly usualMinutes: number | null;
  readonly usualMah: number | null;
  readonly cutOff: CutOff;
  /** A craft to learn on and to try packs on: what is on caution is offered to it. */
  readonly trainer: boolean;
  readonly costly: boolean;
  readonly overWater: boolean;
  readonly overPeople: boolean;
}

/** A craft by its name in the register. */
export interface NamedCraft {
  readonly id: CraftId;
  readonly name: string;
  readonly facts: CraftFacts;
}

/**
 * Why a failure in the air would be grave on this craft; null for one on which it would not be.
 * @example riskOf({ costly: true, overWater: true, overPeople: false }) // => "costly"
 * @example riskOf({ costly: false, overWater: false, overPeople: false }) // => null
 */
export function riskOf({
  costly,
  overWater,
  overPeople,
}: Pick<CraftFacts, 'costly' | 'overWater' | 'overPeople'>): 'people' | 'water' | 'costly' | null {
  if (overPeople) return 'people';
  if (costly) return 'costly';
  return overWater ? 'water' : null;
}

/**
 * Which of its set-ups a craft had at a moment: how many of its changes had begun a new baseline by then.
 * @example setupAt([{ at: 5, newBaseline: true }, { at: 7, newBaseline: false }, { at: 9, newBaseline: true }], 8) // => 1
 */
export function setupAt(
  changes: readonly { readonly at: Instant; readonly newBaseline: boolean }[],
  at: Instant,
): number {
  return changes.filter((change) => change.newBaseline && change.at <= at).length;
}
