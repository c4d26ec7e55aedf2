import { isLithium } from '../chemistry';
import type { Instant } from '../measure';
import { putsIn } from '../record';
import type { ChargeEvent, PackHistory } from '../record';
import type { HouseRules } from '../rules';
import type { Beginning, Contents } from '../storage';

/** What a charge did that a sound pack set right cannot do. Minutes, or mAh for `too-much`. */
export interface OddCharge {
  readonly charge: ChargeEvent;
  readonly oddity: 'too-fast' | 'too-long' | 'too-much';
  readonly value: number;
  readonly expected: number;
  /** More was put in than could stay there harmlessly: the pack is held. */
  readonly dangerous: boolean;
}

/** The house's limits a charge is judged by. */
export type ChargeLimits = Pick<HouseRules, 'charge' | 'flight'>;

/** Taper and balancing take this long on their own, whatever the current. The practice's 45 to 60 min for 80 % at 1C less the 48 it takes. */
const TAPER_MINUTES = 45;
/** A meter's ordinary error lies within the note's five percent; what a flat curve leaves open beyond that is granted, percent. */
const ORDINARY_UNSURE_PERCENT = 3;
/** Of a pack with hardly any room the meter's error alone is a multiple: so much of the capacity must be too much as well. */
const LEAST_NOTED = 0.02;
const LEAST_HELD = 0.05;
/** Beyond this width a state of charge is no state to expect minutes from, percent. */
const KNOWN_WITHIN_PERCENT = 40;

/**
 * The charges that cannot be right, oldest first: more went in than there was room for, it finished far too soon, or it ran
 * far too long. Judged from what the pack held when the charge began, where that is known after its last use. A nickel
 * charge wastes a part of what it puts in and is held against the label.
 * @param before what the pack held at each charge's beginning
 * @param capacityAt the strongest cell's capacity as last measured before a moment, mAh: a charge goes on until it is full
 */
export function oddCharges(
  { pack, charges }: Pick<PackHistory, 'pack' | 'charges'>,
  rules: ChargeLimits,
  before: readonly Beginning[],
  capacityAt: (at: Instant) => number,
): readonly OddCharge[] {
  const odd: OddCharge[] = [];
  let next = 0;
  for (const charge of charges) {
    // Both are in order of time; a charge of a pack nobody knew has no beginning.
    const beginning = before[next]?.records === charge.records ? before[next++]! : null;
    // A charge of which neither was noted says nothing of either.
    if (!putsIn(charge) || (charge.movedMah === null && charge.minutes === null)) continue;
    const found = isLithium(pack.chemistry)
      ? lithiumOddity(charge, beginning?.contents() ?? null, capacityAt(charge.startedAt), rules)
      : nickelOddity(charge, pack.capacityMah, rules);
    if (found) odd.push({ charge, ...found });
  }
  return odd;
}

type Oddity = Omit<OddCharge, 'charge'>;

function lithiumOddity(
  charge: ChargeEvent,
  held: Contents | null,
  capacityMah: number,
  { charge: limits, flight }: ChargeLimits,
): Oddity | null {
  const { movedMah, minutes, ending, settings } = charge;
  const much = movedMah === null ? null : tooMuch(movedMah, roomMah(held, capacityMah), capacityMah, limits);
  if (much) return much;
  const known = held && held.lowest.highPercent - held.lowest.lowPercent <= KNOWN_WITHIN_PERCENT;
  if (minutes === null || settings.currentA === null || !known) return null;
  const { percent, lowPercent, highPercent } = held.lowest;
  const minutesFrom = (from: number) => (((100 - from) / 100) * capacityMah * 60) / 1000 / settings.currentA!;
  const finished = ending === 'complete' || ending === 'taper' || ending === 'quick';
  const odd = (oddity: 'too-fast' | 'too-long', expected: number): Oddity => ({
    oddity,
    value: minutes,
    expected,
    dangerous: false,
  });
  // A pack that needed only topping up is soon done.
  const toppedUp = highPercent >= flight.chargedPercent;
  if (finished && !toppedUp && minutes < (minutesFrom(highPercent) * limits.tooFastPercent) / 100)
    return odd('too-fast', minutesFrom(percent));
  return minutes > (minutesFrom(lowPercent) * limits.tooLongPercent) / 100 + TAPER_MINUTES
    ? odd('too-long', minutesFrom(percent) + TAPER_MINUTES)
    : null;
}

/** What still fitted in, mAh: by the emptiest cell, since a balancing charger fills them all; the whole where nobody knew. */
function roomMah(held: Contents | null, capacityMah: number): number {
  if (!held) return capacityMah;
  const { percent, lowPercent } = held.lowest;
  const granted = Math.max(0, percent - lowPercent - ORDINARY_UNSURE_PERCENT);
  return (Math.min(100, 100 - percent + granted) / 100) * capacityMah;
}

function tooMuch(
  movedMah: number,
  room: number,
  capacityMah: number,
  { overNotePercent, overHoldPercent }: HouseRules['charge'],
): Oddity | null {
  const over = (percent: number, least: number) =>
    movedMah > (room * percent) / 100 + ROUNDING && movedMah - room > least * capacityMah;
  const dangerous = over(overHoldPercent, LEAST_HELD);
  if (!dangerous && !over(overNotePercent, LEAST_NOTED)) return null;
  return { oddity: 'too-much', value: movedMah, expected: room, dangerous };
}

const ROUNDING = 1e-6;

function nickelOddity(
  charge: ChargeEvent,
  labelMah: number,
  { charge: limits }: ChargeLimits,
): Oddity | null {
  const { movedMah, minutes, settings } = charge;
  const most = (labelMah * limits.nimhPercent) / 100;
  if (movedMah !== null && movedMah > most)
    return { oddity: 'too-much', value: movedMah, expected: most, dangerous: false };
  if (minutes === null || settings.currentA === null) return null;
  const expected = (most * 60) / 1000 / settings.currentA;
  return minutes > (expected * limits.tooLongPercent) / 100
    ? { oddity: 'too-long', value: minutes, expected, dangerous: false }
    : null;
}
