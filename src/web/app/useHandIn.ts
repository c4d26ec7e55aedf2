import { useState } from 'react';
import { v7 as newId } from 'uuid';
import type { FieldProblem, PackDetails } from '../../contract';
import type { Instant, RecordId } from '../../core/measure';
import type { RecordBody } from '../../core/record';
import { currentTime } from './clock';
import { KEPT_HERE, say } from './notices';
import { handIn } from './outbox';
import { usePerson } from '../domain/Person';
import { KEYS, queryClient } from './queries';

interface HandIn {
  /** Hands the records in, all or none; true when the form may be cleared, because they are kept or safely waiting. */
  readonly hand: (bodies: RecordBody | readonly RecordBody[], done: string, at?: Instant) => Promise<boolean>;
  readonly busy: boolean;
  /** Why the last one was refused; fields are named within the record. */
  readonly problems: readonly FieldProblem[];
}

/** For the forms that write to one pack. */
export function useHandIn(pack: Pick<PackDetails, 'id'>): HandIn {
  const person = usePerson();
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<readonly FieldProblem[]>([]);

  const hand = async (
    bodies: RecordBody | readonly RecordBody[],
    done: string,
    at?: Instant,
  ): Promise<boolean> => {
    setBusy(true);
    setProblems([]);
    try {
      const when = at ?? currentTime();
      const drafts = [bodies].flat().map((body) => ({ ...body, id: newId() as RecordId, at: when }));
      const item = { id: newId(), packId: pack.id, by: person.id, drafts, round: null };
      const handed = await handIn(item);
      switch (handed.outcome) {
        case 'kept':
          say(done);
          return true;
        case 'waiting':
          say(KEPT_HERE);
          return true;
        case 'refused':
          setProblems(named(handed.error.fields, handed.error.says));
          // Whoever decided on an older page sees what came since, with what they typed still there.
          if (handed.error.code === 'changed-meanwhile')
            void queryClient.invalidateQueries({ queryKey: KEYS.pack(pack.id) });
          return false;
        default:
          return handed satisfies never;
      }
    } finally {
      setBusy(false);
    }
  };
  return { hand, busy, problems };
}

function named(fields: readonly FieldProblem[], otherwise: string): readonly FieldProblem[] {
  if (fields.length === 0) return [{ field: '', message: otherwise }];
  return fields.map(({ field, message }) => ({ field: field.replace(/^records\.\d+\./, ''), message }));
}
