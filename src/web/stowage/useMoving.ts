import { v7 as newId } from 'uuid';
import type { PackId, PlaceId, RecordId } from '../../core/measure';
import type { RecordDraft } from '../../core/record';
import { currentTime } from '../app/clock';
import { KEPT_HERE, say } from '../app/notices';
import { handIn } from '../app/outbox';
import { usePerson } from '../domain/Person';
import { refreshRows } from '../app/queries';

/** Lays a pack somewhere; answers why not, or null. */
export type MovePack = (
  packId: PackId,
  tag: string,
  placeId: PlaceId,
  place: string,
  slot: number | null,
) => Promise<string | null>;

export function useMoving(): MovePack {
  const person = usePerson();
  return async (packId, tag, placeId, place, slot) => {
    const draft: RecordDraft = {
      kind: 'moved',
      id: newId() as RecordId,
      at: currentTime(),
      payload: { placeId, slot, holderId: null },
      supersedes: null,
    };
    const handed = await handIn({ id: draft.id, packId, by: person.id, drafts: [draft], round: null });
    switch (handed.outcome) {
      case 'kept':
        await refreshRows([packId]);
        say(`${tag} lies in ${place}${slot === null ? '' : `, slot ${slot}`}.`);
        return null;
      case 'waiting':
        say(KEPT_HERE);
        return null;
      case 'refused':
        return handed.error.fields.map(({ message }) => message).join(' ') || handed.error.says;
      default:
        return handed satisfies never;
    }
  };
}
