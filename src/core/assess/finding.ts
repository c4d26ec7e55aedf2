import type { Instant, RecordId } from '../measure';
import type { ReadingCondition } from '../reading';
import type { HouseRules } from '../rules';
import type { RunningClock, StorageJob } from '../storage';

export const SEVERITIES = ['note', 'watch', 'hold', 'retire'] as const;
/** How grave a finding is. A `note` asks for hands but says nothing against the pack. */
export type Severity = (typeof SEVERITIES)[number];

/** What a rule found: the values its sentence needs, and the records it rests on. The wording is made elsewhere. */
export type Finding = {
  readonly severity: Severity;
  readonly records: readonly RecordId[];
} & FindingBody;

export type FindingBody =
  | { readonly rule: 'unmeasured' }
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
    }
  | {
      readonly rule: 'idle';
      readonly lastReadAt: Instant;
      readonly everyDays: number;
      readonly doing: HouseRules['idle']['doing'];
    };

export type RuleId = FindingBody['rule'];

/** A cell that read low, or the average of a pack whose cells cannot be read one by one (cell null). */
export interface LowCell {
  readonly cell: number | null;
  readonly mv: number;
  readonly at: Instant;
}

/** What a hand should do, in the order of what cannot wait. */
export const STEP_KINDS = [
  'set-apart',
  'store-up-now',
  'top-up',
  'measure',
  'measure-rested',
  'store-down',
  'store-up',
  'cycle',
  're-read',
  'balance',
] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** One thing to do for a pack; `dueAt` null means at the next charge rather than by a clock. */
export interface NextStep {
  readonly do: StepKind;
  readonly dueAt: Instant | null;
  readonly because: RuleId;
}
