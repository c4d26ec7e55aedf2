import { isLithium, socPercent } from '../../chemistry';
import type { LithiumChemistry } from '../../chemistry';
import type { ChargeMode } from '../../record';
import type { HouseRules } from '../../rules';
import { storageJob } from '../../storage';
import { roundedDown } from '../chargeCurrent';
import { chargeCourse } from '../chargeTime';
import { dischargeTime } from '../dischargeTime';
import type { Board, Charger } from '../equipment';
import type { ChargerSetting } from '../setting';
import type { JobKind, PlanPack } from './input';

/** How a job goes at one current: its minutes, and the watts and amps at the output in each of them. */
export interface Course {
  readonly minutes: number;
  readonly watts: readonly number[];
  readonly amps: readonly number[];
  readonly setting: ChargerSetting;
}

/** What an output gives or takes at most. */
export interface OutputLimits {
  readonly amps: number;
  readonly watts: number;
}

/** What a load is of: one pack, or several on a board. */
export interface Load {
  readonly packs: readonly PlanPack[];
  readonly board: Board | null;
}

/** A charge ends at C/20 while it balances, in a fast mode at C/10. Source: the practice. */
const CUT_OFF_C: Readonly<Partial<Record<ChargeMode, number>>> = { balance: 0.05, fast: 0.1 };
/** A nickel charge wastes a part of what it puts in. Source: the practice. */
const NICKEL_FACTOR = 1.2;

/**
 * The most amps house and label allow for a load: the sum on a parallel board, one pack's on a series board.
 * The smaller of label and measured capacity counts.
 */
export function allowedAmps({ packs, board }: Load, rules: HouseRules): number {
  const each = packs.map((pack) => {
    const houseC = pack.gently ? Math.min(rules.charge.homeC, rules.charge.afterRestC) : rules.charge.homeC;
    return Math.min(houseC, pack.chargeC ?? 1) * Math.min(pack.labelAh, pack.capacityAh);
  });
  return board?.wiring === 'parallel' ? each.reduce((sum, one) => sum + one, 0) : Math.min(...each);
}

/** The cells the charger is set to for a load. */
export function cellsOf({ packs, board }: Load): number {
  return board?.wiring === 'series' ? packs.length : packs[0]!.series;
}

/**
 * A charge of a load to the house's top at so many amps, within the output's watts.
 * @returns null where the charger has no mode for it: a plain charge of two cells and more wants its balance lead watched and no
 * balance owed
 */
export function fillCourse(
  load: Load,
  amps: number,
  watts: number,
  charger: Charger,
  rules: HouseRules,
): Course | null {
  const pack = load.packs[0]!;
  const cells = cellsOf(load);
  const mode = fillMode(load, charger);
  if (!mode) return null;
  if (!isLithium(pack.chemistry)) {
    const minutes = (NICKEL_FACTOR * pack.capacityAh * 60) / amps;
    const topW = amps * cells * 1.5;
    const setting = { chemistry: pack.chemistry, mode, cells, topMv: null, amps };
    return { ...flat(minutes, topW, amps), setting };
  }
  const topMv = rules.topMv[pack.chemistry];
  const job = {
    chemistry: pack.chemistry,
    amps,
    watts,
    topMv,
    cutOffC: CUT_OFF_C[mode]!,
    balanceA: mode === 'balance' ? charger.balanceA : null,
    ...asOnePack(load),
  };
  const course = chargeCourse(job);
  const late =
    load.board?.wiring === 'series'
      ? seriesBalanceMinutes(load, charger.balanceA, course.constantVoltageMinutes)
      : 0;
  const minutes = Math.max(
    course.minutes,
    course.constantCurrentMinutes + course.constantVoltageMinutes + late,
  );
  const tail = Math.max(0, Math.ceil(minutes) - course.watts.length);
  const last = { watts: course.watts.at(-1) ?? 0, amps: course.amps.at(-1) ?? 0 };
  return {
    minutes: Math.max(1, Math.ceil(minutes)),
    watts: [...course.watts, ...Array.from({ length: tail }, () => last.watts)],
    amps: [...course.amps, ...Array.from({ length: tail }, () => last.amps)],
    setting: { chemistry: pack.chemistry, mode, cells, topMv, amps },
  };
}

function fillMode({ packs, board }: Load, charger: Charger): 'balance' | 'fast' | null {
  const several = packs[0]!.series > 1 || board?.wiring === 'series';
  const nickel = packs[0]!.chemistry === 'nimh';
  if (!nickel && several && charger.modes.includes('balance') && charger.balanceA !== null) return 'balance';
  const owed = several && (board?.wiring === 'series' || packs.some(({ balanceDue }) => balanceDue));
  if (charger.modes.includes('fast') && (nickel || !owed)) return 'fast';
  return charger.modes.includes('balance') && !several ? 'balance' : null;
}

/** A load as one pack: parallel packs add their charge and share their resistance; a series board is a pack of single cells. */
function asOnePack({ packs, board }: Load): {
  capacityAh: number;
  cellsMv: readonly number[];
  cellMilliohm: number;
} {
  const fullest = packs.reduce((a, b) => (highest(b) > highest(a) ? b : a));
  if (board?.wiring === 'parallel') {
    const conductance = packs.reduce((sum, { cellMilliohm }) => sum + 1 / cellMilliohm, 0);
    return {
      capacityAh: packs.reduce((sum, { capacityAh }) => sum + capacityAh, 0),
      // Joined, they come to about the volts that hold their charge in sum; nearest together, that is nearly each one's own.
      cellsMv: meanCells(packs),
      cellMilliohm: 1 / conductance,
    };
  }
  if (board?.wiring === 'series') {
    const first = packs.reduce((a, b) => (roomAh(b) < roomAh(a) ? b : a));
    return {
      capacityAh: first.capacityAh,
      cellsMv: packs.map(() => first.cellsMv![0]!),
      cellMilliohm: packs.reduce((sum, { cellMilliohm }) => sum + cellMilliohm, 0) / packs.length,
    };
  }
  return { capacityAh: fullest.capacityAh, cellsMv: fullest.cellsMv!, cellMilliohm: fullest.cellMilliohm };
}

function meanCells(packs: readonly PlanPack[]): number[] {
  return packs[0]!.cellsMv!.map((_, cell) =>
    Math.round(packs.reduce((sum, { cellsMv }) => sum + cellsMv![cell]!, 0) / packs.length),
  );
}

/** Charge a single cell still takes, ampere-hours. */
function roomAh({ chemistry, cellsMv, capacityAh }: PlanPack): number {
  return capacityAh * (1 - socPercent(chemistry as LithiumChemistry, cellsMv![0]!) / 100);
}

/** Small cells are bled no faster than this, as a multiple of their capacity: a charger turns its balancing down for them. */
const MOST_BLEED_C = 1 / 3;

/**
 * On a series board the cell with the least room is full first; the others are topped by what it bleeds alone, and the
 * charge ends with the last of them. Minutes from the start of the taper.
 */
function seriesBalanceMinutes({ packs }: Load, balanceA: number | null, taperMinutes: number): number {
  if (balanceA === null) return 0;
  const rooms = packs.map(roomAh);
  const apartAh = Math.max(...rooms) - Math.min(...rooms);
  const bleedA = Math.min(balanceA, MOST_BLEED_C * Math.min(...packs.map(({ capacityAh }) => capacityAh)));
  return Math.max(0, (apartAh / bleedA) * 60 - taperMinutes);
}

/** A storage program turns its current down as it comes to its volts, and ends at C/10, up as well as down. */
const STORAGE_END_C = 0.1;

/** Charge that brings a load up to its storage volts. */
export function raiseCourse(load: Load, amps: number, watts: number, rules: HouseRules): Course | null {
  const job = stored(load, rules, 'charge');
  if (!job) return null;
  const { chemistry } = load.packs[0]!;
  const course = chargeCourse({
    chemistry: chemistry as LithiumChemistry,
    amps,
    watts,
    topMv: job.targetMv,
    cutOffC: STORAGE_END_C,
    balanceA: null,
    ...asOnePack(load),
  });
  const setting = { chemistry, mode: 'storage' as const, cells: cellsOf(load), topMv: job.targetMv, amps };
  if (course.watts.length === 0) return { ...flat(1, 0, 0), setting };
  return { minutes: course.watts.length, watts: course.watts, amps: course.amps, setting };
}

/** What a load discharges to storage takes at an output's amps and watts. The pool feels nothing of it. */
export function lowerCourse(
  load: Load,
  limits: OutputLimits,
  mode: ChargeMode,
  rules: HouseRules,
): Course | null {
  const job = stored(load, rules, 'discharge');
  if (!job) return null;
  const pack = load.packs[0]!;
  const chemistry = pack.chemistry as LithiumChemistry;
  const toPercent = socPercent(chemistry, job.targetMv);
  return discharge(
    load,
    limits,
    mode,
    toPercent + (job.chargeAh / asOnePack(load).capacityAh) * 100,
    toPercent,
    job.targetMv,
  );
}

/** Emptying a pack to its recharge-soon floor, as the first half of a cycle. */
export function emptyCourse(load: Load, limits: OutputLimits, rules: HouseRules): Course | null {
  const pack = load.packs[0]!;
  if (!isLithium(pack.chemistry) || !pack.cellsMv) return null;
  const floorMv = rules.floors[pack.chemistry].rechargeSoonMv;
  const from = socPercent(pack.chemistry, lowest(pack));
  const to = socPercent(pack.chemistry, floorMv);
  return discharge(load, limits, 'discharge', Math.max(from, to), to, floorMv);
}

function discharge(
  load: Load,
  { amps, watts }: OutputLimits,
  mode: ChargeMode,
  fromPercent: number,
  toPercent: number,
  targetMv: number,
): Course {
  const pack = load.packs[0]!;
  const { capacityAh, cellMilliohm } = asOnePack(load);
  const { minutes } = dischargeTime({
    chemistry: pack.chemistry as LithiumChemistry,
    capacityAh,
    cellMilliohm,
    ...(mode === 'storage' ? { taperToC: STORAGE_END_C } : {}),
    series: cellsOf(load),
    fromPercent,
    toPercent,
    amps,
    watts,
  });
  const cells = cellsOf(load);
  const setting = { chemistry: pack.chemistry, mode, cells, topMv: targetMv, amps };
  return { ...flat(minutes, 0, 0), setting };
}

/** The storage job of a load in one direction; null where it goes the other way, or a cell stands in its way. */
function stored(load: Load, rules: HouseRules, direction: 'charge' | 'discharge') {
  const pack = load.packs[0]!;
  const one = asOnePack(load);
  const facts = {
    chemistry: pack.chemistry,
    capacityMah: one.capacityAh * 1000,
    chargeC: pack.chargeC,
    series: one.cellsMv.length,
  };
  const job = storageJob(facts, one.cellsMv, rules);
  return job?.direction === direction && !job.inTheWay && job.chargeAh > 0 ? job : null;
}

function flat(minutes: number, watts: number, amps: number): Omit<Course, 'setting'> {
  const whole = Math.max(1, Math.ceil(minutes - 1e-9));
  return {
    minutes: whole,
    watts: Array.from({ length: whole }, () => watts),
    amps: Array.from({ length: whole }, () => amps),
  };
}

export function lowest({ cellsMv }: PlanPack): number {
  return Math.min(...cellsMv!);
}

export function highest({ cellsMv }: PlanPack): number {
  return Math.max(...cellsMv!);
}

/** What each kind of job asks of a charger's modes; a charger that only lowers by a plain discharge does that. */
export function modeFor(kind: JobKind, { modes, storage }: Charger): ChargeMode | null {
  const stores = modes.includes('storage');
  switch (kind) {
    case 'raise':
      return stores && (storage === 'raise' || storage === 'both') ? 'storage' : null;
    case 'lower':
      if (stores && (storage === 'lower' || storage === 'both')) return 'storage';
      return modes.includes('discharge') ? 'discharge' : null;
    case 'discharge':
      return modes.includes('discharge') ? 'discharge' : null;
    case 'charge':
      return 'balance';
    default:
      return kind satisfies never;
  }
}

/** Currents to choose from: the most, and less of it where a pool is short; on the charger's step, none below its least. */
export function levels(most: number, { stepA, leastA }: Charger, short: boolean): number[] {
  const shares = short ? [1, 0.6, 0.35] : [1];
  const amps = shares
    .map((share) => roundedDown(most * share, stepA))
    .filter((one) => one >= leastA && one > 0);
  return [...new Set(amps)];
}
