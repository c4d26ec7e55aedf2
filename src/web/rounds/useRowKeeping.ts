import { v7 as newId } from 'uuid';
import type { RoundDetails } from '../../contract';
import type { PackId } from '../../core/measure';
import type { RowOutcome } from '../../core/rounds';
import { currentTime } from '../app/clock';
import { handIn } from '../app/outbox';
import { usePerson } from '../domain/Person';
import { rowRecords } from './rowDraft';
import type { RowBody } from './rowDraft';

/** Why a row was not taken, field by field, in words. */
export type KeepRow = (
  packId: PackId,
  bodies: readonly RowBody[],
  outcome: RowOutcome | null,
  reason: string | null,
) => Promise<string | null>;

/** Hands a row in, and tells what is wrong with it; null when it is kept, or safely waits on this device. */
export function useRowKeeping(round: RoundDetails): KeepRow {
  const person = usePerson();
  return async (packId, bodies, outcome, reason) => {
    const at = currentTime();
    const item = {
      id: newId(),
      packId,
      by: person.id,
      drafts: rowRecords(bodies, at, newId),
      round: { roundId: round.id, outcome, reason, at },
    };
    const handed = await handIn(item);
    switch (handed.outcome) {
      case 'kept':
      case 'waiting':
        return null;
      case 'refused': {
        const { fields, says } = handed.error;
        return fields.map(({ message }) => message).join(' ') || says;
      }
      default:
        return handed satisfies never;
    }
  };
}
