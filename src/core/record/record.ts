import type { Chemistry } from '../chemistry';
import type { AnsweredItem, Occasion, Swelling } from '../inspection';
import type { Instant, PackId, PersonId, PlaceId, RecordId } from '../measure';
import type { ReadingCondition } from '../reading';

/** The volts of one reading: cell by cell, or the pack's total where the pack has no cell taps. Millivolts. */
export type ReadVolts =
  | { readonly of: 'cells'; readonly cellsMv: readonly number[] }
  | { readonly of: 'pack'; readonly packMv: number };

export interface ReceivedPayload {
  /** Where it came from, in the words of whoever received it. */
  readonly source: string | null;
  readonly placeId: PlaceId | null;
}

export interface ReadingPayload {
  readonly volts: ReadVolts;
  readonly condition: ReadingCondition;
  /** The meter's name as it was called then; its error stays with the reading even if the meter is sold. */
  readonly instrument: string | null;
  readonly meterErrorMv: number;
  readonly temperatureC: number | null;
  readonly remarks: string | null;
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

export const CHARGE_ENDINGS = ['complete', 'timed-out', 'stopped', 'error'] as const;
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
  /** Whether it ended with the cells balanced; null where it was not looked at. */
  readonly balanced: boolean | null;
  readonly ending: ChargeEnding;
  readonly remarks: string | null;
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
  readonly craft: string | null;
  readonly minutes: number | null;
  readonly landing: LandingVolts | null;
  readonly usedMah: number | null;
  readonly hottestC: number | null;
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
  readonly remarks: string | null;
}

/** Where the pack lies and who has it; null for neither. */
export interface MovedPayload {
  readonly placeId: PlaceId | null;
  /** The slot of that place, counted from 1. */
  readonly slot?: number | null | undefined;
  readonly holderId: PersonId | null;
}

export interface NotePayload {
  readonly text: string;
}

/** What can be put right later. A correction itself is not: another correction of the same record replaces it. */
export type Correctable =
  | { readonly kind: 'received'; readonly payload: ReceivedPayload }
  | { readonly kind: 'reading'; readonly payload: ReadingPayload }
  | { readonly kind: 'resistance'; readonly payload: ResistancePayload }
  | { readonly kind: 'charge'; readonly payload: ChargePayload }
  | { readonly kind: 'flight'; readonly payload: FlightPayload }
  | { readonly kind: 'inspection'; readonly payload: InspectionPayload }
  | { readonly kind: 'moved'; readonly payload: MovedPayload }
  | { readonly kind: 'note'; readonly payload: NotePayload };

export interface CorrectionPayload {
  readonly reason: string;
  /** What the record should have said; null withdraws it. */
  readonly replacement: Correctable | null;
}

/** What may happen to a pack. Adding a kind here stops compilation wherever it must be thought about. */
export type RecordBody =
  | (Correctable & { readonly supersedes: null })
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
