import { chargingMv } from '../charging';
import { restMv, socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { DAY_MS } from '../measure';
import { bell } from '../random';
import type { Random } from '../random';

/** A pack of cells that charge, drain, warm, drift and age as real ones do. Immutable: every act gives the pack after it. */
export interface SimPack {
  readonly chemistry: LithiumChemistry;
  readonly labelAh: number;
  readonly cells: readonly SimCell[];
}

export interface SimCell {
  /** Charge held, ampere-hours. */
  readonly heldAh: number;
  /** What the cell held when new, ampere-hours. */
  readonly newAh: number;
  /** Resistance when new, milliohm at 25 °C. */
  readonly newMilliohm: number;
  /** Charge a cell loses by itself, percent of its capacity a month. */
  readonly leakPercentPerMonth: number;
  /** 0 new; at 1 it holds 80 % of what it did, at half as much resistance again. */
  readonly wear: number;
  /** How fast it wears beside an ordinary cell. */
  readonly wearRate: number;
}

export interface NewPack {
  readonly chemistry: LithiumChemistry;
  readonly series: number;
  readonly labelAh: number;
  /** Rested millivolts it arrives at. */
  readonly mv: number;
  /** Milliohm of a new cell; left out, what a pack of this capacity commonly has. */
  readonly milliohm?: number;
}

/** Source of the shelf figure: the practice. */
const LEAK_PERCENT_PER_MONTH = 3;
const MONTH_MS = 30 * DAY_MS;
/** New flight cells show about this many milliohm times their ampere-hours. Only the simulation's idea of ordinary. */
const MILLIOHM_AH: Readonly<Record<LithiumChemistry, number>> = {
  lipo: 16,
  lihv: 18,
  liion: 70,
  lifepo4: 40,
};

/** A new pack, all cells alike but for the maker's tolerance. */
export function newSimPack(pack: NewPack, random: Random): SimPack {
  const { chemistry, series, labelAh, mv } = pack;
  const milliohm = pack.milliohm ?? MILLIOHM_AH[chemistry] / labelAh;
  const share = socPercent(chemistry, mv) / 100;
  const cells = Array.from({ length: series }, () => {
    const newAh = labelAh * (1.01 + bell(random) * 0.002);
    return {
      heldAh: clamp(newAh * (share + bell(random) * 0.003), newAh),
      newAh,
      newMilliohm: milliohm * (1 + bell(random) * 0.03),
      leakPercentPerMonth: LEAK_PERCENT_PER_MONTH * (1 + bell(random) * 0.05),
      wear: 0,
      wearRate: 1 + bell(random) * 0.05,
    };
  });
  return { chemistry, labelAh, cells };
}

/** What a cell holds when full, ampere-hours. */
export function capacityAh(cell: SimCell): number {
  return cell.newAh * (1 - 0.2 * cell.wear);
}

/** A cell's resistance, milliohm; doubling from 25 to 0 °C. */
export function milliohmAt(cell: SimCell, celsius: number): number {
  return cell.newMilliohm * (1 + 0.4 * cell.wear + 0.1 * cell.wear ** 2) * 2 ** ((25 - celsius) / 25);
}

export function percentOf(cell: SimCell): number {
  return (cell.heldAh / capacityAh(cell)) * 100;
}

/** Full cycles an ordinary cell stands before it is worn (wear 1). Source: the practice's cycle figures. */
const CYCLES_TO_WORN: Readonly<Record<LithiumChemistry, number>> = {
  lipo: 300,
  lihv: 300,
  liion: 500,
  lifepo4: 1500,
};
/** Years at storage volts and 25 °C that wear a cell as far; full it goes four times as fast. */
const YEARS_TO_WORN = 6;
const FULL_AGES = 4;

/** The pack after lying for a while: self-discharge, and what age does at this charge and temperature. */
export function rest(pack: SimPack, elapsedMs: number, celsius = 20): SimPack {
  const years = elapsedMs / (365 * DAY_MS);
  return eachCell(pack, (cell) => {
    const percent = percentOf(cell);
    const fullness = Math.max(0, (percent - 60) / 40);
    const pace = (1 + (FULL_AGES - 1) * fullness) * 2 ** ((celsius - 25) / 10);
    const lost = (cell.leakPercentPerMonth / 100) * (elapsedMs / MONTH_MS) * capacityAh(cell);
    return worn({ ...cell, heldAh: cell.heldAh - lost }, (years / YEARS_TO_WORN) * pace);
  });
}

/** Worn cells wear faster. */
function worn(cell: SimCell, by: number): SimCell {
  return { ...cell, wear: cell.wear + by * cell.wearRate * (1 + 0.4 * cell.wear) };
}

/** A smart pack after bleeding itself to this voltage; a pack below it stays as it is. */
export function bleedTo(pack: SimPack, mv: number): SimPack {
  const share = socPercent(pack.chemistry, mv) / 100;
  return eachCell(pack, (cell) => ({ ...cell, heldAh: Math.min(cell.heldAh, share * capacityAh(cell)) }));
}

/** What a use was like. */
export interface SimUse {
  readonly pack: SimPack;
  readonly usedAh: number;
  readonly minutes: number;
  /** Millivolts of every cell under load at the end. */
  readonly loadedMv: readonly number[];
  readonly hottestC: number;
}

/** Kelvin a pack warms for each watt it makes of itself, per ampere-hour of it. Only the simulation's idea of ordinary. */
const WARMING = 26;

/** A use at a steady current that takes out so much, or ends when a cell is empty. */
export function use(pack: SimPack, takeAh: number, amps: number, ambientC: number): SimUse {
  const least = Math.min(...pack.cells.map(({ heldAh }) => heldAh));
  const usedAh = Math.max(0, Math.min(takeAh, least));
  const cycle = usedAh / pack.labelAh / CYCLES_TO_WORN[pack.chemistry];
  const after = eachCell(pack, (cell) => worn({ ...cell, heldAh: cell.heldAh - usedAh }, cycle));
  const mean = pack.cells.reduce((sum, cell) => sum + milliohmAt(cell, 25), 0) / pack.cells.length;
  const warming = (WARMING * (amps ** 2 * mean)) / 1000 / pack.labelAh / 1.6;
  const hottestC = ambientC + Math.min(45, warming);
  const loadedMv = after.cells.map((cell) =>
    Math.round(restMv(pack.chemistry, percentOf(cell)) - amps * milliohmAt(cell, hottestC)),
  );
  return { pack: after, usedAh, minutes: (usedAh / amps) * 60, loadedMv, hottestC };
}

export interface SimChargeSettings {
  readonly amps: number;
  readonly topMv: number;
  readonly cutOffC: number;
  /** Null for a charge that does not balance. */
  readonly balanceA: number | null;
  /** What the charger's channel can give; left out for more than enough. */
  readonly watts?: number;
  /** The charger dies after so many minutes; left out, it charges to the end. */
  readonly diesAfter?: number;
}

export interface SimCharge {
  readonly pack: SimPack;
  readonly minutes: number;
  readonly movedAh: number;
  readonly balanced: boolean;
  /** Millivolts of every cell when it ended. */
  readonly endMv: readonly number[];
  /** The most watts at the pack in each minute from the start. */
  readonly peakW: readonly number[];
}

/** A charger that watches every cell ends a charge no later than this. */
const TIME_OUT_HOURS = 12;
const MOST_STEP_SECONDS = 10;
const STEP_SECONDS_PER_AH = 3;
/** Cells this close count as balanced, millivolts. */
const BALANCED_MV = 4;

/**
 * A charge followed second by second: constant current until the highest cell reaches the top, then whatever current
 * keeps it there; while it tapers, cells above the lowest are bled.
 */
export function charge(pack: SimPack, settings: SimChargeSettings): SimCharge {
  const { chemistry, labelAh } = pack;
  const { cutOffC, balanceA, diesAfter = Infinity } = settings;
  // Bleeding a small cell in long steps would throw it from above its siblings to below them.
  const hours = Math.min(MOST_STEP_SECONDS, STEP_SECONDS_PER_AH * labelAh) / 3600;
  const cells = pack.cells.map((cell) => ({
    ...cell,
    capacity: capacityAh(cell),
    ohm: milliohmAt(cell, 25) / 1000,
  }));
  let elapsed = 0;
  let moved = 0;
  let balanced = false;
  const peakW: number[] = [];
  for (; elapsed < Math.min(TIME_OUT_HOURS, diesAfter / 60); elapsed += hours) {
    const { volts, taper, lowest, packV, bled, current } = flowInto(chemistry, labelAh, cells, settings);
    balanced = (Math.max(...volts) - lowest) * 1000 <= BALANCED_MV;
    if (taper <= cutOffC * labelAh && (balanceA === null || balanced)) break;
    for (const [i, cell] of cells.entries()) {
      (cell as { heldAh: number }).heldAh += (current - bled[i]!) * hours;
    }
    moved += current * hours;
    const minute = Math.floor(elapsed * 60);
    peakW[minute] = Math.max(peakW[minute] ?? 0, current * packV);
  }
  const endMv = cells.map((cell) => Math.round(ocvOf(chemistry, cell) * 1000));
  const after = cells.map(({ capacity, ohm: _ohm, ...cell }) => ({
    ...cell,
    heldAh: clamp(cell.heldAh, capacity),
  }));
  return { pack: { ...pack, cells: after }, minutes: elapsed * 60, movedAh: moved, balanced, endMv, peakW };
}

/** A cell as a charger meets it. */
interface CellOnCharge {
  readonly heldAh: number;
  readonly capacity: number;
  readonly ohm: number;
}

function ocvOf(chemistry: LithiumChemistry, cell: CellOnCharge): number {
  return chargingMv(chemistry, (cell.heldAh / cell.capacity) * 100) / 1000;
}

/** What a charger gives at this moment: the set current, or what keeps the highest cell at the top, or what its watts allow. */
function flowInto(
  chemistry: LithiumChemistry,
  labelAh: number,
  cells: readonly CellOnCharge[],
  { amps, topMv, balanceA, watts = Infinity }: SimChargeSettings,
) {
  const volts = cells.map((cell) => ocvOf(chemistry, cell));
  const taper = Math.min(...cells.map((cell, i) => (topMv / 1000 - volts[i]!) / cell.ohm));
  const lowest = Math.min(...volts);
  const packV = volts.reduce((sum, one, i) => sum + one + Math.min(amps, taper) * cells[i]!.ohm, 0);
  const most = Math.min(amps, watts / packV);
  const bleeding = balanceA !== null && taper < most;
  const bled = volts.map((v) =>
    bleeding && (v - lowest) * 1000 > BALANCED_MV / 2 ? Math.min(balanceA, labelAh / 3) : 0,
  );
  // The charger holds the highest cell at the top; what that cell bleeds it may have back.
  const current = Math.max(0, Math.min(most, taper + (bleeding ? Math.max(...bled) : 0)));
  return { volts, taper, lowest, packV, bled, current };
}

/** A moment of a charge, for whoever follows it as it happens. */
export interface SimMoment {
  readonly pack: SimPack;
  readonly amps: number;
  /** Millivolts of every cell at its tap while that flows. */
  readonly mv: readonly number[];
  readonly movedAh: number;
  /** Whether a charger that ends charges would end this one now. */
  readonly full: boolean;
}

/** The charge followed for so many seconds more. */
export function chargeFor(pack: SimPack, settings: SimChargeSettings, seconds: number): SimMoment {
  const { chemistry, labelAh } = pack;
  const step = Math.min(MOST_STEP_SECONDS, STEP_SECONDS_PER_AH * labelAh);
  let now = pack;
  let movedAh = 0;
  for (let left = seconds; ; left -= step) {
    const cells = now.cells.map((cell) => ({
      heldAh: cell.heldAh,
      capacity: capacityAh(cell),
      ohm: milliohmAt(cell, 25) / 1000,
    }));
    const { volts, taper, lowest, bled, current } = flowInto(chemistry, labelAh, cells, settings);
    const balanced = (Math.max(...volts) - lowest) * 1000 <= BALANCED_MV;
    if (left <= 0)
      return {
        pack: now,
        amps: current,
        mv: volts.map((one, i) => Math.round((one + current * cells[i]!.ohm) * 1000)),
        movedAh,
        full: taper <= settings.cutOffC * labelAh && (settings.balanceA === null || balanced),
      };
    const hours = Math.min(step, left) / 3600;
    movedAh += current * hours;
    now = {
      ...now,
      cells: now.cells.map((cell, i) => ({
        ...cell,
        heldAh: Math.max(0, Math.min(cell.heldAh + (current - bled[i]!) * hours, 1.2 * capacityAh(cell))),
      })),
    };
  }
}

/** The pack drained at a steady current for so many seconds more. */
export function drainFor(pack: SimPack, amps: number, seconds: number): SimMoment {
  const after = eachCell(pack, (cell) => ({ ...cell, heldAh: cell.heldAh - (amps * seconds) / 3600 }));
  return {
    pack: after,
    amps,
    mv: after.cells.map((cell) =>
      Math.round(restMv(pack.chemistry, percentOf(cell)) - amps * milliohmAt(cell, 25)),
    ),
    movedAh: (amps * seconds) / 3600,
    full: false,
  };
}

export interface SimDischargeSettings {
  readonly amps: number;
  readonly watts: number;
  readonly targetMv: number;
  /** A load stops when the display shows the target; a storage program turns the current down and ends below this many amps. */
  readonly endA: number | null;
}

/** A discharge followed second by second until the mean cell shows the target under load. */
export function discharge(
  pack: SimPack,
  { amps, watts, targetMv, endA }: SimDischargeSettings,
): { readonly pack: SimPack; readonly minutes: number } {
  const hours = MOST_STEP_SECONDS / 3600;
  const mean = (values: readonly number[]) => values.reduce((sum, one) => sum + one, 0) / values.length;
  let cells = pack.cells;
  let elapsed = 0;
  let set = amps;
  while (elapsed < TIME_OUT_HOURS) {
    const restingMv = mean(cells.map((cell) => restMv(pack.chemistry, percentOf(cell))));
    const current = Math.min(set, (watts * 1000) / (restingMv * cells.length));
    if (restingMv - current * mean(cells.map((cell) => milliohmAt(cell, 25))) <= targetMv) {
      if (endA === null || current <= endA) break;
      set = current * 0.97;
      continue;
    }
    cells = cells.map((cell) => ({ ...cell, heldAh: Math.max(0, cell.heldAh - current * hours) }));
    elapsed += hours;
  }
  return { pack: { ...pack, cells }, minutes: elapsed * 60 };
}

/** The pack brought to a rested voltage, balanced, without following how: a storage job seen from its end. */
export function balanceTo(pack: SimPack, mv: number, random: Random): SimPack {
  const percent = socPercent(pack.chemistry, mv);
  return eachCell(pack, (cell) => ({
    ...cell,
    heldAh: ((percent + bell(random) * 0.15) / 100) * capacityAh(cell),
  }));
}

/** The pack with one cell (numbered from 1) gone weak: worn further, wearing faster, and leaking. */
export function weaken(
  pack: SimPack,
  cell: number,
  weakness: Pick<SimCell, 'wear' | 'wearRate' | 'leakPercentPerMonth'>,
): SimPack {
  return {
    ...pack,
    cells: pack.cells.map((one, i) =>
      i + 1 === cell ? { ...one, ...weakness, wear: Math.max(one.wear, weakness.wear) } : one,
    ),
  };
}

/** What a meter shows of the rested pack: millivolts per cell to the hundredth of a volt, with the meter's own noise. */
export function readCells(pack: SimPack, random: Random, noiseMv = 2): number[] {
  return pack.cells.map((cell) => {
    const mv = restMv(pack.chemistry, percentOf(cell)) + bell(random) * noiseMv;
    return Math.max(0, Math.round(mv / 10) * 10);
  });
}

/** What an instrument shows of each cell's resistance, milliohm to the tenth, with its own noise in percent. */
export function readResistance(pack: SimPack, celsius: number, random: Random, noisePercent = 4): number[] {
  return pack.cells.map((cell) => {
    const shown = milliohmAt(cell, celsius) * (1 + (bell(random) * noisePercent) / 100);
    return Math.max(0.1, Math.round(shown * 10) / 10);
  });
}

function eachCell(pack: SimPack, after: (cell: SimCell) => SimCell): SimPack {
  return {
    ...pack,
    cells: pack.cells.map((cell) => {
      const changed = after(cell);
      return { ...changed, heldAh: clamp(changed.heldAh, capacityAh(changed)) };
    }),
  };
}

function clamp(ah: number, capacity: number): number {
  return Math.min(capacity, Math.max(0, ah));
}
