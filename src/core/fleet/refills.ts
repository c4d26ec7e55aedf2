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
