import { useState } from 'react';
import { v7 as newId } from 'uuid';
import type { IncidentAnswer, PackRow } from '../../contract';
import type { RecordId } from '../../core/measure';
import { INCIDENT_WORDS, plural } from '../../core/wording';
import { currentTime } from '../app/clock';
import { say } from '../app/notices';
import { handIn } from '../app/outbox';
import { usePerson } from '../domain/Person';
import { Button } from '../kit/Button';
import { siblingsOf } from './siblingsOf';

/** Packs of the same type and delivery, raised for inspection with one press. */
export function Siblings({
  incident,
  packs,
  rows,
}: {
  incident: IncidentAnswer;
  packs: readonly PackRow[];
  rows: readonly PackRow[];
}) {
  const person = usePerson();
  const [state, setState] = useState<'idle' | 'busy' | 'done'>('idle');
  const [refused, setRefused] = useState<readonly string[]>([]);
  const siblings = siblingsOf(packs, rows);
  if (siblings.length === 0) return null;
  const tags = packs.map(({ tag }) => tag).join(', ');
  const raise = async () => {
    setState('busy');
    const reasons: string[] = [];
    const reason = `Sibling of ${tags} (${INCIDENT_WORDS[incident.report.kind].name.toLowerCase()}).`;
    for (const { id: packId, tag } of siblings) {
      const payload = { reason, incidentId: incident.id };
      const draft = {
        id: newId() as RecordId,
        at: currentTime(),
        kind: 'inspection-asked',
        payload,
      } as const;
      const drafts = [{ ...draft, supersedes: null }];
      const handed = await handIn({ id: newId(), packId, by: person.id, drafts, round: null });
      if (handed.outcome === 'refused') reasons.push(`${tag}: ${handed.error.says}`);
    }
    setState('done');
    setRefused(reasons);
    say(`${plural(siblings.length - reasons.length, 'pack')} to be inspected before the next use.`);
  };
  return (
    <section aria-label="Siblings" className="flex flex-wrap items-center gap-x-4 gap-y-2">
      <span className="min-w-0 flex-1 basis-60">
        <b>{plural(siblings.length, 'sibling')}</b>{' '}
        <span className="text-faint">of the same type and delivery: </span>
        <span className="font-mono text-sm">{siblings.map(({ tag }) => tag).join(' ')}</span>
      </span>
      <Button onClick={() => void raise()} disabled={state !== 'idle'}>
        {state === 'done' ? 'Raised' : 'Inspect them before use'}
      </Button>
      {refused.map((words) => (
        <p key={words} role="alert" className="basis-full font-bold text-red">
          {words}
        </p>
      ))}
    </section>
  );
}
