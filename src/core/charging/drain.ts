import { CHEMISTRY, isLithium, restMv, socPercent } from '../chemistry';
import type { DrainLoad } from '../lifecycle';
import type { PackFacts } from '../pack';

/** Why a load is not to be hung on this pack. */
export type DrainRefusal =
  /** The filament would burn out at once, and leave the pack as full as it was. */
  | { readonly code: 'lamp-below-pack'; readonly ratedV: number; readonly packV: number }
  | { readonly code: 'resistor-too-small'; readonly ratedW: number; readonly peakW: number }
  | { readonly code: 'load-beyond-pack'; readonly amps: number; readonly mostA: number }
  | { readonly code: 'not-a-load' };

/** How the last discharge will go. Amps and watts are of the pack, hours from now to the curve's empty end. */
export interface DrainPlan {
  readonly startA: number;
  readonly peakW: number;
  readonly wattHours: number;
  readonly hours: number;
  /** And so much longer until the cells read nothing: what is left below empty is a guess. */
  readonly tailHours: number;
  readonly curve: readonly { readonly hours: number; readonly packV: number; readonly amps: number }[];
}

export type DrainAnswer =
  | { readonly outcome: 'plan'; readonly plan: DrainPlan }
  | { readonly outcome: 'refused'; readonly why: DrainRefusal }
  /** The charger's own mode sets its current; it says itself when it is done. */
  | { readonly outcome: 'by-charger' };

/** A lamp's filament cools as the volts fall, so its current falls more slowly than they do: as their 0.55th power. */
const FILAMENT = 0.55;
const STEPS = 400;
/** So many points of the curve are given out for drawing. */
const DRAWN = 40;
/** Share of the capacity a cell gives on its way from the curve's empty end to nothing. */
const BELOW_EMPTY = 0.02;
/** A last discharge is gentle: no more than the pack's own 1C. */
const MOST_C = 1;

/**
 * What a lamp or resistor does to a pack on its last discharge: current along the falling curve, hours, watts. Refuses a
 * lamp rated below the pack's nominal volts and a resistor that would get more watts than it can shed.
 * @param fromMv the highest cell's rested millivolts now; null takes the pack as full
 */
export function drainPlan(
  pack: Pick<PackFacts, 'chemistry' | 'series' | 'capacityMah'>,
  fromMv: number | null,
  load: DrainLoad,
): DrainAnswer {
  if (load.by === 'charger') return { outcome: 'by-charger' };
  const why = refusedLoad(pack, fromMv, load);
  if (why) return { outcome: 'refused', why };
  return { outcome: 'plan', plan: along(pack, fromMv, load) };
}

type Load = Exclude<DrainLoad, { by: 'charger' }>;
type Drained = Parameters<typeof drainPlan>[0];

function refusedLoad(pack: Drained, fromMv: number | null, load: Load): DrainRefusal | null {
  const rated = load.by === 'lamp' ? [load.ratedV, load.ratedW] : [load.ohms, load.ratedW];
  if (rated.some((value) => !(value > 0) || !Number.isFinite(value))) return { code: 'not-a-load' };
  const packV = (startMv(pack, fromMv) * pack.series) / 1000;
  // A lamp stands a little more than its rating, but a rating is for the volts a pack has most of the time.
  const nominalV = (CHEMISTRY[pack.chemistry].nominalMv * pack.series) / 1000;
  if (load.by === 'lamp' && load.ratedV < nominalV)
    return { code: 'lamp-below-pack', ratedV: load.ratedV, packV: nominalV };
  const amps = currentAt(load, packV);
  if (load.by === 'resistor' && amps * packV > load.ratedW)
    return { code: 'resistor-too-small', ratedW: load.ratedW, peakW: amps * packV };
  const mostA = (MOST_C * pack.capacityMah) / 1000;
  return amps > mostA ? { code: 'load-beyond-pack', amps, mostA } : null;
}

/** Amps a load takes at so many volts. */
export function currentAt(load: Load, packV: number): number {
  if (load.by === 'resistor') return packV / load.ohms;
  return (load.ratedW / load.ratedV) * (packV / load.ratedV) ** FILAMENT;
}

function along(pack: Drained, fromMv: number | null, load: Load): DrainPlan {
  const { chemistry, series, capacityMah } = pack;
  const capacityAh = capacityMah / 1000;
  const from = isLithium(chemistry) ? socPercent(chemistry, startMv(pack, fromMv)) : 100;
  // A nickel cell holds its voltage nearly to the end.
  const voltsAt = (percent: number) =>
    ((isLithium(chemistry) ? restMv(chemistry, percent) : CHEMISTRY[chemistry].nominalMv) * series) / 1000;
  const stepAh = (capacityAh * (from / 100)) / STEPS;
  const curve: { hours: number; packV: number; amps: number }[] = [];
  let hours = 0;
  let wattHours = 0;
  for (let i = 0; i < STEPS; i++) {
    const packV = voltsAt(from * (1 - (i + 0.5) / STEPS));
    const amps = currentAt(load, packV);
    if (i % (STEPS / DRAWN) === 0) curve.push({ hours, packV, amps });
    hours += stepAh / amps;
    wattHours += stepAh * packV;
  }
  const emptyV = voltsAt(0);
  curve.push({ hours, packV: emptyV, amps: currentAt(load, emptyV) });
  const startA = currentAt(load, voltsAt(from));
  return {
    startA,
    peakW: startA * voltsAt(from),
    wattHours,
    hours,
    tailHours: (capacityAh * BELOW_EMPTY) / currentAt(load, emptyV / 2),
    curve,
  };
}

function startMv({ chemistry }: Drained, fromMv: number | null): number {
  return fromMv ?? CHEMISTRY[chemistry].fullMv ?? CHEMISTRY[chemistry].nominalMv;
}
