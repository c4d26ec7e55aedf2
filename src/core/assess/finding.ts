import type { Chemistry } from '../chemistry';
import type { AnsweredItem, Meaning, Occasion, Swelling } from '../inspection';
import type { IncidentKind } from '../incident';
import type { IncidentId, Instant, PersonId, RecordId } from '../measure';
import type { DutyClass } from '../pack';
import type { Felt, ReadingCondition } from '../reading';
import type { ChargeMode, RecoveryEnding, WatchAfter } from '../record';
import type { HouseRules, Lines } from '../rules';
import type { ContentsBasis, RunningClock, StorageJob } from '../storage';

/** One setting of a smart pack's memory that is not as the rules want. */
export type WrongSetting =
  | { readonly is: 'off' }
  | { readonly is: 'late'; readonly afterHours: number; readonly allowanceHours: number }
  | { readonly is: 'storage-volts'; readonly mv: number; readonly lowMv: number; readonly highMv: number }
  | { readonly is: 'rate'; readonly amps: number; readonly limitA: number }
  | { readonly is: 'top'; readonly mv: number; readonly limitMv: number };

export const SEVERITIES = ['note', 'watch', 'hold', 'retire'] as const;
/** How grave a finding is. A `note` asks for hands but says nothing against the pack. */
export type Severity = (typeof SEVERITIES)[number];

/** What a rule found: the values its sentence needs, and the records it rests on. The wording is made elsewhere. */
export type Finding = {
  readonly severity: Severity;
  readonly records: readonly RecordId[];
  /** The decision that took its weight: a person looked at this and let the pack go on. */
  readonly answered?: AnsweredBy;
} & FindingBody;

/** Who let a pack go on in spite of a finding, and how long it stays on caution for it. */
export interface AnsweredBy {
  readonly at: Instant;
  readonly by: PersonId;
  readonly watch: WatchAfter;
}

export type FindingBody =
  /** `since` is when it was used or what was known lapsed, null when it was never read; `lastReadAt` is the reading that lapsed. */
  | {
      readonly rule: 'unmeasured';
      readonly why: 'never' | 'used' | 'lapsed';
      readonly since: Instant | null;
      readonly lastReadAt: Instant | null;
      readonly restedFrom: Instant | null;
    }
  /** Nothing was measured for so long that nobody knows how the pack is. */
  | { readonly rule: 'not-known'; readonly since: Instant; readonly afterDays: number }
  | { readonly rule: 'self-storing'; readonly since: Instant; readonly bledAt: Instant }
  /** A smart pack is not set as the rules want. */
  | { readonly rule: 'smart-settings'; readonly wrong: readonly WrongSetting[] }
  /** What was written into a smart pack's memory, or an update of its program, has not been read back. */
  | { readonly rule: 'memory-unread'; readonly did: 'written' | 'updated'; readonly at: Instant }
  /** A fault counter of the pack's own rose; `holderId` had it all that time, null where it lay or several had it. */
  | {
      readonly rule: 'own-faults';
      readonly faults: number;
      readonly fromAt: Instant;
      readonly toAt: Instant;
      readonly holderId: PersonId | null;
    }
  /** Charged faster than at home: to be flown or drained the same day. */
  | { readonly rule: 'field-charged'; readonly at: Instant; readonly rateC: number; readonly dueAt: Instant }
  | {
      readonly rule: 'balance-due';
      readonly charges: number;
      readonly every: number;
      readonly lastAt: Instant | null;
    }
  /** What the latest charge that broke a house rule did, and how often charges of this pack do. */
  | {
      readonly rule: 'charge-habits';
      readonly at: Instant;
      readonly by: PersonId;
      readonly breaches: readonly ChargeBreach[];
      readonly times: number;
      readonly ofCharges: number;
      readonly timesBySame: number;
    }
  | {
      readonly rule: 'deep-use';
      readonly at: Instant;
      /** Null where it was somebody the register does not know. */
      readonly pilot: PersonId | null;
      readonly craft: string | null;
      readonly percent: number;
      readonly limitPercent: number;
      readonly times: number;
      readonly ofFlights: number;
      readonly timesBySame: number;
    }
  | {
      readonly rule: 'two-hands';
      readonly first: PersonId;
      readonly firstAt: Instant;
      readonly second: PersonId;
      readonly secondAt: Instant;
    }
  | { readonly rule: 'cold-use'; readonly at: Instant; readonly celsius: number; readonly limitC: number }
  /** Warm so soon after a use that it may just be cooling: to be felt again. */
  | {
      readonly rule: 'cooling';
      readonly usedAt: Instant;
      readonly feltAt: Instant;
      readonly againFrom: Instant;
    }
  | {
      readonly rule: 'shelf-loss';
      readonly cell: number | null;
      readonly percentAWeek: number;
      readonly limitPercent: number;
      readonly fromAt: Instant;
      readonly toAt: Instant;
    }
  /** A change of pace in its wear; `since` is about when it began, `values` how many measurements tell so. */
  | {
      readonly rule: 'wears-faster';
      readonly measure: 'capacity' | 'resistance';
      readonly how: 'knee' | 'step';
      readonly since: Instant;
      readonly values: number;
      /** The newest of them. */
      readonly lastAt: Instant;
    }
  | {
      readonly rule: 'storage-pending';
      readonly by: 'job' | 'own-bleed';
      readonly since: Instant;
      readonly restedFrom: Instant;
    }
  /** What ended a storage clock was written down when the clock had run out. */
  | {
      readonly rule: 'written-late';
      readonly at: Instant;
      readonly recordedAt: Instant;
      readonly dueAt: Instant;
    }
  | {
      readonly rule: 'not-rested';
      readonly condition: Exclude<ReadingCondition, 'rested'>;
      readonly at: Instant;
      readonly restedFrom: Instant;
    }
  | { readonly rule: 'damage-floor'; readonly low: LowCell; readonly limitMv: number }
  /** `school` is what the house does with it; `recovery` names why a supervised recovery is not for this one. */
  | {
      readonly rule: 'over-discharged';
      readonly low: LowCell;
      readonly school: HouseRules['overDischarged'];
      readonly recoveryFromMv: number | null;
    }
  | {
      readonly rule: 'over-discharge-event';
      readonly low: LowCell;
      readonly limitMv: number;
      readonly readSince: LowCell | null;
    }
  | {
      readonly rule: 'recharge-soon';
      readonly low: LowCell;
      /** Where the figure comes from: a reading, a reading before a use since, or what a charge left. */
      readonly basis: ContentsBasis;
      readonly limitMv: number;
      readonly job: StorageJob | null;
    }
  | {
      readonly rule: 'overfull';
      readonly cell: number;
      readonly mv: number;
      readonly at: Instant;
      /** Read by a meter, or shown by the charger when a charge ended. */
      readonly when: 'read' | 'charge-end';
      readonly fullMv: number;
      readonly holdFromMv: number;
    }
  | {
      readonly rule: 'storage-high';
      readonly mv: number;
      /** How the volts are known: read, or carried from what a charge left. */
      readonly basis: ContentsBasis;
      readonly bandHighMv: number;
      readonly bandLowMv: number;
      readonly clock: RunningClock;
      readonly job: StorageJob | null;
    }
  | {
      readonly rule: 'storage-low';
      readonly mv: number;
      /** How the volts are known: read, or carried from what a charge left. */
      readonly basis: ContentsBasis;
      readonly bandHighMv: number;
      readonly bandLowMv: number;
      readonly clock: RunningClock;
      readonly job: StorageJob | null;
    }
  | {
      readonly rule: 'spread';
      readonly mv: number;
      readonly lowestCell: number;
      readonly socPercent: number;
      readonly limits: HouseRules['spread'];
      /** The cells had just been balanced: what is left then, balancing will not close. */
      readonly balancedAt: Instant | null;
    }
  | {
      readonly rule: 'weak-cell';
      readonly cell: number;
      readonly belowMv: number;
      readonly at: Instant;
      readonly lines: Lines;
    }
  | {
      readonly rule: 'cell-drift';
      readonly cell: number;
      readonly percent: number;
      readonly limitPercent: number;
    }
  | {
      readonly rule: 'weakest-again';
      readonly cell: number;
      readonly times: number;
      readonly ofCharges: number;
      readonly timesAgain: number;
      readonly limits: HouseRules['health']['recurrence'];
    }
  | ({
      readonly rule: 'resistance-growth' | 'resistance-siblings';
      readonly lines: Lines;
      /** So many of the latest three readings say so. */
      readonly agreeing: number;
    } & CellOhms)
  | ({ readonly rule: 'resistance-jump'; readonly limitPercent: number } & CellOhms)
  /** `agreeing` of the latest three measurements say so. */
  | {
      readonly rule: 'capacity';
      readonly percent: number;
      readonly lines: Lines;
      readonly agreeing: number;
    }
  /** `stepAt` is the flight from which on it flew shorter all at once, as it would after a change to the craft. */
  | {
      readonly rule: 'run-time';
      readonly percent: number;
      readonly craft: string;
      readonly lines: Lines;
      readonly stepAt: Instant | null;
    }
  | {
      readonly rule: 'long-full';
      /** Days full at 25 °C within the last year. */
      readonly days: number;
      readonly limitDays: number;
      readonly longestFrom: Instant;
      readonly longestTo: Instant;
    }
  | { readonly rule: 'cycles'; readonly count: number; readonly guessed: number; readonly limit: number }
  | {
      readonly rule: 'age';
      readonly years: number;
      readonly limit: number;
      readonly dutyClass: DutyClass;
    }
  | {
      readonly rule: 'hot-use';
      /** Null where only a hand felt it, too hot to touch. */
      readonly celsius: number | null;
      readonly at: Instant;
      readonly times: number;
      readonly ofFlights: number;
      readonly limits: HouseRules['heat'];
    }
  | {
      readonly rule: 'hot-charge';
      /** Measured, or as a hand felt it; one of the two is there. */
      readonly celsius: number | null;
      readonly felt: Felt | null;
      readonly at: Instant;
      readonly limits: HouseRules['heat'];
    }
  | {
      readonly rule: 'wrong-setting';
      readonly at: Instant;
      readonly mode: ChargeMode;
      readonly slips: readonly SettingSlip[];
    }
  | {
      readonly rule: 'charge-failed';
      readonly at: Instant;
      readonly how: 'timed-out' | 'stopped' | 'error' | 'unbalanced' | 'ends-apart';
      /** The cell that lay lowest at its end, and by how much; null where its end volts were not noted. */
      readonly cell: number | null;
      readonly apartMv: number | null;
      readonly passes: number;
      readonly limit: number;
    }
  | {
      readonly rule: 'charge-implausible';
      readonly at: Instant;
      readonly oddity: 'too-fast' | 'too-long' | 'too-much';
      /** Minutes, or mAh for `too-much`. */
      readonly value: number;
      /** Minutes that were to be expected, or the mAh there was room for. */
      readonly expected: number;
      /** Read since, but its capacity not seen yet. */
      readonly readSince: boolean;
    }
  | {
      readonly rule: 'landed-low';
      readonly mv: number;
      readonly at: Instant;
      readonly limitMv: number;
      readonly times: number;
      readonly ofFlights: number;
    }
  | {
      readonly rule: 'unlogged';
      readonly direction: 'charge' | 'use';
      readonly fromAt: Instant;
      readonly toAt: Instant;
      readonly fromMv: number;
      readonly toMv: number;
    }
  | {
      readonly rule: 'swollen';
      readonly at: Instant;
      readonly swelling: Swelling | null;
      readonly thicknessMm: number | null;
      /** The first thickness measured, and how much more it is now, percent; null where there is none to compare. */
      readonly baselineMm: number | null;
      readonly percent: number | null;
      readonly limits: HouseRules['swelling'];
    }
  | {
      readonly rule: 'incident';
      readonly incidentId: IncidentId;
      readonly kind: IncidentKind;
      readonly at: Instant;
      /** Until when nobody goes near it; null for a kind that is not watched. */
      readonly watchUntil: Instant | null;
      readonly endedEarly: boolean;
      /** What an inspection after a crash found out of shape. */
      readonly deformed: readonly string[];
      readonly afterCrash: HouseRules['afterCrash'];
    }
  | { readonly rule: 'held-by-hand'; readonly at: Instant; readonly reason: string }
  | { readonly rule: 'inspection-asked'; readonly at: Instant; readonly reason: string }
  | {
      readonly rule: 'recovery';
      readonly at: Instant;
      readonly how: RecoveryEnding | 'running';
      /** When it must have ended. */
      readonly endsAt: Instant;
    }
  | { readonly rule: 'second-name'; readonly at: Instant; readonly by: PersonId }
  | { readonly rule: 'inspection-failed'; readonly failures: readonly FailedItem[] }
  | {
      readonly rule: 'not-as-delivered';
      readonly at: Instant;
      readonly lowestMv: number;
      readonly highestMv: number;
      readonly spreadMv: number;
      readonly outsideBy: number;
      readonly limits: { readonly arrivalMv: number; readonly toleranceMv: number };
    }
  | { readonly rule: 'long-rest'; readonly since: Instant; readonly days: number }
  | {
      readonly rule: 'baseline-missing';
      readonly resistances: number;
      readonly missing: readonly ('resistance' | 'thickness' | 'mass')[];
      readonly dueAt: Instant;
    }
  | {
      readonly rule: 'inspection-due';
      /** Null when it was never inspected. */
      readonly lastAt: Instant | null;
      readonly everyDays: number;
      readonly dueAt: Instant;
    }
  | { readonly rule: 'nimh-top-up'; readonly lastAt: Instant; readonly everyDays: number }
  | {
      readonly rule: 'idle';
      readonly lastReadAt: Instant;
      readonly everyDays: number;
      readonly doing: HouseRules['idle']['doing'];
    };

/** One rule of the house a charge did not keep. */
export type ChargeBreach =
  | {
      readonly of: 'label-rate' | 'field-rate' | 'after-rest';
      readonly rateC: number;
      readonly limitC: number;
    }
  /** The label states no rate, so 1C is the most. */
  | { readonly of: 'unrated'; readonly rateC: number; readonly limitC: 1 }
  | { readonly of: 'house-top'; readonly topMv: number; readonly limitMv: number }
  | { readonly of: 'cold'; readonly celsius: number; readonly limitC: number }
  | { readonly of: 'warm-landing'; readonly minutes: number; readonly limitMinutes: number }
  | { readonly of: 'felt-lukewarm' };

/** An item that failed, and on which occasion. */
export interface FailedItem {
  readonly key: string;
  readonly occasion: Occasion;
  readonly at: Instant;
  readonly asks: AnsweredItem['asks'];
  readonly note: string | null;
  readonly means: Meaning;
}

/** One cell's resistance at 25 °C and what it is held against, milliohm; and the one over the other. */
export interface CellOhms {
  readonly cell: number;
  readonly factor: number;
  readonly milliohm: number;
  readonly against: number;
}

/** One thing a charger was set to that is not what the pack needs. */
export type SettingSlip =
  | { readonly of: 'chemistry'; readonly set: Chemistry; readonly wanted: Chemistry }
  | { readonly of: 'cells'; readonly set: number; readonly wanted: number }
  | { readonly of: 'top'; readonly set: number; readonly wanted: number }
  | { readonly of: 'current'; readonly set: number; readonly wanted: number };

export type RuleId = FindingBody['rule'];

/** A cell that read low, or the average of a pack whose cells cannot be read one by one (cell null). */
export interface LowCell {
  readonly cell: number | null;
  readonly mv: number;
  readonly at: Instant;
}

/** The way of a retired pack to the recycler, in the order it goes. */
export const END_STEPS = [
  'mark-red',
  'drain',
  'pack-apart',
  'verify-empty',
  'verify-again',
  'insulate',
  'bin',
  'consign',
  'hand-over',
] as const;

/** What a hand should do, in the order of what cannot wait. */
export const STEP_KINDS = [
  'keep-off',
  'inspect-held',
  'read-held',
  'attend-recovery',
  'set-apart',
  'decide',
  'second-name',
  ...END_STEPS,
  'store-up-now',
  'top-up',
  'feel-again',
  'fly-or-drain',
  'measure',
  'measure-rested',
  'store-down',
  'store-up',
  'send-back',
  'mend',
  'inspect-season',
  'complete-baseline',
  'inspect',
  'cycle',
  're-read',
  'set-smart',
  'read-memory',
  'balance',
  'measure-resistance',
  'measure-again',
  'check-charger',
  'review',
] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** One thing to do for a pack; `dueAt` null means at the next charge rather than by a clock. */
export interface NextStep {
  readonly do: StepKind;
  readonly dueAt: Instant | null;
  /** Null for a step on the way to the recycler, which no finding asks for. */
  readonly because: RuleId | null;
}
