/** What goes from a field pack into a flight pack: through its own discharge, a converter and a charger. Source: the practice's field sums. */
export const FIELD_EFFICIENCY = 0.85;

export interface FieldPack {
  readonly wattHours: number;
  /** What of it may be taken out, 0 to 1. */
  readonly usableShare: number;
}

/**
 * How many flight packs a field pack fills again: usable Wh × 0.85 ÷ Wh a refill, rounded down.
 * @param refillWh what one flight takes out of a flight pack
 * @example refills({ wattHours: 1000, usableShare: 0.8 }, 60) // => 11
 */
export function refills({ wattHours, usableShare }: FieldPack, refillWh: number): number {
  return Math.floor((wattHours * usableShare * FIELD_EFFICIENCY) / refillWh + 1e-9);
}

/**
 * How often a field pack fills a flight pack again with what it holds now, down to the reserve that stays in it.
 * @param heldPercent what it holds, and `reservePercent` what stays in it, of its label
 * @example refillsLeft(1000, 100, 20, 60) // => 11
 * @example refillsLeft(1000, 15, 20, 60) // => 0
 */
export function refillsLeft(
  wattHours: number,
  heldPercent: number,
  reservePercent: number,
  refillWh: number,
): number {
  return refills({ wattHours, usableShare: Math.max(0, heldPercent - reservePercent) / 100 }, refillWh);
}

/**
 * What a field pack gave for a charge of another pack, or got back from one that was emptied into it, mAh of its own: an estimate from the
 * charge that was counted at the other one.
 * @param packMv nominal volts of the pack that was filled or emptied, and `fieldMv` of the field pack, millivolts
 * @example fieldShareMah(2000, 14800, 25900, 'gave') // => 1345
 * @example fieldShareMah(2000, 14800, 25900, 'got') // => 971
 */
export function fieldShareMah(
  movedMah: number,
  packMv: number,
  fieldMv: number,
  way: 'gave' | 'got',
): number {
  const own = (movedMah * packMv) / fieldMv;
  return Math.round(way === 'gave' ? own / FIELD_EFFICIENCY : own * FIELD_EFFICIENCY);
}

export interface FurtherFlights {
  /** What one more flight a day costs by a field pack, and by another flight pack, in the price list's money. */
  readonly byFieldPack: number;
  readonly byFlightPack: number;
  /** From so many further flights a day on the field pack is the cheaper. */
  readonly breakEven: number;
}

/**
 * What further flights on one day cost either way: a field pack's price spread over its refills, against a flight pack for each. Null where
 * the field pack fills none.
 * @example furtherFlights(440, 11, 80) // => { byFieldPack: 40, byFlightPack: 80, breakEven: 6 }
 */
export function furtherFlights(
  fieldPackPrice: number,
  refillsADay: number,
  flightPackPrice: number,
): FurtherFlights | null {
  if (refillsADay < 1) return null;
  return {
    byFieldPack: fieldPackPrice / refillsADay,
    byFlightPack: flightPackPrice,
    breakEven: Math.ceil(fieldPackPrice / flightPackPrice - 1e-9),
  };
}
