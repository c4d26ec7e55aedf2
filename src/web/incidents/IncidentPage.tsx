import { useState } from 'react';
import type { FormEvent } from 'react';
import { Link, useParams } from 'react-router';
import type { IncidentAnswer, PackRow } from '../../contract';
import type { IncidentId, PackId, PhotoId } from '../../core/measure';
import { INCIDENT_WORDS, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { readDraft, saveDraft, useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { PhotoStrip } from '../domain/inspection/PhotoStrip';
import { WatchTimer } from '../domain/lifecycle/WatchTimer';
import { PackPicker } from '../domain/PackPicker';
import { useMay } from '../domain/Person';
import { useIncident } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { useNames } from '../domain/useNames';
import { Button, ButtonLink } from '../kit/Button';
import { TextArea } from '../kit/fields';
import { Loading } from '../kit/Message';
import { VerdictMark } from '../kit/VerdictMark';
import { EntryLine } from './EntryLine';
import { problemAt } from './problems';
import { Siblings } from './Siblings';
import { useAddEntry } from './useAddEntry';
import { IncidentTasks } from './IncidentTasks';
import { IncidentSummary, LineForm } from './IncidentSummary';

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
        <span className="flex flex-wrap gap-x-4">
          <a
            href={`/api/incidents/${incident.id}/report.pdf?zone=${encodeURIComponent(reader.zone)}`}
            target="_blank"
            rel="noreferrer"
            className="inline-flex min-h-11 items-center text-accent underline md:min-h-8"
          >
            On paper
          </a>
          <ButtonLink to={`/incidents/new/${report.kind}`} weight="quiet">
            Its first-aid card
          </ButtonLink>
        </span>
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
          <IncidentTasks incident={incident} />
          <IncidentSummary incident={incident} />
          {mayFollow && <Ending incident={incident} />}
        </div>
      </div>
    </>
  );
}

function Packs({ packs }: { packs: readonly PackRow[] }) {
  const mayDecide = useMay('record.decision');
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
            {outSince !== null && (
              <ButtonLink to={`/packs/${id}/decide`}>{mayDecide ? 'Decide' : 'For and against'}</ButtonLink>
            )}
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
