import { median } from '../health';
import type { HouseRules } from '../rules';
import type { Landing } from './landings';

/** How much higher a cell rests than it read at a steady hover, as learned from a craft's own returns. Millivolts. */
export interface HoverStep {
  readonly stepMv: number;
  /** Half the width of the range in which the true step lies 19 times in 20. */
  readonly plusMinusMv: number;
  /** Returns it was learned from, and those that lay too far off to count. */
  readonly returns: number;
  readonly leftOut: number;
}

/** What the step commonly is, millivolts; told as such until a craft has shown its own. Source: the practice. */
export const USUAL_STEP_MV = { least: 100, most: 250 } as const;

/** Fewer returns tell nothing. */
const LEAST_RETURNS = 3;
/** So many of the latest returns are learned from: an older pack, another season and another hand are not this one. */
const LATEST_RETURNS = 40;
/** A step beyond these was misread, or the pack was something else in between. */
const POSSIBLE_MV = { least: 0, most: 800 } as const;
/** A value further off than so many robust deviations is left out. */
const OUTLIER = 3;
/** From the median deviation to the standard one of a normal spread. */
const MAD_TO_SD = 1.4826;
/** A meter shows hundredths of a volt: no spread is taken to be smaller than that. */
const LEAST_SD_MV = 5;
/** Nineteen in twenty for a handful of returns; a little wide, since leaving out what lies far off makes the rest look alike. */
const FACTOR = 2.5;

/**
 * The step of one craft from its returns with one set-up, by the mean of those within three robust deviations of their median. Null for fewer
 * than three returns that showed both volts under load and rested volts.
 * @param landings of the craft in any order; of other set-ups than the newest, nothing is learned
 */
export function hoverStep(landings: readonly Landing[]): HoverStep | null {
  const newest = Math.max(0, ...landings.map(({ setup }) => setup));
  const steps = landings
    .filter(({ setup }) => setup === newest)
    .sort((a, b) => a.at - b.at)
    .flatMap(({ loadedMv, restedMv }) =>
      loadedMv === null || restedMv === null ? [] : [restedMv - loadedMv],
    )
    .filter((step) => step > POSSIBLE_MV.least && step <= POSSIBLE_MV.most)
    .slice(-LATEST_RETURNS);
  if (steps.length < LEAST_RETURNS) return null;
  const middle = median(steps);
  const sd = Math.max(LEAST_SD_MV, median(steps.map((step) => Math.abs(step - middle))) * MAD_TO_SD);
  const near = steps.filter((step) => Math.abs(step - middle) <= OUTLIER * sd);
  const mean = near.reduce((sum, step) => sum + step, 0) / near.length;
  const spread = Math.sqrt(
    near.reduce((sum, step) => sum + (step - mean) ** 2, 0) / Math.max(1, near.length - 1),
  );
  return {
    stepMv: Math.round(mean),
    plusMinusMv: Math.max(1, Math.round((FACTOR * Math.max(LEAST_SD_MV, spread)) / Math.sqrt(near.length))),
    returns: near.length,
    leftOut: steps.length - near.length,
  };
}

/** The volts to land at, told both ways; rested null while the craft's step is not known. Millivolts a cell. */
export interface LandingTarget {
  readonly loadedMv: number;
  readonly restedMv: number | null;
}

/**
 * Where to land: by the house's line under load, and what the pack will then rest at on this craft.
 * @param raiseMv so much higher, in the cold
 */
export function landingTarget(
  chemistry: keyof HouseRules['flight']['landAtMv'],
  { flight }: Pick<HouseRules, 'flight'>,
  step: HoverStep | null,
  raiseMv = 0,
): LandingTarget {
  const loadedMv = flight.landAtMv[chemistry] + raiseMv;
  return { loadedMv, restedMv: step && loadedMv + step.stepMv };
}
