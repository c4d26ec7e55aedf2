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
 * charge ÷ amps. Nothing to do answers 0 minutes.
 */
export function dischargeTime(job: DischargeJob): DischargeEstimate {
  const { chemistry, capacityAh, series, fromPercent, toPercent, amps, watts } = job;
  const down = Math.max(0, fromPercent - toPercent);
  const steps = Math.max(1, Math.ceil(down / STEP_PERCENT));
  const stepPercent = down / steps;
  let hours = 0;
  let heldByWatts = 0;
  for (let i = 0; i < steps; i++) {
    const packV = (series * restMv(chemistry, fromPercent - (i + 0.5) * stepPercent)) / 1000;
    const byWatts = watts === null ? Infinity : watts / packV;
    const spent = ((stepPercent / 100) * capacityAh) / Math.min(amps, byWatts);
    hours += spent;
    if (byWatts < amps) heldByWatts += spent;
  }
  return {
    minutes: hours * 60,
    chargeAh: (down / 100) * capacityAh,
    decidedBy: heldByWatts > hours / 2 ? 'watts' : 'amps',
  };
}
