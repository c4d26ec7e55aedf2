/** What a craft that is kept flying asks of its packs and of the bench beside it, all in minutes. */
export interface Rotation {
  readonly flightMin: number;
  /** Until a pack that landed may be charged. */
  readonly coolMin: number;
  readonly chargeMin: number;
  /** Channels that charge this type at the same time. */
  readonly channels: number;
  /** Taking off, carrying, plugging in, looking over. */
  readonly handlingMin: number;
}

export interface RotationAnswer {
  /** Packs so that a charged one is there at each landing, without a spare. */
  readonly packs: number;
  /** Flights in the time asked for. */
  readonly flights: number;
  /** Whether the channels keep up for as long as anybody likes; else the packs above are what this day takes. */
  readonly keepsUp: boolean;
}

/**
 * How many packs keep a craft flying for so long: one in the air and as many as land while one cools, is handled and charges,
 * N = 1 + ⌈(cool + charge + handling) ÷ flight⌉; where the channels take longer for a pack than a flight lasts, those that cannot be
 * charged again in time must be there from the start. Never more than there are flights. Source: the practice's fleet sums.
 * @param facts all above zero
 * @example rotationByFormula({ flightMin: 12, coolMin: 20, chargeMin: 35, channels: 3, handlingMin: 5 }, 240) // => { packs: 6, flights: 20, keepsUp: true }
 */
export function rotationByFormula(facts: Rotation, dayMin: number): RotationAnswer {
  const { flightMin, coolMin, chargeMin, channels, handlingMin } = facts;
  const flights = flightsIn(facts, dayMin);
  const keepsUp = chargeMin / channels <= flightMin;
  const turning = 1 + Math.ceil((coolMin + chargeMin + handlingMin) / flightMin);
  // What the channels can give back before the last flight begins, from the first landing on.
  const chargingMin = (flights - 1) * flightMin - flightMin - coolMin - handlingMin;
  const givenBack = Math.max(0, channels * Math.floor(chargingMin / chargeMin));
  const packs = keepsUp ? turning : Math.max(turning, flights - givenBack);
  return { packs: Math.min(packs, flights), flights, keepsUp };
}

/** The same by flying the day: the fewest packs with which no landing waits for a charged one. */
export function rotationBySimulation(facts: Rotation, dayMin: number): RotationAnswer {
  const flights = flightsIn(facts, dayMin);
  let packs = 1;
  while (packs < flights && waits(facts, flights, packs)) packs += 1;
  return { packs, flights, keepsUp: facts.chargeMin / facts.channels <= facts.flightMin };
}

function flightsIn({ flightMin }: Rotation, dayMin: number): number {
  return Math.max(1, Math.floor(dayMin / flightMin + 1e-9));
}

/** Whether some flight would begin late with so many packs. Packs are alike, so whichever is ready first flies next. */
function waits(
  { flightMin, coolMin, chargeMin, channels, handlingMin }: Rotation,
  flights: number,
  packs: number,
): boolean {
  const ready = Array.from({ length: packs }, () => 0);
  const free = Array.from({ length: channels }, () => 0);
  for (let flight = 0; flight < flights; flight += 1) {
    const takeOff = flight * flightMin;
    const next = ready.indexOf(Math.min(...ready));
    if (ready[next]! > takeOff + 1e-6) return true;
    const channel = free.indexOf(Math.min(...free));
    const begins = Math.max(takeOff + flightMin + coolMin + handlingMin, free[channel]!);
    free[channel] = begins + chargeMin;
    ready[next] = begins + chargeMin;
  }
  return false;
}
