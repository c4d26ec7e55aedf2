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

/** Where the pack lies and who has it; null for neither. */
export interface MovedPayload {
  readonly placeId: PlaceId | null;
  readonly holderId: PersonId | null;
}

export interface NotePayload {
  readonly text: string;
}

/** What can be put right later. A correction itself is not: another correction of the same record replaces it. */
export type Correctable =
  | { readonly kind: 'received'; readonly payload: ReceivedPayload }
  | { readonly kind: 'reading'; readonly payload: ReadingPayload }
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
