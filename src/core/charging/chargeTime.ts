import { socPercent } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';
import { chargingMv } from './ocv';

/** What a charge is estimated from. */
export interface ChargeJob {
  readonly chemistry: LithiumChemistry;
  /** As last measured, not as labelled. */
  readonly capacityAh: number;
  /** Rested volts, cell by cell. */
  readonly cellsMv: readonly number[];
  /** Mean resistance of a cell with its share of leads, milliohm. */
  readonly cellMilliohm: number;
  readonly amps: number;
  /** The channel's watts; null where it has more than enough. */
  readonly watts: number | null;
  readonly topMv: number;
  /** The current at which the charger stops, as a share of capacity: C/20, in a fast mode C/10. */
  readonly cutOffC: number;
  /** Balancing current of the charger's card; null when it does not balance. */
  readonly balanceA: number | null;
}

export interface ChargeEstimate {
  readonly minutes: number;
  readonly constantCurrentMinutes: number;
  readonly constantVoltageMinutes: number;
  /** What balancing adds after the taper has ended. */
  readonly balanceMinutes: number;
  readonly chargeAh: number;
}

/** A charge is followed in steps of this much of the capacity; finer changes nothing a clock would show. */
const STEP_PERCENT = 0.05;
const FULLEST_PERCENT = 101;
/** A charger calls cells this close balanced, millivolts; the practice gives no figure, a few millivolts are common. */
const BALANCED_MV = 4;

/**
 * How long a charge takes: constant current until the highest cell's OCV + I·R reaches the top voltage, constant voltage
 * with I = (top − OCV) / R until the cut-off, then balancing of what the cells are apart. Integrated along the curve, since
 * a guess from amps alone is short by the whole taper. Balancing runs through the taper, so only what is left of it adds.
 * @param job amps and capacity above zero
 */
export function chargeTime(job: ChargeJob): ChargeEstimate {
  return followCharge(job, () => undefined);
}

/** What a charge draws, minute by minute, beside its estimate. */
export interface ChargeCourse extends ChargeEstimate {
  /** The mean watts and amps at the pack in each minute from the start; the last minute may be a part of one. */
  readonly watts: readonly number[];
  readonly amps: readonly number[];
}

/** The same charge with its course: what a pool of watts or amps has to give while it runs. */
export function chargeCourse(job: ChargeJob): ChargeCourse {
  const watts: number[] = [];
  const amps: number[] = [];
  let elapsed = 0;
  const estimate = followCharge(job, (hours, current, packV) => {
    let left = hours * 60;
    while (left > 1e-12) {
      const minute = Math.floor(elapsed + 1e-9);
      const part = Math.min(left, minute + 1 - elapsed);
      watts[minute] = (watts[minute] ?? 0) + current * packV * part;
      amps[minute] = (amps[minute] ?? 0) + current * part;
      elapsed += part;
      left -= part;
    }
  });
  return { ...estimate, watts, amps };
}

/** Walks along a charge and tells `onStep` of each stretch: hours, amps and pack volts. */
function followCharge(
  job: ChargeJob,
  onStep: (hours: number, current: number, packV: number) => void,
): ChargeEstimate {
  const { chemistry, capacityAh, cellsMv, cellMilliohm, amps, watts, topMv, cutOffC, balanceA } = job;
  const ohm = cellMilliohm / 1000;
  const socs = cellsMv.map((mv) => socPercent(chemistry, mv));
  const stepAh = (STEP_PERCENT / 100) * capacityAh;
  let percent = Math.max(...socs);
  let constantCurrent = 0;
  let constantVoltage = 0;
  let steps = 0;
  let last = { current: 0, packV: 0 };
  while (percent < FULLEST_PERCENT) {
    const ocv = chargingMv(chemistry, percent + STEP_PERCENT / 2) / 1000;
    const tapered = (topMv / 1000 - ocv) / ohm;
    const powered =
      watts === null ? Infinity : watts / (cellsMv.length * (ocv + Math.min(amps, tapered) * ohm));
    const current = Math.min(amps, tapered, powered);
    if (current <= cutOffC * capacityAh) break;
    const hours = stepAh / current;
    if (tapered < Math.min(amps, powered)) constantVoltage += hours;
    else constantCurrent += hours;
    last = { current, packV: cellsMv.length * (ocv + current * ohm) };
    onStep(hours, current, last.packV);
    percent += STEP_PERCENT;
    steps += 1;
  }
  const apartNow = Math.max(...socs) - Math.min(...socs);
  const apartPercent = Math.max(
    0,
    Math.hypot(apartNow, mismatch(socs.length)) - tolerated(chemistry, percent),
  );
  const apartAh = (apartPercent / 100) * capacityAh;
  const balance = balanceA === null ? 0 : Math.max(0, apartAh / balanceA - constantVoltage);
  // While it balances, the charger gives back what it bleeds: no more than it gave at the end of the taper.
  if (balance > 0) onStep(balance, Math.min(balanceA!, last.current), last.packV);
  const hours = constantCurrent + constantVoltage + balance;
  return {
    minutes: hours * 60,
    constantCurrentMinutes: constantCurrent * 60,
    constantVoltageMinutes: constantVoltage * 60,
    balanceMinutes: balance * 60,
    chargeAh: steps * stepAh + (balanceA === null ? 0 : apartAh),
  };
}

/** How much charge apart, percent, still looks balanced where the charge ends: next to nothing where the curve is steep. */
function tolerated(chemistry: LithiumChemistry, atPercent: number): number {
  const top = Math.min(FULLEST_PERCENT, atPercent);
  const slopeMv = chargingMv(chemistry, top) - chargingMv(chemistry, top - 1);
  return BALANCED_MV / Math.max(1, slopeMv);
}

/** Cells of one pack differ in what they hold by about this much, percent, which parts them again on the way up. */
const CELL_TOLERANCE_PERCENT = 0.2;

/** The range to be expected among so many cells, percent: for a normal spread it grows with the root of their number's logarithm. */
function mismatch(cells: number): number {
  return cells < 2 ? 0 : CELL_TOLERANCE_PERCENT * (0.3 + 1.35 * Math.sqrt(2 * Math.log(cells)) * 0.72);
}
