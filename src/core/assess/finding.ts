import type { Chemistry } from '../chemistry';
import type { AnsweredItem, Meaning, Occasion, Swelling } from '../inspection';
import type { IncidentKind } from '../incident';
import type { IncidentId, Instant, PersonId, RecordId } from '../measure';
import type { DutyClass } from '../pack';
import type { ReadingCondition } from '../reading';
import type { RecoveryEnding, WatchAfter } from '../record';
import type { HouseRules, Lines } from '../rules';
import type { RunningClock, StorageJob } from '../storage';

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

/** Who let a pack go on in spite of a finding, and how long it stays on watch for it. */
export interface AnsweredBy {
  readonly at: Instant;
  readonly by: PersonId;
  readonly watch: WatchAfter;
}

export type FindingBody =
  /** `usedAt` is null when the pack was never read. */
  | { readonly rule: 'unmeasured'; readonly usedAt: Instant | null; readonly restedFrom: Instant | null }
  | {
      readonly rule: 'storage-pending';
      readonly by: 'job' | 'own-bleed';
      readonly since: Instant;
      readonly restedFrom: Instant;
    }
  | {
      readonly rule: 'not-rested';
      readonly condition: Exclude<ReadingCondition, 'rested'>;
      readonly at: Instant;
      readonly restedFrom: Instant;
    }
  | { readonly rule: 'damage-floor'; readonly low: LowCell; readonly limitMv: number }
  | { readonly rule: 'over-discharged'; readonly low: LowCell; readonly school: HouseRules['overDischarged'] }
  | {
      readonly rule: 'over-discharge-event';
      readonly low: LowCell;
      readonly limitMv: number;
      readonly readSince: LowCell | null;
    }
  | {
      readonly rule: 'recharge-soon';
      readonly low: LowCell;
      readonly limitMv: number;
      readonly job: StorageJob | null;
    }
  | {
      readonly rule: 'overfull';
      readonly cell: number;
      readonly mv: number;
      readonly at: Instant;
      readonly fullMv: number;
      readonly holdFromMv: number;
    }
  | {
      readonly rule: 'storage-high';
      readonly mv: number;
      readonly bandHighMv: number;
      readonly bandLowMv: number;
      readonly clock: RunningClock;
      readonly job: StorageJob | null;
    }
  | {
      readonly rule: 'storage-low';
      readonly mv: number;
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
    } & CellOhms)
  | ({ readonly rule: 'resistance-jump'; readonly limitPercent: number } & CellOhms)
  | { readonly rule: 'capacity'; readonly percent: number; readonly lines: Lines }
  | { readonly rule: 'run-time'; readonly percent: number; readonly craft: string; readonly lines: Lines }
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
      readonly celsius: number;
      readonly at: Instant;
      readonly times: number;
      readonly ofFlights: number;
      readonly limits: HouseRules['heat'];
    }
  | {
      readonly rule: 'hot-charge';
      readonly celsius: number;
      readonly at: Instant;
      readonly limits: HouseRules['heat'];
    }
  | {
      readonly rule: 'wrong-setting';
      readonly at: Instant;
      readonly slips: readonly SettingSlip[];
    }
  | {
      readonly rule: 'charge-failed';
      readonly at: Instant;
      readonly how: 'timed-out' | 'stopped' | 'error' | 'unbalanced';
      readonly passes: number;
      readonly limit: number;
    }
  | {
      readonly rule: 'charge-implausible';
      readonly at: Instant;
      readonly oddity: 'too-fast' | 'too-long' | 'too-much';
      /** Minutes, or mAh for `too-much`. */
      readonly value: number;
      readonly expected: number;
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
  'balance',
  'measure-resistance',
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
