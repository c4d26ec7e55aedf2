import type { Chemistry, LithiumChemistry } from '../chemistry';
import type { Checklists } from '../inspection';
import type { DutyClass } from '../pack';

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

/** From where a measure is watched, and from where the pack should go. */
export interface Lines {
  readonly watch: number;
  readonly retire: number;
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
  /** When what the cells measure speaks against a pack. Source: the practice's health table. */
  readonly health: {
    /** How far one cell may rest below its siblings after a use, millivolts. */
    readonly weakCellMv: Lines;
    /** The same cell out of tolerance this often in so many charges is watched; as often again, it goes. */
    readonly recurrence: { readonly times: number; readonly inCharges: number };
    /** Resistance against the pack's own baseline, and against the siblings' median, as a factor at 25 °C. */
    readonly irGrowth: Lines;
    readonly irSiblings: Lines;
    /** A rise between two readings that asks for a third, percent. */
    readonly irJumpPercent: number;
    /** Measured capacity against the label, percent. */
    readonly capacityPercent: Lines;
    /** Loss of flight time for the same charge against the baseline, percent. */
    readonly runTimeLossPercent: Lines;
    readonly failedBalances: number;
    /** Days full at 25 °C within a year from which a pack is watched. */
    readonly fullDaysAYear: number;
    readonly cycles: Readonly<Record<Chemistry, number>>;
    readonly ageYears: Readonly<Record<DutyClass, number>>;
  };
  /** Degrees Celsius over which a pack is watched or held. */
  readonly heat: {
    readonly useWatchC: number;
    readonly useHoldC: number;
    readonly chargeWatchC: number;
    readonly chargeHoldC: number;
  };
  readonly nimhTopUpDays: number;
  /** How warm the shelf is taken to be where nobody measures it, for the time spent full. */
  readonly shelfC: number;
  readonly afterCrash: 'retire' | 'hold, inspect, watch';
  readonly overDischarged: 'retire' | 'supervised recovery';
  readonly incidents: {
    /** How long a shocked pack is watched from a distance before anybody inspects it, minutes. */
    readonly watchMinutes: number;
    /** How long a pack lies outdoors after an abnormal charge, hours. */
    readonly overnightHours: number;
  };
  /** Bringing an over-discharged pack up under supervision, where the house allows that. */
  readonly recovery: {
    readonly minutes: number;
    readonly currentC: number;
    /** Every cell must have stayed above this, millivolts. */
    readonly floorMv: number;
    readonly restHours: number;
  };
  readonly endOfLife: {
    /** How long after a discharge to nothing the cells are read again, since they rebound. */
    readonly reboundHours: number;
    /** A recycler's word on what it takes is asked for again after so many days. */
    readonly confirmDays: number;
  };
  readonly idle: { readonly everyDays: number; readonly doing: 'cycle' | 'read' };
  readonly retirementNames: 1 | 2;
  readonly inspectionDays: number;
  /** Not charged or used for this long, a pack is looked over as at a season's start before it is used. */
  readonly seasonStartDays: number;
  /** How soon after receipt the first three resistances, thickness and mass should be there. */
  readonly baselineDays: number;
  /** How far outside its storage band a new pack may arrive before it is to go back, millivolts. */
  readonly arrivalMv: number;
  /** Thicker than the baseline by this much, percent. */
  readonly swelling: { readonly watchPercent: number; readonly holdPercent: number };
  readonly stowage: {
    /** From here a place is too warm for a charged pack, °C. */
    readonly warmC: number;
    /** Whether packs of different chemistries may lie in one container. */
    readonly mixing: 'allowed' | 'kept apart';
  };
  /** What is looked at on each occasion, in the order hands move. */
  readonly checklists: Checklists;
  /** Off load and charge this long, a reading counts as rested. */
  readonly restMinutes: number;
}
