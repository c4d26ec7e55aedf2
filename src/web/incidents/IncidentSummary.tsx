import type { IncidentAnswer } from '../../contract';
import { CAUSES } from '../../core/incident';
import type { Cause, EntryBody } from '../../core/incident';
import { CAUSE_WORDS } from '../../core/wording';
import { useDraftForm } from '../app/useDraftForm';
import { useMay } from '../domain/Person';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { SelectOption } from '../kit/Select';
import { problemAt } from './problems';
import { useAddEntry } from './useAddEntry';
import { FormSelect } from '../kit/formFields';

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
  const form = useDraftForm<{ cause: Cause; text: string }>(`incident.cause.${incident.id}`, {
    cause: incident.cause?.cause ?? 'unknown',
    text: '',
  });
  const save = form.handleSubmit(async ({ cause, text }) => {
    if (await add({ kind: 'cause', payload: { cause, text: text.trim() || null } }, 'Cause saved.'))
      form.taken();
  });
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
        <FormSelect label="Cause" control={form.control} name="cause" refused={problemAt(problems, 'cause')}>
          {CAUSES.map((cause) => (
            <SelectOption key={cause} value={cause}>
              {CAUSE_WORDS[cause]}
            </SelectOption>
          ))}
        </FormSelect>
        <Button type="submit" disabled={busy}>
          Save it
        </Button>
      </div>
      <TextField label="How it is known" error={problemAt(problems, 'text')} {...form.register('text')} />
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
  const form = useDraftForm(`incident.${name}.${incident.id}`, { text: '' });
  const save = form.handleSubmit(async ({ text }) => {
    if (await add(body(text), 'Saved.')) form.taken();
  });
  return (
    <form
      onSubmit={(event) => void save(event)}
      noValidate
      className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2"
    >
      <TextField label={label} error={problems[0]?.message} {...form.register('text')} />
      <Button type="submit" disabled={busy} aria-label={`${button}: ${label.toLowerCase()}`}>
        {button}
      </Button>
    </form>
  );
}
