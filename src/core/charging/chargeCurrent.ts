/** What may limit a charging current. */
export type CurrentLimit = 'house' | 'label' | 'channel-amps' | 'channel-watts';

export interface CurrentLimits {
  readonly capacityAh: number;
  readonly houseC: number;
  /** The label's highest charge rate; null where it states none, which counts as 1C. */
  readonly labelC: number | null;
  readonly channelA: number | null;
  readonly channelW: number | null;
  /** The pack's volts when the current is highest: at the top of the charge. */
  readonly packV: number;
  /** The charger's step; amps are rounded down to it. */
  readonly stepA: number;
}

export interface DecidedCurrent {
  readonly amps: number;
  readonly decidedBy: CurrentLimit;
}

/**
 * The charging current, and the limit that decided it: the least of house rate, label rate, the channel's amps, and its
 * watts at the pack's volts. Rounded down to the charger's step, so that no limit is ever passed.
 * @example chargeCurrent({ capacityAh: 3.3, houseC: 1, labelC: 2, channelA: 5, channelW: 50, packV: 16.8, stepA: 0.1 }) // => { amps: 2.9, decidedBy: 'channel-watts' }
 */
export function chargeCurrent(limits: CurrentLimits): DecidedCurrent {
  const { capacityAh, houseC, labelC, channelA, channelW, packV, stepA } = limits;
  const candidates: readonly DecidedCurrent[] = [
    { amps: houseC * capacityAh, decidedBy: 'house' },
    { amps: (labelC ?? 1) * capacityAh, decidedBy: 'label' },
    { amps: channelA ?? Infinity, decidedBy: 'channel-amps' },
    { amps: channelW === null ? Infinity : channelW / packV, decidedBy: 'channel-watts' },
  ];
  const least = candidates.reduce((a, b) => (b.amps < a.amps ? b : a));
  return { ...least, amps: roundedDown(least.amps, stepA) };
}

/**
 * A figure on the step at or under it; floating point must not lose a step that fits exactly.
 * @example roundedDown(3.3, 0.1) // => 3.3
 * @example roundedDown(2.97, 0.1) // => 2.9
 */
export function roundedDown(value: number, step: number): number {
  const steps = Math.floor(value / step + 1e-9);
  return Number((steps * step).toFixed(6));
}
