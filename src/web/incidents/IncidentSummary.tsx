import type { FormEvent } from 'react';
import type { IncidentAnswer } from '../../contract';
import { CAUSES } from '../../core/incident';
import type { Cause, EntryBody } from '../../core/incident';
import { CAUSE_WORDS } from '../../core/wording';
import { useDraft } from '../app/drafts';
import { useMay } from '../domain/Person';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { problemAt } from './problems';
import { useAddEntry } from './useAddEntry';

/** What is known by now: cause, harm, lessons. */
export function IncidentSummary({ incident }: { incident: IncidentAnswer }) {
  const mayFollow = useMay('incident.follow');
  const { cause, harm, lessons, closed } = incident;
  return (
    <section aria-label="What is known" className="grid gap-3">
      <h2 className="border-b-2 border-ink pb-1">What is known</h2>
      <dl className="grid gap-1 text-sm">
        <Fact name="Cause">
          {cause ? [CAUSE_WORDS[cause.cause], cause.text].filter(Boolean).join(': ') : null}
        </Fact>
        <Fact name="Hurt or damaged">{harm}</Fact>
        <Fact name="Learnt">{lessons.join(' ') || null}</Fact>
      </dl>
      {mayFollow && closed === null && (
        <>
          <CauseForm incident={incident} />
          <LineForm
            incident={incident}
            name="lesson"
            label="Lesson learned"
            button="Save it"
            body={(text) => ({ kind: 'lesson', payload: { text } })}
          />
          <LineForm
            incident={incident}
            name="harm"
            label="Injuries and damage"
            button="Save it"
            body={(text) => ({ kind: 'harm', payload: { text } })}
          />
        </>
      )}
    </section>
  );
}

function Fact({ name, children }: { name: string; children: string | null }) {
  return (
    <div className="flex gap-2">
      <dt className="w-32 shrink-0 text-faint">{name}</dt>
      <dd className={children ? '' : 'text-faint'}>{children ?? 'not said yet'}</dd>
    </div>
  );
}

function CauseForm({ incident }: { incident: IncidentAnswer }) {
  const { add, busy, problems } = useAddEntry(incident);
  const [draft, setDraft, clear] = useDraft(`incident.cause.${incident.id}`, {
    cause: incident.cause?.cause ?? 'unknown',
    text: '',
  });
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const payload = { cause: draft.cause, text: draft.text.trim() || null };
    if (await add({ kind: 'cause', payload }, 'Cause saved.')) clear();
  };
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
        <SelectField
          label="Cause"
          value={draft.cause}
          onChange={(value) => setDraft({ ...draft, cause: value as Cause })}
          error={problemAt(problems, 'cause')}
        >
          {CAUSES.map((cause) => (
            <SelectOption key={cause} value={cause}>
              {CAUSE_WORDS[cause]}
            </SelectOption>
          ))}
        </SelectField>
        <Button type="submit" disabled={busy}>
          Save it
        </Button>
      </div>
      <TextField
        label="How it is known"
        value={draft.text}
        onChange={(event) => setDraft({ ...draft, text: event.target.value })}
        error={problemAt(problems, 'text')}
      />
    </form>
  );
}

export function LineForm({
  incident,
  name,
  label,
  button,
  body,
}: {
  incident: IncidentAnswer;
  name: string;
  label: string;
  button: string;
  body: (text: string) => EntryBody;
}) {
  const { add, busy, problems } = useAddEntry(incident);
  const [text, setText, clear] = useDraft(`incident.${name}.${incident.id}`, '');
  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (await add(body(text), 'Kept.')) clear();
  };
  return (
    <form
      onSubmit={(event) => void save(event)}
      noValidate
      className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2"
    >
      <TextField
        label={label}
        value={text}
        onChange={(event) => setText(event.target.value)}
        error={problems[0]?.message}
      />
      <Button type="submit" disabled={busy} aria-label={`${button}: ${label.toLowerCase()}`}>
        {button}
      </Button>
    </form>
  );
}
