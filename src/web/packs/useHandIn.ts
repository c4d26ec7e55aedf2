import { useState } from 'react';
import { v7 as newId } from 'uuid';
import type { FieldProblem, PackDetails } from '../../contract';
import type { Instant, RecordId } from '../../core/measure';
import type { RecordBody } from '../../core/record';
import { currentTime } from '../app/clock';
import { say } from '../app/notices';
import { handIn } from '../app/outbox';
import { usePerson } from '../app/Person';
import { KEYS, queryClient } from '../app/queries';

interface HandIn {
  /** Hands the record in; true when the form may be cleared, because the record is kept or safely waiting. */
  readonly hand: (body: RecordBody, done: string, at?: Instant) => Promise<boolean>;
  readonly busy: boolean;
  /** Why the last one was refused; fields are named within the record. */
  readonly problems: readonly FieldProblem[];
}

/** For the forms that write one record to a pack. */
export function useHandIn(pack: PackDetails): HandIn {
  const person = usePerson();
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<readonly FieldProblem[]>([]);

  const hand = async (body: RecordBody, done: string, at?: Instant): Promise<boolean> => {
    setBusy(true);
    setProblems([]);
    try {
      const draft = { ...body, id: newId() as RecordId, at: at ?? currentTime() };
      const item = { id: draft.id, packId: pack.id, by: person.id, drafts: [draft], round: null };
      const handed = await handIn(item);
      switch (handed.outcome) {
        case 'kept':
          queryClient.setQueryData<PackDetails>(
            KEYS.pack(pack.id),
            (known) => known && withKept(known, handed.answer.records),
          );
          say(done);
          return true;
        case 'waiting':
          say('No connection: kept on this device, and sent when it is back.');
          return true;
        case 'refused':
          setProblems(named(handed.error.fields, handed.error.problem?.detail ?? handed.error.message));
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

function withKept(pack: PackDetails, kept: PackDetails['records']): PackDetails {
  const known = new Set(pack.records.map(({ id }) => id));
  return { ...pack, records: [...pack.records, ...kept.filter(({ id }) => !known.has(id))] };
}

function named(fields: readonly FieldProblem[], otherwise: string): readonly FieldProblem[] {
  if (fields.length === 0) return [{ field: '', message: otherwise }];
  return fields.map(({ field, message }) => ({ field: field.replace(/^records\.\d+\./, ''), message }));
}
