import type { Chemistry } from '../chemistry';
import type { AnsweredItem, Occasion, Swelling } from '../inspection';
import type { Cause, IncidentKind } from '../incident';
import type { DisposalPayload } from '../lifecycle';
import type {
  CraftId,
  CurveId,
  DeviceId,
  DeviceReadingId,
  EquipmentId,
  FlyingDayId,
  IncidentId,
  Instant,
  JobId,
  PackId,
  PersonId,
  PlaceId,
  RecordId,
} from '../measure';
import type { Felt, ReadingCondition } from '../reading';

/** The volts of one reading: cell by cell, or the pack's total where the pack has no cell taps. Millivolts. */
export type ReadVolts =
  | { readonly of: 'cells'; readonly cellsMv: readonly number[] }
  | { readonly of: 'pack'; readonly packMv: number };

export interface ReceivedPayload {
  /** Where it came from, in the words of whoever received it. */
  readonly source: string | null;
  readonly placeId: PlaceId | null;
  /** What it had behind it when it came, where it was in use before this register knew it; absent for a new pack. */
  readonly before?: LifeBefore | null | undefined;
}

/** A pack's work before its first record, by whatever book was kept then; null where nobody counted. */
export interface LifeBefore {
  readonly cycles: number | null;
  readonly flights: number | null;
}

export interface ReadingPayload {
  readonly volts: ReadVolts;
  readonly condition: ReadingCondition;
  /** The meter's name as it was called then; its error stays with the reading even if the meter is sold. */
  readonly instrument: string | null;
  readonly meterErrorMv: number;
  readonly temperatureC: number | null;
  readonly remarks: string | null;
  /** The device that measured it, where no hand typed the volts; whoever wrote the record accepted them. */
  readonly measured?: MeasuredBy | null | undefined;
}

/** What a device said while one pack was on it. */
export interface MeasuredBy {
  readonly deviceId: DeviceId;
  readonly readingId: DeviceReadingId;
}

/** Internal resistance cell by cell, as the instrument showed it at this temperature. */
export interface ResistancePayload {
  readonly irMilliohm: readonly number[];
  readonly temperatureC: number;
  readonly instrument: string | null;
  readonly remarks: string | null;
}

export const CHARGE_MODES = ['balance', 'fast', 'storage', 'discharge'] as const;
/** What the charger was asked to do: charge and balance, charge only, bring to storage, or take out and measure. */
export type ChargeMode = (typeof CHARGE_MODES)[number];

export const CHARGE_ENDINGS = ['complete', 'taper', 'quick', 'stopped', 'timed-out', 'error'] as const;
/**
 * How a charge ended: full (and balanced where asked), stopped on the taper on purpose, taken off after the quick phase,
 * stopped by hand, timed out, or with an error.
 */
export type ChargeEnding = (typeof CHARGE_ENDINGS)[number];

/** What the charger was set to; null where nobody noted it. */
export interface ChargerSettings {
  readonly chemistry: Chemistry | null;
  readonly cells: number | null;
  readonly topMv: number | null;
  readonly currentA: number | null;
}

/** One job on a charger. Dated at its end; it began `minutes` before. */
export interface ChargePayload {
  readonly mode: ChargeMode;
  readonly charger: string | null;
  readonly settings: ChargerSettings;
  /** Rested volts before, and volts shown when it ended; cell by cell. */
  readonly startCellsMv: readonly number[] | null;
  readonly endCellsMv: readonly number[] | null;
  /** Charge moved, in for a charge and out for a discharge; always positive. */
  readonly movedMah: number | null;
  readonly minutes: number | null;
  /** The hottest the pack got. */
  readonly temperatureC: number | null;
  /** How it felt to a hand at the end; absent in records from before it was asked. */
  readonly felt?: Felt | null | undefined;
  /** Whether it ended with the cells balanced; null where it was not looked at. */
  readonly balanced: boolean | null;
  readonly ending: ChargeEnding;
  readonly remarks: string | null;
  /** The registered charger it was done on, and the job; absent where the charger is free text alone. */
  readonly bench?: ChargedOn | null | undefined;
  /** How it went, as the charger told it. */
  readonly curveId?: CurveId | null | undefined;
}

/** Where on the bench a charge was done. `charger` holds the same in words, for whoever reads the record without the register. */
export interface ChargedOn {
  readonly equipmentId: EquipmentId;
  readonly channel: string | null;
  /** Null where the charge was written down by hand and no job of the bench stands behind it. */
  readonly jobId: JobId | null;
  /**
   * This pack's share of a charge, by estimate: of a board's, or what a field pack gave to another or took back. It measures nobody's
   * capacity. Null where the pack was alone.
   */
  readonly shareMah: number | null;
}

/** Volts on landing are never rested: under load, or settling just after. */
export interface LandingVolts {
  readonly volts: ReadVolts;
  readonly condition: 'settling' | 'loaded';
}

/** One flight or other use. Dated at its end. */
export interface FlightPayload {
  /** Null when whoever wrote it flew it. */
  readonly pilotId: PersonId | null;
  /** Who flew it by a name that is nobody's in the register, in what came from an older book; `pilotId` is null then. */
  readonly flownBy?: string | null | undefined;
  /** In words, for whoever reads the record without the register, and for what the register does not know. */
  readonly craft: string | null;
  /** The registered craft, and which of its set-ups it had then: a change of propellers or weight begins another baseline. */
  readonly craftId?: CraftId | null | undefined;
  readonly craftSetup?: number | null | undefined;
  readonly minutes: number | null;
  readonly landing: LandingVolts | null;
  readonly usedMah: number | null;
  readonly hottestC: number | null;
  /** How it felt to a hand after landing; absent in records from before it was asked. */
  readonly felt?: Felt | null | undefined;
  readonly ambientC: number | null;
  readonly remarks: string | null;
}

/** A look over the pack by one of the house's checklists, every item answered. */
export interface InspectionPayload {
  readonly occasion: Occasion;
  readonly items: readonly AnsweredItem[];
  readonly swelling: Swelling | null;
  /** Across the flat faces; the first measured is the baseline. */
  readonly thicknessMm: number | null;
  readonly massG: number | null;
  /** How warm it felt; absent in records from before it was asked. */
  readonly felt?: Felt | null | undefined;
  readonly remarks: string | null;
}

/** Where the pack lies and who has it; null for neither. */
export interface MovedPayload {
  readonly placeId: PlaceId | null;
  /** The slot of that place, counted from 1. */
  readonly slot?: number | null | undefined;
  readonly holderId: PersonId | null;
}

/** What a smart pack's own memory said; null where it could not be read, which is never "no faults". */
export interface OwnCounters {
  readonly cycles: number | null;
  readonly faults: number | null;
}

/** How a smart pack stores itself, as its memory says; null for what the reader does not show. */
export interface OwnStorage {
  readonly isOn: boolean;
  /** Hours without use before it begins. */
  readonly afterHours: number | null;
  /** Where it stops, millivolts a cell. */
  readonly mv: number | null;
}

/** What a smart pack's memory holds; null for what the reader does not show, which is unknown and never "none". */
export interface OwnMemory {
  /** The pack's own number, by which a memory is told from another pack's. */
  readonly number: string | null;
  readonly storage: OwnStorage | null;
  /** Where a charge by its own settings stops, millivolts a cell. */
  readonly topMv: number | null;
  readonly chargeA: number | null;
  readonly cycles: number | null;
  readonly overCharges: number | null;
  readonly overDischarges: number | null;
  readonly overTemperatures: number | null;
  readonly firmware: string | null;
  /** The day that version was made, as it is shown. */
  readonly firmwareDate: string | null;
}

export const MEMORY_WORK = ['read', 'written', 'updated'] as const;
/** What was done with a memory: read, set anew, or given another version of its program. */
export type MemoryWork = (typeof MEMORY_WORK)[number];

/** Work on a smart pack's memory. What was written counts as set only once it has been read back. */
export interface MemoryPayload {
  readonly did: MemoryWork;
  /** What was read, or what was written; null where it could not be read, through the balance lead alone, say. */
  readonly memory: OwnMemory | null;
  /** The adapter of the bench through which it was read; null for the pack's own lead. */
  readonly adapterId: EquipmentId | null;
  readonly remarks: string | null;
  readonly measured?: MeasuredBy | null | undefined;
}

/** Somebody took the pack to fly it. Later custody begins here, whoever was thought to have it. */
export interface TakenOutPayload {
  /** Null where the writer took it. */
  readonly holderId: PersonId | null;
  /** Whom they took it from, as they knew it; null from where it lay. Somebody else who has it by then is told. */
  readonly fromId: PersonId | null;
  readonly craftId: CraftId | null;
  readonly dayId: FlyingDayId | null;
  readonly dueBackAt: Instant | null;
  /** It was not charged, and whoever took it meant a short flight. */
  readonly shortFlight: boolean;
  readonly counters: OwnCounters | null;
  readonly remarks: string | null;
}

/** The pack came back. Its flights are records of their own. */
export interface ReturnedPayload {
  readonly placeId: PlaceId | null;
  readonly slot?: number | null | undefined;
  /** False where it was taken along and not used. */
  readonly used: boolean;
  /** Whether it was off the craft; null where nobody said. */
  readonly unplugged: boolean | null;
  readonly counters: OwnCounters | null;
  readonly remarks: string | null;
}

export interface NotePayload {
  readonly text: string;
}

/** The pack was in an incident; what happened and what follows is the incident's own log. */
export interface IncidentPayload {
  readonly incidentId: IncidentId;
  readonly kind: IncidentKind;
  readonly holds: boolean;
}

/** The quarantine was ended before its time, on somebody's word. */
export interface WatchEndedPayload {
  readonly incidentId: IncidentId;
  readonly reason: string;
}

/** The pack is to be looked over before it is used again: a sibling failed, say. */
export interface InspectionAskedPayload {
  readonly reason: string;
  readonly incidentId: IncidentId | null;
}

/** One finding a decision answers, and what it rested on then. New evidence is not answered by it. */
export interface AnsweredFinding {
  readonly rule: string;
  readonly records: readonly RecordId[];
  /** The cell it was about, and how far that had gone; absent where it was about no cell, and in older decisions. */
  readonly cell?: number | null | undefined;
  readonly value?: number | null | undefined;
}

/** How long a released pack stays on caution: until a day, for good, or not at all. */
export type WatchAfter = { readonly until: Instant } | 'for-good' | 'none';

/** What a person decided about a pack, on what they saw: the number of the latest record then. */
export interface DecisionPayload {
  readonly basedOnSeq: number;
  readonly reason: string;
  readonly what:
    | { readonly to: 'hold' }
    | {
        readonly to: 'release';
        readonly answers: readonly AnsweredFinding[];
        readonly watch: WatchAfter;
      }
    | {
        readonly to: 'retire';
        /** The rules whose findings speak for it. */
        readonly because: readonly string[];
        /** Whether the rules ask for a second name. */
        readonly secondWanted: boolean;
      };
}

/** The second name under a retirement. */
export interface ConfirmationPayload {
  readonly basedOnSeq: number;
  readonly decisionId: RecordId;
  readonly reason: string | null;
}

export const RECOVERY_ENDINGS = ['reached', 'warm', 'time', 'given-up'] as const;
/** How a supervised recovery ended: the cells came up, it got warm, its time was over, or it was given up. */
export type RecoveryEnding = (typeof RECOVERY_ENDINGS)[number];

/** A step of bringing an over-discharged pack up again: low current, its own chemistry, never left. */
export type RecoveryPayload =
  | {
      readonly step: 'begun';
      readonly basedOnSeq: number;
      readonly cause: Cause;
      readonly causeText: string;
      readonly charger: string;
      readonly currentA: number;
      readonly attendant: string;
    }
  | { readonly step: 'looked'; readonly feels: 'cool' | 'warm'; readonly cellsMv: readonly number[] | null }
  | {
      readonly step: 'ended';
      readonly how: RecoveryEnding;
      readonly cellsMv: readonly number[] | null;
      readonly remarks: string | null;
    };

/** What stands as it was written: decisions and steps are answered by later ones, not corrected. */
export type Uncorrectable =
  | { readonly kind: 'incident'; readonly payload: IncidentPayload }
  | { readonly kind: 'watch-ended'; readonly payload: WatchEndedPayload }
  | { readonly kind: 'inspection-asked'; readonly payload: InspectionAskedPayload }
  | { readonly kind: 'decision'; readonly payload: DecisionPayload }
  | { readonly kind: 'confirmation'; readonly payload: ConfirmationPayload }
  | { readonly kind: 'recovery'; readonly payload: RecoveryPayload }
  | { readonly kind: 'disposal'; readonly payload: DisposalPayload };

/** What can be put right later. A correction itself is not: another correction of the same record replaces it. */
export type Correctable =
  | { readonly kind: 'received'; readonly payload: ReceivedPayload }
  | { readonly kind: 'reading'; readonly payload: ReadingPayload }
  | { readonly kind: 'resistance'; readonly payload: ResistancePayload }
  | { readonly kind: 'charge'; readonly payload: ChargePayload }
  | { readonly kind: 'flight'; readonly payload: FlightPayload }
  | { readonly kind: 'inspection'; readonly payload: InspectionPayload }
  | { readonly kind: 'moved'; readonly payload: MovedPayload }
  | { readonly kind: 'taken-out'; readonly payload: TakenOutPayload }
  | { readonly kind: 'returned'; readonly payload: ReturnedPayload }
  | { readonly kind: 'memory'; readonly payload: MemoryPayload }
  | { readonly kind: 'note'; readonly payload: NotePayload };

export interface CorrectionPayload {
  readonly reason: string;
  /** What the record should have said; null withdraws it. */
  readonly replacement: Correctable | null;
}

/** What may happen to a pack. Adding a kind here stops compilation wherever it must be thought about. */
export type RecordBody =
  | ((Correctable | Uncorrectable) & { readonly supersedes: null })
  | { readonly kind: 'correction'; readonly payload: CorrectionPayload; readonly supersedes: RecordId };

export type RecordKind = RecordBody['kind'];

/** What a person sends: the id is made where the record is written, so that sending it twice is harmless. */
export type RecordDraft = RecordBody & { readonly id: RecordId; readonly at: Instant };

/** One line of the ledger. Written once, never changed. */
export type PackRecord = RecordDraft & {
  readonly packId: PackId;
  /** 1, 2, 3 … in the order of arrival at the ledger. */
  readonly seq: number;
  readonly recordedAt: Instant;
  readonly by: PersonId;
  /** The version of the house rules in force when it was written. */
  readonly rulesVersion: number;
};
