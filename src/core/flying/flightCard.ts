import type { Chemistry } from '../chemistry';
import type { HouseRules } from '../rules';
import type { CraftFacts } from './craft';
import { landingTarget } from './hoverStep';
import type { HoverStep, LandingTarget } from './hoverStep';
import { timerMinutes } from './sums';

/** The figures a pilot takes along: when the timer rings, and where to land. */
export interface FlightCard {
  /** Whole minutes, rounded down; null where nobody has said what the craft commonly draws. */
  readonly timerMinutes: number | null;
  readonly land: LandingTarget;
  /** Below the house's line: the pack is to be warmed, the timer is shorter and the volts are higher already. */
  readonly cold: boolean;
  /** Not charged: the timer counts on what is in it. */
  readonly short: boolean;
}

/** The pack at take-out. */
export interface CardPack {
  readonly chemistry: Chemistry;
  /** As last measured. */
  readonly measuredMah: number;
  /** By its lowest cell, percent; null where nobody knows, which the timer takes for full and `short` does not. */
  readonly socPercent: number | null;
}

/** In the cold the timer rings after so much of its time, and landing is so much higher, millivolts a cell. The practice gives no figures; these are cautious. */
const COLD_SHARE = 0.8;
const COLD_RAISE_MV = 100;

/**
 * Timer and landing volts for this pack on this craft in this cold.
 * @param ambientC outside; null where nobody has said
 */
export function flightCard(
  { chemistry, measuredMah, socPercent }: CardPack,
  { usualMah, usualMinutes }: Pick<CraftFacts, 'usualMah' | 'usualMinutes'>,
  step: HoverStep | null,
  rules: Pick<HouseRules, 'flight'>,
  ambientC: number | null,
): FlightCard {
  const { maxDodPercent, chargedPercent, coldC } = rules.flight;
  const cold = ambientC !== null && ambientC < coldC;
  const usable = Math.max(0, (socPercent ?? 100) - (100 - maxDodPercent)) / 100;
  const averageA = usualMah && usualMinutes ? (usualMah / 1000) * (60 / usualMinutes) : null;
  const minutes =
    averageA === null ? null : timerMinutes(measuredMah / 1000, usable, averageA) * (cold ? COLD_SHARE : 1);
  return {
    timerMinutes: minutes === null ? null : Math.floor(minutes + 1e-9),
    land: landingTarget(chemistry, rules, step, cold ? COLD_RAISE_MV : 0),
    cold,
    short: socPercent !== null && socPercent < chargedPercent - 1e-9,
  };
}
