import { useEffect, useEffectEvent } from 'react';
import type { FormEvent } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { v7 as newId } from 'uuid';
import { INCIDENT_FACTS, INCIDENT_KINDS } from '../../core/incident';
import type { IncidentKind } from '../../core/incident';
import { MINUTE_MS } from '../../core/measure';
import type { IncidentId, PackId, PersonId, PhotoId } from '../../core/measure';
import { DEFERS, INCIDENT_WORDS } from '../../core/wording';
import { currentTime } from '../app/clock';
import { readDraft, saveDraft, useDraft } from '../app/drafts';
import { PhotoStrip } from '../domain/inspection/PhotoStrip';
import { PackPicker } from '../domain/PackPicker';
import { useMay, usePerson } from '../domain/Person';
import { useRegister } from '../app/queries';
import { figureTyped } from '../app/useServerForm';
import { Button, ButtonLink } from '../kit/Button';
import { Choice, TextArea, TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Empty } from '../kit/Message';
import { problemAt } from './problems';
import { useIncidentPosting } from './useAddEntry';

/** From anywhere in two presses: what happened, then the card. Nothing is typed before it has been read. */
export default function ReportPage() {
  const { kind, log } = useParams();
  const mayReport = useMay('incident.report');
  if (kind === undefined) return <WhatHappened />;
  if (!isKind(kind)) return <Empty title="There is no such kind of incident." />;
  if (log === undefined || !mayReport) return <Card kind={kind} mayReport={mayReport} />;
  return <ReportForm kind={kind} />;
}

function isKind(kind: string): kind is IncidentKind {
  return (INCIDENT_KINDS as readonly string[]).includes(kind);
}

function usePackQuery(): { pack: PackId | null; query: string } {
  const pack = useSearchParams()[0].get('pack');
  return { pack: pack as PackId | null, query: pack ? `?pack=${pack}` : '' };
}

function WhatHappened() {
  const { query } = usePackQuery();
  return (
    <>
      <title>Report an incident · Malle</title>
      <h1 className="mb-3">What happened?</h1>
      <ul className="grid grid-cols-2 gap-2 md:grid-cols-3">
        {INCIDENT_KINDS.map((kind) => (
          <li key={kind} className="grid">
            <Link
              to={`/incidents/new/${kind}${query}`}
              className={`flex min-h-16 items-center border-2 px-3 py-2 text-lg leading-tight font-bold hover:bg-press ${
                kind === 'smoke-fire' ? 'border-red text-red' : 'border-ink'
              }`}
            >
              {INCIDENT_WORDS[kind].name}
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

/** The immediate-action card: large, plain, and in the order hands move. */
function Card({ kind, mayReport }: { kind: IncidentKind; mayReport: boolean }) {
  const { query } = usePackQuery();
  const { name, now, never, leave } = INCIDENT_WORDS[kind];
  return (
    <article className="mx-auto max-w-3xl">
      <title>{`${name} · Malle`}</title>
      <h1 className="text-3xl">{name}</h1>
      <ol className="mt-3 border-t-2 border-ink">
        {now.map((step, i) => (
          <li key={step} className="ruled flex gap-3 py-2 text-xl leading-snug md:text-2xl">
            <b className="font-mono">{i + 1}</b>
            <span>{step}</span>
          </li>
        ))}
      </ol>
      <p className="mt-3 text-lg font-bold">{never}</p>
      <p className="mt-3 border-l-6 border-red bg-wash-red px-3 py-2 text-lg font-bold">{leave}</p>
      <p className="mt-2 text-sm text-faint">{DEFERS}</p>
      <div className="sticky bottom-16 mt-4 flex flex-wrap gap-3 border-t-2 border-ink bg-ground py-3 md:bottom-0">
        {mayReport && (
          <ButtonLink
            to={`/incidents/new/${kind}/log${query}`}
            weight="main"
            className="min-h-12 flex-1 text-lg"
          >
            Log it
          </ButtonLink>
        )}
        <ButtonLink to={`/incidents/new${query}`} weight="quiet">
          Something else
        </ButtonLink>
      </div>
    </article>
  );
}

interface ReportDraft {
  readonly packIds: readonly PackId[];
  readonly photoIds: readonly PhotoId[];
  /** Who was there besides whoever reports. */
  readonly personIds: readonly PersonId[];
  readonly minutesAgo: string;
  readonly place: string;
  readonly what: string;
  readonly craft: string;
  readonly charger: string;
  readonly harm: string;
  readonly holds: 'yes' | 'no';
}

const BLANK: ReportDraft = {
  packIds: [],
  photoIds: [],
  personIds: [],
  minutesAgo: '0',
  place: '',
  what: '',
  craft: '',
  charger: '',
  harm: '',
  holds: 'yes',
};

const LONGEST_AGO_MINUTES = 30 * 24 * 60;

function ReportForm({ kind }: { kind: IncidentKind }) {
  const navigate = useNavigate();
  const person = usePerson();
  const { pack, query } = usePackQuery();
  const key = `incident.${kind}`;
  const [draft, setDraft, clear] = useDraft<ReportDraft>(key, { ...BLANK, packIds: pack ? [pack] : [] });
  const { post, busy, problems } = useIncidentPosting();
  const facts = INCIDENT_FACTS[kind];
  const change = (part: Partial<ReportDraft>) => setDraft({ ...draft, ...part });
  // What was typed before may be of another pack: the one that led here is named besides.
  const nameAsked = useEffectEvent(() => {
    if (pack && !draft.packIds.includes(pack)) change({ packIds: [...draft.packIds, pack] });
  });
  useEffect(() => nameAsked(), [pack]);
  const text = (field: 'place' | 'what' | 'craft' | 'charger' | 'harm') => ({
    value: draft[field],
    onChange: (event: { target: { value: string } }) => change({ [field]: event.target.value }),
    error: problemAt(problems, field),
  });
  const minutes = figureTyped(draft.minutesAgo) ?? 0;
  const minutesWrong =
    typeof minutes !== 'number' || minutes < 0 || minutes > LONGEST_AGO_MINUTES
      ? 'Minutes, from 0 up to 30 days.'
      : undefined;
  const withoutPack = draft.packIds.length === 0;

  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (typeof minutes !== 'number' || minutesWrong) return;
    const { minutesAgo: _ago, holds, ...report } = draft;
    const id = newId() as IncidentId;
    const payload = {
      ...report,
      kind,
      personIds: [person.id, ...report.personIds],
      place: blank(report.place),
      what: blank(report.what),
      craft: blank(report.craft),
      charger: blank(report.charger),
      harm: blank(report.harm),
      holds: facts.holds === 'ask' ? holds === 'yes' : facts.holds === 'yes',
    };
    const at = Math.round(currentTime() - minutes * MINUTE_MS);
    const outcome = await post({ id, kind, at }, { kind: 'reported', payload }, at, 'Reported.');
    if (outcome === 'refused') return;
    clear();
    return navigate(outcome === 'kept' ? `/incidents/${id}` : '/incidents');
  };
  const rest = problems.filter(({ field }) => !SHOWN.some((name) => field.includes(name)));
  return (
    <form onSubmit={(event) => void send(event)} noValidate className="mx-auto grid max-w-3xl gap-4">
      <title>{`Log: ${INCIDENT_WORDS[kind].name} · Malle`}</title>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1>{INCIDENT_WORDS[kind].name}</h1>
        <Link to={`/incidents/new/${kind}${query}`} className="min-h-6 text-accent underline">
          The first-aid card again
        </Link>
      </div>
      <PackPicker
        label="Packs"
        ids={draft.packIds}
        onChange={(packIds) => change({ packIds })}
        error={problemAt(problems, 'packIds')}
        hint={
          withoutPack
            ? 'Type or scan each tag.'
            : facts.holds === 'yes'
              ? 'They are on hold from now on.'
              : undefined
        }
      />
      {facts.holds === 'ask' && (
        <Choice
          label="Put these packs on hold"
          options={[
            { value: 'yes', label: 'yes' },
            { value: 'no', label: 'no' },
          ]}
          value={draft.holds}
          onChange={(holds) => change({ holds })}
        />
      )}
      <div>
        <span className="mb-0.5 block text-sm font-bold">Photos</span>
        <PhotoStrip
          label="what happened"
          ids={draft.photoIds}
          onAdd={(id) => {
            // Others may have been typed while the picture was taken in.
            const now = readDraft<ReportDraft>(key) ?? draft;
            saveDraft(key, { ...now, photoIds: [...now.photoIds, id] });
          }}
        />
      </div>
      <TextArea
        label="What happened"
        {...text('what')}
        hint={
          facts.holds === 'yes' ? 'May be told later; the packs are held either way.' : 'May be told later.'
        }
      />
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label="Minutes ago"
          inputMode="numeric"
          value={draft.minutesAgo}
          onChange={(event) => change({ minutesAgo: event.target.value })}
          error={minutesWrong ?? problemAt(problems, 'at')}
        />
        <TextField label="Place" {...text('place')} />
        <TextField label="Craft" {...text('craft')} />
        <TextField label="Charger" {...text('charger')} />
      </div>
      <TextField label="Injuries and damage" {...text('harm')} />
      <AlsoThere ids={draft.personIds} onChange={(personIds) => change({ personIds })} />
      {rest.map(({ message }) => (
        <p key={message} role="alert" className="font-bold text-red">
          {message}
        </p>
      ))}
      <Button type="submit" weight="main" disabled={busy} className="min-h-12 text-lg">
        Report it
      </Button>
    </form>
  );
}

/** People who were there, chosen one by one. */
function AlsoThere({
  ids,
  onChange,
}: {
  ids: readonly PersonId[];
  onChange: (ids: readonly PersonId[]) => void;
}) {
  const person = usePerson();
  const people = (useRegister().data?.people ?? []).filter(({ id }) => id !== person.id);
  return (
    <div>
      <SelectField
        label="Who else was there"
        value=""
        onChange={(value) => onChange([...ids, value as PersonId])}
      >
        <SelectOption value="">{ids.length === 0 ? 'nobody' : 'nobody else'}</SelectOption>
        {people
          .filter(({ id }) => !ids.includes(id))
          .map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
      </SelectField>
      {ids.length > 0 && (
        <ul aria-label="Who else was there" className="mt-1 flex flex-wrap gap-1.5">
          {people
            .filter(({ id }) => ids.includes(id))
            .map(({ id, name }) => (
              <li key={id}>
                <button
                  type="button"
                  onClick={() => onChange(ids.filter((other) => other !== id))}
                  aria-label={`Leave ${name} out`}
                  className="inline-flex min-h-11 items-center border-[1.5px] border-ink bg-sheet px-3 md:min-h-8"
                >
                  {name} <span aria-hidden="true">×</span>
                </button>
              </li>
            ))}
        </ul>
      )}
    </div>
  );
}

const SHOWN = ['packIds', 'place', 'what', 'craft', 'charger', 'harm'];

function blank(text: string): string | null {
  return text.trim() || null;
}
