import { useState } from 'react';
import { v7 as newId } from 'uuid';
import type { FieldProblem, IncidentAnswer } from '../../contract';
import type { EntryBody, IncidentKind } from '../../core/incident';
import type { EntryId, IncidentId, Instant, RecordId } from '../../core/measure';
import { currentTime } from '../app/clock';
import { KEPT_HERE, say } from '../app/notices';
import { handIn } from '../app/outbox';
import type { Handed } from '../app/outbox';
import { usePerson } from '../domain/Person';
import { KEYS, queryClient } from '../app/queries';

/** What happened and when, of the incident an entry goes into. */
export interface IncidentFacts {
  readonly id: IncidentId;
  readonly kind: IncidentKind;
  readonly at: Instant;
}

interface IncidentPosting {
  /** Hands an entry in, written at this moment, and says how that went; a refusal is told by `problems`. */
  readonly post: (
    incident: IncidentFacts,
    body: EntryBody,
    at: Instant,
    done: string,
  ) => Promise<Handed['outcome']>;
  readonly busy: boolean;
  readonly problems: readonly FieldProblem[];
}

/** For the forms that write into an incident's log, its report the first of them. */
export function useIncidentPosting(): IncidentPosting {
  const person = usePerson();
  const [busy, setBusy] = useState(false);
  const [problems, setProblems] = useState<readonly FieldProblem[]>([]);
  const post: IncidentPosting['post'] = async (incident, body, at, done) => {
    setBusy(true);
    setProblems([]);
    const packIds = body.kind === 'reported' || body.kind === 'named' ? body.payload.packIds : [];
    const entries = [{ ...body, id: newId() as EntryId, at }];
    const packRecords = packIds.map((packId) => ({ packId, recordId: newId() as RecordId }));
    const item = { id: newId(), packId: null, by: person.id, drafts: [], round: null };
    try {
      const handed = await handIn({ ...item, incident: { ...incident, entries, packRecords } });
      if (handed.outcome === 'refused') {
        const { fields, says } = handed.error;
        setProblems(fields.length > 0 ? fields : [{ field: '', message: says }]);
        return handed.outcome;
      }
      if (handed.outcome === 'kept') await queryClient.invalidateQueries({ queryKey: KEYS.incidents });
      say(handed.outcome === 'kept' ? done : KEPT_HERE);
      return handed.outcome;
    } finally {
      setBusy(false);
    }
  };
  return { post, busy, problems };
}

interface AddEntry extends Omit<IncidentPosting, 'post'> {
  /** Hands an entry in; true when it is kept or safely waiting. */
  readonly add: (body: EntryBody, done: string) => Promise<boolean>;
}

/** For the forms that add to one incident. */
export function useAddEntry({ id, at, report }: IncidentAnswer): AddEntry {
  const { post, ...rest } = useIncidentPosting();
  const add: AddEntry['add'] = async (body, done) =>
    (await post({ id, kind: report.kind, at }, body, currentTime(), done)) !== 'refused';
  return { add, ...rest };
}
