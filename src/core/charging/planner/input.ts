import type { Chemistry } from '../../chemistry';
import type {
  AttendanceId,
  EquipmentId,
  FlyingDayId,
  Instant,
  JobId,
  PackId,
  PackTypeId,
  PersonId,
} from '../../measure';
import type { HouseRules } from '../../rules';
import type { Equipment } from '../equipment';
import type { ChargerSetting } from '../setting';

export const BARS = ['out-of-use', 'away', 'look-first', 'measure-first', 'chosen'] as const;
/** Why nothing is planned for a pack: out of use, in somebody's hands, not looked at since its use, not measured, or left out by somebody. */
export type Bar = (typeof BARS)[number];

/** What a pack is to be given. */
export type Need =
  /** Full by its flight. */
  | { readonly do: 'fill'; readonly flightAt: Instant; readonly dayId: FlyingDayId }
  /** Into its storage band, if it can be by the hour it is due. */
  | { readonly do: 'store'; readonly dueAt: Instant | null; readonly underFloor: boolean }
  /** Emptied, rested and filled again: a balance pass failed, or its capacity is to be measured. */
  | { readonly do: 'cycle' };

/** A pack as the planner sees it: what it holds, what it may be given, from when. */
export interface PlanPack {
  readonly id: PackId;
  readonly tag: string;
  readonly typeId: PackTypeId;
  readonly chemistry: Chemistry;
  readonly series: number;
  /** By the label, and as last measured; ampere-hours. */
  readonly labelAh: number;
  readonly capacityAh: number;
  /** The label's highest charge rate; null where it states none, which counts as 1C. */
  readonly chargeC: number | null;
  readonly connector: string | null;
  /** What each cell holds as rested millivolts, read or carried; null where nobody knows. */
  readonly cellsMv: readonly number[] | null;
  readonly cellMilliohm: number;
  /** Cooled by then. */
  readonly freeFrom: Instant;
  /** Charged at the rate of a first charge after a long rest, at most. */
  readonly gently: boolean;
  readonly balanceDue: boolean;
  readonly bar: Bar | null;
  readonly need: Need;
}

/** Who watches the bench from when to when. */
export interface Attended {
  readonly id: AttendanceId;
  readonly personId: PersonId;
  readonly from: Instant;
  readonly to: Instant;
}

/** Where a job stands and when: enough to put it there again. */
export interface Berth {
  readonly id: JobId;
  readonly do: JobKind;
  readonly packIds: readonly PackId[];
  readonly equipmentId: EquipmentId;
  /** Null for an external load. */
  readonly channel: string | null;
  readonly boardId: EquipmentId | null;
  readonly amps: number;
  readonly start: Instant;
}

/** A job that is under way: nothing may move it. */
export interface RunningJob extends Berth {
  /** The most watts it draws at its output. */
  readonly peakW: number;
  readonly end: Instant;
}

export const JOB_KINDS = ['charge', 'raise', 'lower', 'discharge'] as const;
/** Full, up to storage, down to storage, or down to empty for a cycle. */
export type JobKind = (typeof JOB_KINDS)[number];

/** What a channel was last set to; null where nobody knows. */
export interface LastSetting {
  readonly equipmentId: EquipmentId;
  readonly channel: string;
  readonly setting: ChargerSetting;
}

/** All a plan is made from. */
export interface PlanInput {
  /** The first minute anything may begin. */
  readonly from: Instant;
  readonly equipment: readonly Equipment[];
  readonly attended: readonly Attended[];
  readonly packs: readonly PlanPack[];
  readonly running: readonly RunningJob[];
  /** Jobs somebody has put where they are. */
  readonly locked: readonly Berth[];
  readonly lastSettings: readonly LastSetting[];
  readonly rules: HouseRules;
}
