import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import { planFaults, Planning } from '../../core/charging';
import type { BenchPack, Need, PlanInput, PlannedJob } from '../../core/charging';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { Instant, PackId } from '../../core/measure';
import { JOB_WORDS, amps, clockWords, durationWords, leftOutSentence, span } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { KEYS, queryClient, useCharging, useRegister } from '../app/queries';
import { PackPicker } from '../domain/PackPicker';
import { placeKey, stationName, stationsOf } from '../domain/bench';
import { useMay, usePerson } from '../domain/Person';
import { Button, ButtonLink } from '../kit/Button';
import { Choice } from '../kit/fields';
import { Loading, Notice } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';
import { NoCharger } from './NoCharger';
import { berthOf } from './planInput';
import { tagsOf } from './words';

const AIMS = [
  { value: 'fill', label: 'full' },
  { value: 'store', label: 'to storage' },
  { value: 'cycle', label: 'emptied, then full' },
] as const;
type Aim = (typeof AIMS)[number]['value'];

/** One pack on a channel now, planned by nobody before: its place and setting by the same rules as the evening's plan. */
export default function OnePackPage() {
  const charging = useCharging();
  const register = useRegister();
  if (charging.isLoadingError)
    return <Failure error={charging.error} retry={() => void charging.refetch()} />;
  if (charging.isPending || !register.data) return <Loading what="the bench" />;
  return <OnePack charging={charging.data} register={register.data} />;
}

function OnePack({ charging, register }: { charging: ChargingAnswer; register: RegisterAnswer }) {
  const [query] = useSearchParams();
  const reader = useReader();
  const navigate = useNavigate();
  const me = usePerson();
  const mayCharge = useMay('bench.charge');
  const minute = Math.ceil(reader.now / MINUTE_MS) * MINUTE_MS;
  const asked = charging.packs.find(({ id }) => id === query.get('pack'));
  const [packIds, setPackIds] = useState<readonly PackId[]>(asked ? [asked.id] : []);
  const [chosenAim, setAim] = useState<Aim | null>(null);
  const [place, setPlace] = useState(query.get('at') ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const places = freePlaces(charging, register);
  const pack = charging.packs.find(({ id }) => id === packIds[0]);
  // What is full already can only go to storage, unless somebody says otherwise.
  const aim = chosenAim ?? (pack?.charged === 'charged' ? 'store' : 'fill');
  const found = useMemo(
    () => (pack ? jobsNow(pack, aim, place, charging, register, minute) : null),
    [pack, aim, place, charging, register, minute],
  );
  const planned = pack
    ? charging.jobs.find((job) => job.state !== 'ended' && job.packIds.includes(pack.id))
    : null;
  if (stationsOf(register.equipment).length === 0) return <NoCharger />;

  const toCard = async () => {
    if (!found || 'says' in found) return;
    setBusy(true);
    setProblem(null);
    try {
      const ids: JobAnswer['id'][] = [];
      for (const { do: kind, packs, equipmentId, channel, adapterId, setting, start, end } of found.jobs) {
        const id = newId() as JobAnswer['id'];
        const job = {
          id,
          do: kind,
          packIds: packs.map((one) => one.id),
          equipmentId,
          channel,
          boardId: null,
        };
        const answer = await ask('POST /charging/jobs', { body: { ...job, adapterId, setting, start, end } });
        queryClient.setQueryData(KEYS.charging, answer);
        ids.push(id);
      }
      await navigate(`/charging/jobs/${ids[0]}`);
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.fields[0]?.message ?? error.problem?.detail ?? error.says);
      setBusy(false);
    }
  };
  return (
    <div className="mx-auto max-w-xl">
      <title>One pack now · Charging · Malle</title>
      <h1 className="mb-3">One pack on charge now</h1>
      <div className="grid gap-4">
        <PackPicker
          label="Which pack"
          hint="Type or scan its tag."
          ids={packIds}
          onChange={(ids) => setPackIds(ids.slice(-1))}
        />
        <Choice label="What it is to be" options={AIMS} value={aim} onChange={setAim} />
        {aim === 'cycle' && (
          <p className="-mt-2 text-sm text-faint">
            With a rest between; what the charge then moves measures its capacity.
          </p>
        )}
        <SelectField label="Where" value={place} onChange={setPlace}>
          <SelectOption value="">wherever it goes</SelectOption>
          {places.map(({ key, name }) => (
            <SelectOption key={key} value={key}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      {places.length === 0 && (
        <Notice title="Every channel has a pack on it. End one of those first.">
          <ButtonLink to="/charging/bench">To the bench</ButtonLink>
        </Notice>
      )}
      {planned && (
        <Notice
          title={
            planned.state === 'running'
              ? `${pack!.tag} is on charge already.`
              : `${pack!.tag} is in the plan already, on ${stationName(register.equipment, planned.equipmentId, planned.channel)} at ${clockWords(planned.start, reader)}.`
          }
        >
          <ButtonLink to={planned.state === 'running' ? '/charging/bench' : `/charging/jobs/${planned.id}`}>
            {planned.state === 'running'
              ? 'To the bench'
              : `The card of ${tagsOf(planned, charging).join(' ')}`}
          </ButtonLink>
        </Notice>
      )}
      {pack && planned?.state !== 'running' && found && (
        <section aria-label="What it gets" className="mt-5 border-t-2 border-ink pt-3">
          {'says' in found ? (
            <p className="font-bold text-amber">{found.says}</p>
          ) : (
            <>
              {found.jobs.map((job) => (
                <p key={job.do} className="text-xl">
                  <b>{stationName(register.equipment, job.equipmentId, job.channel)}</b>:{' '}
                  {JOB_WORDS[job.do].toLowerCase()} at {amps(job.setting.amps)}, about{' '}
                  {durationWords(Math.round((job.end - job.start) / MINUTE_MS))},
                  {job.start > minute && ` from ${clockWords(job.start, reader)}`} until{' '}
                  {clockWords(job.end, reader)}.
                </p>
              ))}
              <p className="mb-3 text-faint">{me.name} stays with it, or whoever says so on its card.</p>
              {mayCharge && (
                <Button weight="main" className="min-h-12" disabled={busy} onClick={() => void toCard()}>
                  To its card
                </Button>
              )}
            </>
          )}
        </section>
      )}
      {problem && <Notice title={problem} />}
    </div>
  );
}

/** Channels and loads with nothing on them. */
function freePlaces({ jobs }: ChargingAnswer, { equipment }: RegisterAnswer) {
  const taken = new Set(
    jobs.flatMap(({ state, equipmentId, channel }) =>
      state === 'running' ? [placeKey(equipmentId, channel)] : [],
    ),
  );
  return stationsOf(equipment).filter(({ key, outOfOrder }) => !outOfOrder && !taken.has(key));
}

/** A charge is looked for within so many hours: longer than any takes. */
const HOURS_ASKED = 14;

/** What a pack gets if it goes on a channel at this minute: one job, or a discharge and the charge after its rest; or why it cannot. */
function jobsNow(
  pack: BenchPack,
  aim: Aim,
  place: string,
  { jobs, lastSettings }: ChargingAnswer,
  { equipment, rules }: RegisterAnswer,
  now: Instant,
): { readonly jobs: readonly PlannedJob[] } | { readonly says: string } {
  const until = now + HOURS_ASKED * HOUR_MS;
  const needs: Readonly<Record<Aim, Need>> = {
    fill: { do: 'fill', flightAt: until + HOUR_MS, dayId: 'now' as never },
    store: { do: 'store', dueAt: null, underFloor: pack.underFloor },
    cycle: { do: 'cycle' },
  };
  const input: PlanInput = {
    from: now,
    equipment: place === '' ? equipment : equipment.map((one) => only(one, place)),
    attended: [{ id: 'now' as never, personId: 'whoever starts it' as never, from: now, to: until }],
    packs: [{ ...pack, need: needs[aim] }],
    running: jobs.flatMap((job) =>
      job.state === 'running'
        ? [{ ...berthOf(job), end: Math.max(job.end, now + 5 * MINUTE_MS), peakW: job.peakW }]
        : [],
    ),
    locked: [],
    lastSettings,
    rules: rules.rules,
  };
  const { jobs: planned, leftOut } = new Planning(input).plan({ explained: false });
  const [first] = planned;
  if (!first)
    return { says: leftOut[0] ? leftOutSentence(leftOut[0]) : `${pack.tag} needs nothing of the kind.` };
  if (pack.freeFrom > now)
    return { says: `${pack.tag} has not cooled yet: wait ${span(pack.freeFrom - now)}.` };
  // A plan puts a charge for a flight as late as it can; this one begins now, if nothing stands in the way.
  const early = first.start - now;
  const moved = planned.map((job) => ({ ...job, start: job.start - early, end: job.end - early }));
  const [fault] = planFaults(input, moved);
  return fault ? { says: `Not at this minute: ${fault}.` } : { jobs: moved };
}

function only(one: RegisterAnswer['equipment'][number], place: string): RegisterAnswer['equipment'][number] {
  const { id, facts } = one;
  if (facts.kind === 'load') return { ...one, inUse: one.inUse && placeKey(id, null) === place };
  if (facts.kind !== 'charger') return one;
  const channels = facts.channels.map((channel) => ({
    ...channel,
    outOfOrder: channel.outOfOrder || placeKey(id, channel.key) !== place,
  }));
  return { ...one, facts: { ...facts, channels } };
}
