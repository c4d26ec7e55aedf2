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

/** How the house charges, and what it makes of what a charge did. */
export interface ChargeRules {
  /** Charge rates as multiples of capacity: at home, in the field, and the first after a long rest. */
  readonly homeC: number;
  readonly fieldC: number;
  readonly afterRestC: number;
  /** Within so many hours a pack charged faster than at home is flown or put to storage. */
  readonly fieldHours: number;
  readonly balanceEvery: number;
  /** An end cell above full by more than this is watched, millivolts. */
  readonly endOverMv: number;
  /** Charge put in, percent of what there was room for: noted above the first, held above the second. */
  readonly overNotePercent: number;
  readonly overHoldPercent: number;
  /** A nickel charge wastes a part of what it puts in; above so many percent of the label it is a caution. */
  readonly nimhPercent: number;
  /** Of the expected minutes, percent: under the first a charge cannot have filled the pack, over the second something will not close. */
  readonly tooFastPercent: number;
  readonly tooLongPercent: number;
  /** Below this a lithium pack is not charged, °C. */
  readonly coldC: number;
  /** So soon after a warm landing a pack is not charged, minutes. */
  readonly warmLandingMinutes: number;
  /** How often whoever watches a charge is asked whether they are still there, minutes. */
  readonly stillHereMinutes: number;
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
  readonly charge: ChargeRules;
  readonly flight: {
    readonly landAtMv: Readonly<Record<Chemistry, number>>;
    readonly maxDodPercent: number;
    /** From this charge on, percent by its lowest cell, a pack counts as charged for a flight. */
    readonly chargedPercent: number;
    /** Colder than this outside a pack gives less and sags more, °C. */
    readonly coldC: number;
    /** A pack taken out without a word of when it comes back is wanted back after so many hours. */
    readonly outHours: number;
  };
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
    /** Charge lost on the shelf beyond the chemistry's own leak, percent a week, from which a pack is watched. */
    readonly leakPercentAWeek: number;
    /** Not measured for so many days, nobody knows how a pack is. */
    readonly unknownDays: number;
    readonly cycles: Readonly<Record<Chemistry, number>>;
    readonly ageYears: Readonly<Record<DutyClass, number>>;
  };
  /** Degrees Celsius over which a pack is watched or held. */
  readonly heat: {
    readonly useWatchC: number;
    readonly useHoldC: number;
    readonly chargeWatchC: number;
    readonly chargeHoldC: number;
    /** A nickel pack is expected to get warm; over this it is stopped, °C. */
    readonly nimhChargeC: number;
    /** How long a pack may take to cool after a use before its warmth says something, minutes. */
    readonly coolMinutes: number;
  };
  /** How a pack that stores itself does so: days from full to storage once its own delay is over. */
  readonly bleedDays: number;
  /** Two readings this far apart in charge, percent, with nothing logged between, do not fit together. */
  readonly unlogged: { readonly rosePercent: number; readonly fellPercent: number };
  /** For so many days a seller takes a pack back. */
  readonly returnDays: number;
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
  /** Bringing an over-discharged pack up under supervision, where the rules allow that. */
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
    /** Whether a sound pack may leave at storage charge, contacts covered; the recycler must say so too. */
    readonly handOver: 'drained' | 'drained or at storage charge';
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
