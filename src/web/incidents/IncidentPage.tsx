import { useState } from 'react';
import type { FormEvent } from 'react';
import { Link, useParams } from 'react-router';
import type { IncidentAnswer, PackRow } from '../../contract';
import { CAUSES } from '../../core/incident';
import type { Cause, EntryBody, OpenTask } from '../../core/incident';
import { DAY_MS } from '../../core/measure';
import type { IncidentId, PackId, PersonId, PhotoId, TaskId } from '../../core/measure';
import { CAUSE_WORDS, dueWords, INCIDENT_WORDS, whenWords } from '../../core/wording';
import { v7 as newId } from 'uuid';
import { currentTime, useReader } from '../app/clock';
import { readDraft, saveDraft, useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { PhotoStrip } from '../app/inspection/PhotoStrip';
import { WatchTimer } from '../app/lifecycle/WatchTimer';
import { PackPicker } from '../app/PackPicker';
import { useMay, usePerson } from '../app/Person';
import { useIncident, usePackRows, useRegister } from '../app/queries';
import { useNames } from '../app/useNames';
import { figureTyped } from '../app/useServerForm';
import { Button, ButtonLink } from '../kit/Button';
import { SelectField, TextArea, TextField } from '../kit/fields';
import { Loading } from '../kit/Message';
import { VerdictMark } from '../kit/VerdictMark';
import { EntryLine } from './EntryLine';
import { problemAt } from './problems';
import { Siblings } from './Siblings';
import { useAddEntry } from './useAddEntry';

/** One incident: the packs it holds, what is known, what follows, and its log. */
export default function IncidentPage() {
  const id = useParams().id as IncidentId;
  const incident = useIncident(id);
  if (incident.isLoadingError)
    return <Failure error={incident.error} retry={() => void incident.refetch()} />;
  if (incident.isPending) return <Loading what="the incident" />;
  return <Loaded key={id} incident={incident.data} />;
}

function Loaded({ incident }: { incident: IncidentAnswer }) {
  const reader = useReader();
  const names = useNames();
  const mayFollow = useMay('incident.follow');
  const mayReport = useMay('incident.report');
  const rows = usePackRows().data ?? [];
  const { report, at, by, closed, entries } = incident;
  const packs = incident.packIds.flatMap((id) => rows.find((row) => row.id === id) ?? []);
  const open = closed === null;
  const others = report.personIds.filter((id) => id !== by);
  return (
    <>
      <title>{`${INCIDENT_WORDS[report.kind].name} · Malle`}</title>
      <p className="text-sm">
        <Link to="/incidents" className="inline-block min-h-6 text-accent underline">
          Incidents
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <h1>
          {INCIDENT_WORDS[report.kind].name}{' '}
          <span className={`font-normal ${open ? 'text-red' : 'text-faint'}`}>
            {open ? 'open' : 'closed'}
          </span>
        </h1>
        <ButtonLink to={`/incidents/new/${report.kind}`} weight="quiet">
          Its card
        </ButtonLink>
      </div>
      <p>
        {whenWords(at, reader)}
        {report.place && `, ${report.place}`}. Reported by {names.person(by)}.
        {report.craft && ` Craft: ${report.craft}.`}
        {report.charger && ` Charger: ${report.charger}.`}
        {others.length > 0 && ` Also there: ${others.map(names.person).join(', ')}.`}
      </p>
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid content-start gap-6">
          <Packs packs={packs} />
          {mayFollow && open && <Siblings incident={incident} packs={packs} rows={rows} />}
          <section aria-label="Log">
            <h2 className="border-b-2 border-ink pb-1">
              Log <span className="font-normal text-faint">{entries.length}</span>
            </h2>
            <ol>
              {entries.map((entry) => (
                <EntryLine key={entry.id} entry={entry} tasks={incident.tasks} />
              ))}
            </ol>
          </section>
          {mayReport && open && <Tell incident={incident} />}
        </div>
        <div className="grid content-start gap-6">
          <Tasks incident={incident} />
          <Known incident={incident} />
          {mayFollow && <Ending incident={incident} />}
        </div>
      </div>
    </>
  );
}

function Packs({ packs }: { packs: readonly PackRow[] }) {
  return (
    <section aria-label="Packs">
      <h2 className="border-b-2 border-ink pb-1">
        Packs <span className="font-normal text-faint">{packs.length}</span>
      </h2>
      {packs.length === 0 && <p className="py-2 text-faint">No pack is named yet.</p>}
      <ul>
        {packs.map(({ id, tag, verdict, watchFrom, watchUntil, outSince }) => (
          <li key={id} className="ruled flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
            <Link
              to={`/packs/${id}`}
              className="inline-flex min-h-11 w-20 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
            >
              {tag}
            </Link>
            <VerdictMark verdict={verdict} />
            <span className="flex-1">
              {watchFrom !== null && watchUntil !== null && (
                <WatchTimer from={watchFrom} until={watchUntil} />
              )}
            </span>
            {outSince !== null && <ButtonLink to={`/packs/${id}/decide`}>Decide</ButtonLink>}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** More of what happened, pictures, further packs. */
function Tell({ incident }: { incident: IncidentAnswer }) {
  const { add, busy, problems } = useAddEntry(incident);
  const key = `incident.tell.${incident.id}`;
  const [draft, setDraft, clear] = useDraft<{ text: string; photoIds: readonly PhotoId[] }>(key, {
    text: '',
    photoIds: [],
  });
  const [packIds, setPackIds] = useState<readonly PackId[]>([]);
  const tell = async (event: FormEvent) => {
    event.preventDefault();
    const payload = { text: draft.text, photoIds: draft.photoIds };
    if (await add({ kind: 'told', payload }, 'Added to the log.')) clear();
  };
  const name = async () => {
    const payload = { packIds, holds: incident.report.holds };
    if (await add({ kind: 'named', payload }, 'Named.')) setPackIds([]);
  };
  return (
    <section aria-label="Add to the log" className="grid gap-3">
      <form onSubmit={(event) => void tell(event)} noValidate className="grid gap-2">
        <TextArea
          label="Tell more"
          value={draft.text}
          onChange={(event) => setDraft({ ...draft, text: event.target.value })}
          error={problemAt(problems, 'text')}
        />
        <div className="flex flex-wrap items-center gap-3">
          <PhotoStrip
            label="the log"
            ids={draft.photoIds}
            onAdd={(id) => {
              const now = readDraft<typeof draft>(key) ?? draft;
              saveDraft(key, { ...now, photoIds: [...now.photoIds, id] });
            }}
          />
          <Button type="submit" disabled={busy}>
            Add it
          </Button>
        </div>
      </form>
      <PackPicker
        label="Another pack"
        ids={packIds}
        onChange={setPackIds}
        error={problemAt(problems, 'packIds')}
      />
      {packIds.length > 0 && (
        <div>
          <Button weight="main" onClick={() => void name()} disabled={busy}>
            {incident.report.holds ? 'Name and hold' : 'Name'}
          </Button>
        </div>
      )}
    </section>
  );
}

function Tasks({ incident }: { incident: IncidentAnswer }) {
  const mayFollow = useMay('incident.follow');
  const { tasks, closed } = incident;
  const { add, busy } = useAddEntry(incident);
  return (
    <section aria-label="Follow-ups">
      <h2 className="border-b-2 border-ink pb-1">
        Follow-ups <span className="font-normal text-faint">{tasks.filter(({ done }) => !done).length}</span>
      </h2>
      {tasks.length === 0 && <p className="py-2 text-faint">Nothing is to be done.</p>}
      <ul>
        {tasks.map((task) => (
          <TaskRow
            key={task.id}
            task={task}
            onDone={
              mayFollow && closed === null && !busy
                ? () => void add({ kind: 'task-done', payload: { taskId: task.id, note: null } }, 'Done.')
                : null
            }
          />
        ))}
      </ul>
      {mayFollow && closed === null && <NewTask incident={incident} />}
    </section>
  );
}

function TaskRow({ task, onDone }: { task: OpenTask; onDone: (() => void) | null }) {
  const reader = useReader();
  const names = useNames();
  const late = !task.done && task.dueAt <= reader.now;
  return (
    <li className="ruled flex items-center gap-3 py-1.5">
      <span className="min-w-0 flex-1">
        <span className={task.done ? 'text-faint line-through' : 'font-bold'}>{task.text}</span>
        <span className="block text-sm text-faint">
          {names.person(task.ownerId)},{' '}
          {task.done ? (
            `done ${whenWords(task.done.at, reader)}`
          ) : (
            <span className={late ? 'font-bold text-red' : ''}>{dueWords(task.dueAt, reader)}</span>
          )}
        </span>
      </span>
      {!task.done && onDone && (
        <Button onClick={onDone} aria-label={`Done: ${task.text}`}>
          Done
        </Button>
      )}
    </li>
  );
}

const LONGEST_DAYS = 365;

function NewTask({ incident }: { incident: IncidentAnswer }) {
  const register = useRegister().data;
  const person = usePerson();
  const { add, busy, problems } = useAddEntry(incident);
  const [draft, setDraft, clear] = useDraft<{ text: string; ownerId: PersonId; days: string }>(
    `incident.task.${incident.id}`,
    {
      text: '',
      ownerId: person.id,
      days: '7',
    },
  );
  const days = figureTyped(draft.days);
  const sound = typeof days === 'number' && days >= 0 && days <= LONGEST_DAYS;
  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (!sound) return;
    const payload = {
      id: newId() as TaskId,
      text: draft.text,
      ownerId: draft.ownerId,
      dueAt: Math.round(currentTime() + days * DAY_MS),
    };
    if (await add({ kind: 'task', payload }, 'Follow-up added.')) clear();
  };
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="mt-3 grid gap-2">
      <TextField
        label="To be done"
        value={draft.text}
        onChange={(event) => setDraft({ ...draft, text: event.target.value })}
        error={problemAt(problems, 'text')}
      />
      <div className="grid grid-cols-[minmax(0,1fr)_6rem_auto] items-end gap-2">
        <SelectField
          label="By"
          value={draft.ownerId}
          onChange={(event) => setDraft({ ...draft, ownerId: event.target.value as PersonId })}
          error={problemAt(problems, 'ownerId')}
        >
          {register?.people.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        <TextField
          label="In days"
          inputMode="numeric"
          value={draft.days}
          onChange={(event) => setDraft({ ...draft, days: event.target.value })}
          error={sound ? undefined : 'Days from now, up to a year.'}
        />
        <Button type="submit" disabled={busy}>
          Add
        </Button>
      </div>
    </form>
  );
}

/** What is known by now: cause, harm, lessons. */
function Known({ incident }: { incident: IncidentAnswer }) {
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
            label="A lesson"
            button="Keep it"
            body={(text) => ({ kind: 'lesson', payload: { text } })}
          />
          <LineForm
            incident={incident}
            name="harm"
            label="Anybody hurt, anything damaged"
            button="Keep it"
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
    if (await add({ kind: 'cause', payload }, 'Cause kept.')) clear();
  };
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="grid gap-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
        <SelectField
          label="Cause"
          value={draft.cause}
          onChange={(event) => setDraft({ ...draft, cause: event.target.value as Cause })}
          error={problemAt(problems, 'cause')}
        >
          {CAUSES.map((cause) => (
            <option key={cause} value={cause}>
              {CAUSE_WORDS[cause]}
            </option>
          ))}
        </SelectField>
        <Button type="submit" disabled={busy}>
          Keep it
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

function LineForm({
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

/** Closing with a note, and opening again with a reason. */
function Ending({ incident }: { incident: IncidentAnswer }) {
  const reader = useReader();
  const names = useNames();
  const { closed } = incident;
  return (
    <section aria-label="Closing" className="grid gap-2">
      <h2 className="border-b-2 border-ink pb-1">Closing</h2>
      {closed ? (
        <>
          <p className="text-sm">
            {closed.note}{' '}
            <span className="text-faint">
              {names.person(closed.by)}, {whenWords(closed.at, reader)}
            </span>
          </p>
          <LineForm
            key="reopen"
            incident={incident}
            name="reopen"
            label="Open it again because"
            button="Open"
            body={(reason) => ({ kind: 'reopened', payload: { reason } })}
          />
        </>
      ) : (
        <LineForm
          key="close"
          incident={incident}
          name="close"
          label="Closing note"
          button="Close it"
          body={(note) => ({ kind: 'closed', payload: { note } })}
        />
      )}
    </section>
  );
}
