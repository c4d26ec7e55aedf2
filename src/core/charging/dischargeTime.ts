import { restMv } from '../chemistry';
import type { LithiumChemistry } from '../chemistry';

export interface DischargeJob {
  readonly chemistry: LithiumChemistry;
  readonly capacityAh: number;
  readonly series: number;
  readonly fromPercent: number;
  readonly toPercent: number;
  /** The current set; the load's watts hold it down while the pack's volts are high. */
  readonly amps: number;
  readonly watts: number | null;
  /** Milliohm of a cell, where what the display sees under load decides the end; left out, the rested volts do. */
  readonly cellMilliohm?: number;
  /** A storage program turns its current down at the end, to this share of the capacity; a load just stops. Left out, it stops. */
  readonly taperToC?: number;
}

export interface DischargeEstimate {
  readonly minutes: number;
  readonly chargeAh: number;
  /** What held the current down for most of the time. */
  readonly decidedBy: 'amps' | 'watts';
}

const STEP_PERCENT = 0.1;

/**
 * How long a discharge takes: I = min(set amps, watts ÷ pack volts) along the falling curve. Without a watt limit this is
 * charge ÷ amps. With a cell's resistance it ends as a display ends it: once the cells show the target under load, or, where the current
 * is turned down from there on, when next to none is left. Nothing to do answers 0 minutes.
 */
export function dischargeTime(job: DischargeJob): DischargeEstimate {
  const { chemistry, capacityAh, series, fromPercent, toPercent, amps, watts, taperToC = Infinity } = job;
  const ohm = (job.cellMilliohm ?? 0) / 1000;
  const targetV = restMv(chemistry, toPercent) / 1000;
  const down = Math.max(0, fromPercent - toPercent);
  const steps = Math.max(1, Math.ceil(down / STEP_PERCENT));
  const stepPercent = down / steps;
  let hours = 0;
  let heldByWatts = 0;
  let chargeAh = 0;
  for (let i = 0; i < steps; i++) {
    const cellV = restMv(chemistry, fromPercent - (i + 0.5) * stepPercent) / 1000;
    const byWatts = watts === null ? Infinity : watts / (series * cellV);
    const set = Math.min(amps, byWatts);
    const atEnd = ohm > 0 && cellV - set * ohm <= targetV;
    const current = atEnd ? (cellV - targetV) / ohm : set;
    if (atEnd && current <= taperToC * capacityAh) break;
    const spent = ((stepPercent / 100) * capacityAh) / current;
    hours += spent;
    chargeAh += (stepPercent / 100) * capacityAh;
    if (!atEnd && byWatts < amps) heldByWatts += spent;
  }
  return {
    minutes: hours * 60,
    chargeAh,
    decidedBy: heldByWatts > hours / 2 ? 'watts' : 'amps',
  };
}
