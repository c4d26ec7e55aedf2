import { Link, useSearchParams } from 'react-router';
import type { IncidentRow } from '../../contract';
import { CAUSE_WORDS, INCIDENT_WORDS, plural, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { IncidentTabs } from '../domain/lifecycle/IncidentTabs';
import { discard, sendAgain, useOwnItems } from '../app/outbox';
import { useMay } from '../domain/Person';
import { useIncidents } from '../app/queries';
import { useNames } from '../domain/useNames';
import { Button, ButtonLink } from '../kit/Button';
import { Choice, TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Empty, Loading } from '../kit/Message';

/** What went wrong: the open first, then the latest. */
export default function IncidentsPage() {
  const incidents = useIncidents();
  const mayReport = useMay('incident.report');
  return (
    <>
      <title>Incidents · Malle</title>
      <div className="mb-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <IncidentTabs now="incidents" />
        {mayReport && (
          <ButtonLink to="/incidents/new" weight="main">
            Report an incident
          </ButtonLink>
        )}
      </div>
      <Waiting />
      {incidents.isLoadingError && <Failure error={incidents.error} retry={() => void incidents.refetch()} />}
      {incidents.isPending && <Loading what="the incidents" />}
      {incidents.data?.length === 0 && (
        <Empty title="No incident yet.">
          When something goes wrong, report it here or from the button at the top of every page: the card with
          what to do comes first, typing later.
        </Empty>
      )}
      {incidents.data && incidents.data.length > 0 && <Filtered incidents={incidents.data} />}
    </>
  );
}

type Standing = 'all' | 'open' | 'closed';

/** The incidents that what is typed and chosen leaves; kept in the address, so that a link shows the same. */
function Filtered({ incidents }: { incidents: readonly IncidentRow[] }) {
  const names = useNames();
  const [query, setQuery] = useSearchParams();
  const [text, kind, standing] = [query.get('q') ?? '', query.get('kind') ?? '', query.get('is') ?? 'all'];
  const change = (key: string, value: string) =>
    setQuery(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === '' || value === 'all') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = incidents.filter((incident) => {
    const told = [
      INCIDENT_WORDS[incident.kind].name,
      incident.place,
      incident.what,
      names.person(incident.by),
      incident.cause && CAUSE_WORDS[incident.cause],
      ...incident.packs.map(({ tag }) => tag),
    ]
      .join(' ')
      .toLowerCase();
    const isOpen = incident.closedAt === null;
    return (
      (kind === '' || incident.kind === kind) &&
      (standing === 'all' || isOpen === (standing === 'open')) &&
      words.every((word) => told.includes(word))
    );
  });
  const kinds = [...new Set(incidents.map((incident) => incident.kind))];
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end gap-4 print:hidden">
        <TextField
          className="md:w-64"
          label="Filter"
          type="search"
          value={text}
          onChange={({ target }) => change('q', target.value)}
          placeholder="tag, place, person, words"
        />
        <SelectField label="What happened" value={kind} onChange={(value) => change('kind', value)}>
          <SelectOption value="">anything</SelectOption>
          {kinds.map((one) => (
            <SelectOption key={one} value={one}>
              {INCIDENT_WORDS[one].name}
            </SelectOption>
          ))}
        </SelectField>
        <Choice<Standing>
          label="Which"
          options={[
            { value: 'all', label: 'all' },
            { value: 'open', label: 'open' },
            { value: 'closed', label: 'closed' },
          ]}
          value={standing as Standing}
          onChange={(value) => change('is', value)}
        />
        <p className="pb-1.5 text-faint">
          {shown.length} of {incidents.length}
        </p>
      </div>
      {shown.length === 0 && <p className="py-4 text-faint">No incident matches.</p>}
      <ul className="border-t-2 border-ink">
        {shown.map((incident) => (
          <Row key={incident.id} incident={incident} />
        ))}
      </ul>
    </>
  );
}

function Row({ incident }: { incident: IncidentRow }) {
  const reader = useReader();
  const names = useNames();
  const { id, kind, at, by, place, what, packs, cause, openTasks, closedAt } = incident;
  const open = closedAt === null;
  return (
    <li className="ruled">
      <Link
        to={`/incidents/${id}`}
        className="grid gap-x-5 px-1 py-2 hover:bg-press md:grid-cols-[15rem_minmax(0,1fr)_13rem]"
      >
        <span>
          <b className={open ? '' : 'font-normal'}>{INCIDENT_WORDS[kind].name}</b>
          <span className="block text-sm text-faint">
            {whenWords(at, reader)}
            {place && `, ${place}`}
          </span>
        </span>
        <span className="min-w-0">
          <span className="font-mono font-bold">{packs.map(({ tag }) => tag).join(' ')}</span>{' '}
          <span className="text-sm">{what ?? <span className="text-faint">not told yet</span>}</span>
        </span>
        <span className="text-sm md:text-right">
          <b className={open ? 'text-red' : 'text-faint'}>{open ? 'open' : 'closed'}</b>
          {open && openTasks > 0 && `, ${plural(openTasks, 'follow-up')}`}
          <span className="block text-faint">
            {cause ? CAUSE_WORDS[cause] : 'cause not named'} · {names.person(by)}
          </span>
        </span>
      </Link>
    </li>
  );
}

/** Reports still on this device, and those the register would not take. */
function Waiting() {
  const items = useOwnItems().filter(({ incident }) => incident !== undefined);
  return items.map(({ id, incident, state, problem }) => {
    const { name } = INCIDENT_WORDS[incident!.kind];
    const isReport = incident!.entries.some((entry) => entry.kind === 'reported');
    return (
      <div
        key={id}
        role={state === 'refused' ? 'alert' : 'status'}
        className={`my-2 border-l-4 px-3 py-2 text-sm ${state === 'refused' ? 'border-red bg-wash-red' : 'border-amber bg-wash-amber'}`}
      >
        <b>{isReport ? name : `${name}, an addition`}</b>:{' '}
        {state === 'waiting' ? 'on this device, waiting to be sent.' : 'not taken.'}
        {state === 'refused' && (
          <>
            <p>{problem?.errors?.map(({ message }) => message).join(' ') ?? problem?.title}</p>
            <Button weight="quiet" onClick={() => sendAgain(id)}>
              Send it again
            </Button>
            <Button weight="quiet" onClick={() => discard(id)}>
              I have noted it, discard
            </Button>
          </>
        )}
      </div>
    );
  });
}
