import type { Chemistry, LithiumChemistry } from '../chemistry';

export const PRESETS = ['long-service', 'even-keel', 'ready-state'] as const;
export type PresetName = (typeof PRESETS)[number];

/** How a chemistry is stored, millivolts per cell. Both ends of the band belong to it. */
export interface StorageRule {
  readonly targetMv: number;
  readonly bandLowMv: number;
  readonly bandHighMv: number;
}

/** Rested volts per cell under which something must happen, millivolts. The limit itself is not below it. */
export interface FloorRule {
  readonly rechargeSoonMv: number;
  /** Null for a chemistry whose practice names no such line. */
  readonly overDischargeMv: number | null;
  readonly damageMv: number;
}

/** Every threshold Malle judges by. A register changes these; nothing else in the program holds a limit. */
export interface HouseRules {
  readonly preset: PresetName;
  readonly storage: Readonly<Record<LithiumChemistry, StorageRule>>;
  readonly allowance: {
    readonly highHours: number;
    readonly lowHours: number;
    readonly fieldHighHours: number;
  };
  readonly floors: Readonly<Record<Chemistry, FloorRule>>;
  /** The voltage a charge stops at, per cell; NiMH stops on a peak and has none. */
  readonly topMv: Readonly<Record<LithiumChemistry, number>>;
  /** How far above full a rested cell may read before the pack is held as wrongly charged, millivolts. */
  readonly overfullHoldMv: number;
  readonly spread: {
    readonly toleranceMv: number;
    readonly watchMv: number;
    readonly retireMv: number;
    /** The same spread told in charge; counts only where the meter can tell it from its own error. */
    readonly watchSocPercent: number;
  };
  readonly charge: { readonly homeC: number; readonly fieldC: number; readonly balanceEvery: number };
  readonly flight: { readonly landAtMv: Readonly<Record<Chemistry, number>>; readonly maxDodPercent: number };
  readonly afterCrash: 'retire' | 'hold, inspect, watch';
  readonly overDischarged: 'retire' | 'supervised recovery';
  readonly idle: { readonly everyDays: number; readonly doing: 'cycle' | 'read' };
  readonly retirementNames: 1 | 2;
  readonly inspectionDays: number;
  /** Off load and charge this long, a reading counts as rested. */
  readonly restMinutes: number;
}
