import { v7 as newId } from 'uuid';
import type { Instant, PackId, PersonId, RecordId } from '../../../core/measure';
import { BLANK_RETURNED, BLANK_TAKEN_OUT } from '../../../core/record';
import type {
  FlightPayload,
  RecordBody,
  RecordDraft,
  ReturnedPayload,
  TakenOutPayload,
} from '../../../core/record';
import { handIn } from '../../app/outbox';

/** Hands records of one pack in together; null when they are kept, or safely wait on this device, else why they are not taken. */
export async function handInTogether(
  packId: PackId,
  by: PersonId,
  bodies: readonly RecordBody[],
  at: Instant,
): Promise<string | null> {
  // Ids rise in the order they are made, so records of one instant keep their order.
  const drafts = bodies.map((body): RecordDraft => ({ ...body, id: newId() as RecordId, at }));
  const handed = await handIn({ id: newId(), packId, by, drafts, round: null });
  if (handed.outcome !== 'refused') return null;
  const { fields, says } = handed.error;
  return fields.map(({ message }) => message).join(' ') || says;
}

export function takenOut(more: Partial<TakenOutPayload>): RecordBody {
  return { kind: 'taken-out', payload: { ...BLANK_TAKEN_OUT, ...more }, supersedes: null };
}

export function returned(more: Partial<ReturnedPayload>): RecordBody {
  return { kind: 'returned', payload: { ...BLANK_RETURNED, ...more }, supersedes: null };
}

export function flown(payload: FlightPayload): RecordBody {
  return { kind: 'flight', payload, supersedes: null };
}
