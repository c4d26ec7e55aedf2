import clsx from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import { watchOf } from '../../core/charging';
import type { Watch } from '../../core/charging';
import { MINUTE_MS } from '../../core/measure';
import { JOB_WORDS, amps, clockWords, durationWords, plural, span, whenWords } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { useSecond, useReader } from '../app/clock';
import { say } from '../app/notices';
import { useDevices } from '../app/devices';
import { KEYS, queryClient } from '../app/queries';
import { stationsOf } from '../domain/bench';
import type { Station } from '../domain/bench';
import { useMay, usePerson } from '../domain/Person';
import { Button, ButtonLink } from '../kit/Button';
import { Fold } from '../kit/Fold';
import type { Spoken } from './LiveCharge';
import { LiveCharge, spokenOf } from './LiveCharge';
import { NoCharger } from './NoCharger';
import { personName, tagsOf } from './words';

/** Every channel as it is now: what runs, who watches, what comes next. Several devices show the same. */
export function BenchBoard({ charging, register }: { charging: ChargingAnswer; register: RegisterAnswer }) {
  const now = useSecond();
  const { rules } = register.rules;
  const places = stationsOf(register.equipment);
  const on = (place: Station) => (job: JobAnswer) =>
    job.equipmentId === place.id && job.channel === place.channel;
  const running = charging.jobs.filter(({ state }) => state === 'running');
  const watches = new Map(running.map((job) => [job.id, watchOf(job, now, rules)]));
  const devices = useDevices();
  const alarmed = devices.some(({ channels }) => channels.some(({ alarms }) => alarms.length > 0));
  useCall(
    alarmed ||
      [...watches.values()].some(
        (watch) => watch === 'stop-now' || watch === 'unwatched' || watch === 'ends',
      ),
  );
  if (places.length === 0) return <NoCharger />;
  return (
    <>
      {running.length > 0 && <CallMe />}
      <ul className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {places.map((place) => {
          const job = running.find(on(place));
          const next = charging.jobs.find((one) => one.state === 'planned' && on(place)(one));
          return (
            <li key={place.key} className="border-t-2 border-ink pt-2">
              <h2 className="text-lg">{place.name}</h2>
              {place.outOfOrder && <p className="py-2 font-bold text-amber">Out of order.</p>}
              {job ? (
                <Running
                  job={job}
                  watch={watches.get(job.id)!}
                  now={now}
                  charging={charging}
                  register={register}
                  spoken={spokenOf(devices, place.id, place.channel)}
                />
              ) : place.outOfOrder ? null : (
                <>
                  <UnknownCharge spoken={spokenOf(devices, place.id, place.channel)} />
                  <Idle place={place} next={next ?? null} charging={charging} />
                </>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** While something runs, a browser that may show notifications is asked once whether it shall. */
function CallMe() {
  const [asked, setAsked] = useState(() => 'Notification' in window && Notification.permission === 'default');
  if (!asked) return null;
  return (
    <p className="mb-2">
      <Button
        weight="quiet"
        onClick={() => void Notification.requestPermission().then(() => setAsked(false))}
      >
        Let this device call you when a charge asks for hands
      </Button>
    </p>
  );
}

function Idle({
  place,
  next,
  charging,
}: {
  place: Station;
  next: JobAnswer | null;
  charging: ChargingAnswer;
}) {
  const reader = useReader();
  const mayCharge = useMay('bench.charge');
  const another = mayCharge && (
    <ButtonLink to={`/charging/now?at=${encodeURIComponent(place.key)}`} weight="quiet">
      {next ? 'Another pack first' : 'A pack on it now'}
    </ButtonLink>
  );
  if (!next)
    return (
      <p className="flex flex-wrap items-center gap-x-4 py-2 text-faint">
        Free, and nothing planned. {another}
      </p>
    );
  const late = next.start < reader.now;
  return (
    <div className="py-2">
      <p>
        Next: <b className="font-mono text-lg">{tagsOf(next, charging).join(' ')}</b>
      </p>
      <p className="text-faint">
        {JOB_WORDS[next.do]}, {whenWords(next.start, reader)} to {clockWords(next.end, reader)}
      </p>
      {mayCharge && (
        <p className="mt-2 flex flex-wrap items-center gap-x-4">
          <ButtonLink to={`/charging/jobs/${next.id}`} weight={late ? 'main' : 'plain'}>
            {late ? 'Start it' : 'Its card'}
          </ButtonLink>
          {another}
        </p>
      )}
    </div>
  );
}

/** The charger works on something that Malle knows nothing of. */
function UnknownCharge({ spoken }: { spoken: Spoken | null }) {
  if (spoken?.shows.state !== 'running' || !spoken.shows.point) return null;
  const { point } = spoken.shows;
  return (
    <p role="status" className="mt-1 bg-wash-amber px-2 py-1 font-bold">
      It charges something no job here stands for: {plural(point.mv.length, 'cell')} at{' '}
      {point.amps.toFixed(1)} A. Whose pack is it?
    </p>
  );
}

const EDGE: Readonly<Record<Watch, string>> = {
  'stop-now': 'border-l-8 border-red bg-wash-red pl-3',
  unwatched: 'border-l-8 border-amber bg-wash-amber pl-3',
  ends: 'border-l-8 border-accent pl-3',
  ask: 'border-l-8 border-amber pl-3',
  well: 'border-l-8 border-leaf pl-3',
};

function Running({
  job,
  watch,
  now,
  charging,
  register,
  spoken,
}: {
  job: JobAnswer;
  watch: Watch;
  now: number;
  charging: ChargingAnswer;
  register: RegisterAnswer;
  spoken: Spoken | null;
}) {
  const reader = useReader();
  const me = usePerson();
  const mayCharge = useMay('bench.charge');
  const stay = async () => {
    try {
      const answer = await ask('POST /charging/jobs/:id/watch', {
        params: { id: job.id },
        body: { attendantId: me.id },
      });
      queryClient.setQueryData(KEYS.charging, answer);
      say(job.attendantId === me.id ? 'Noted: you are still there.' : 'Noted: you watch it now.');
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      say(error.problem?.detail ?? error.says);
      void queryClient.invalidateQueries({ queryKey: KEYS.charging });
    }
  };
  const left = job.end - now;
  const alarms = spoken?.shows.alarms ?? [];
  const mustStop = watch === 'stop-now' || alarms.some(({ asks }) => asks === 'stop');
  const edge = mustStop ? EDGE['stop-now'] : alarms.length > 0 ? EDGE.unwatched : EDGE[watch];
  const ended = spoken?.shows.state === 'ended';
  const mine = job.attendantId === me.id;
  return (
    <div className={clsx('my-2 py-1', edge)}>
      <p className="font-mono text-2xl leading-tight font-bold">
        {job.packIds.map((id, i) => (
          <Link key={id} to={`/packs/${id}`} className="mr-3 text-accent underline-offset-4 hover:underline">
            {tagsOf(job, charging)[i]}
          </Link>
        ))}
      </p>
      <p>
        {JOB_WORDS[job.do]} at {amps(job.setting.amps)}, since {clockWords(job.start, reader)},{' '}
        <b>
          {ended
            ? 'ended, as the charger says'
            : left > 0
              ? `${durationWords(Math.ceil(left / MINUTE_MS))} to go`
              : `expected to end ${span(left)} ago`}
        </b>{' '}
        ({clockWords(job.end, reader)})
      </p>
      <p className={watch === 'unwatched' ? 'font-bold' : ''}>
        Watched by {personName(register, job.attendantId)}
        {job.seenAt !== null && <span className="text-faint">, seen {span(now - job.seenAt)} ago</span>}
      </p>
      {watch === 'stop-now' && (
        <p className="mt-1 font-bold text-red">
          Stop it at the charger. It has run far longer than it should: the setting may be wrong, or a cell
          will not come up. Feel the pack; if it is warm, take it outdoors and report it.
        </p>
      )}
      {watch === 'unwatched' && (
        <p className="mt-1 font-bold text-amber">
          Nobody has said for {span(now - (job.seenAt ?? job.start))} that they watch it. Go and look.
        </p>
      )}
      {watch === 'ask' && <p className="mt-1 font-bold">Still here?</p>}
      {watch === 'ends' && <p className="mt-1 font-bold">It should be done: look, and take it off.</p>}
      <LiveCharge job={job} spoken={spoken} />
      <Messages of={register.equipment.find(({ id }) => id === job.equipmentId) ?? null} />
      {mayCharge && (
        <div className="mt-2 flex flex-wrap gap-3">
          <Button
            weight={watch === 'ask' || watch === 'unwatched' ? 'main' : 'plain'}
            onClick={() => void stay()}
          >
            {mine ? 'Still here' : 'I watch it now'}
          </Button>
          <ButtonLink
            to={`/charging/jobs/${job.id}/end`}
            weight={watch === 'ends' || mustStop || ended ? 'main' : 'plain'}
          >
            {mustStop ? 'It is stopped' : 'End it'}
          </ButtonLink>
          <ButtonLink to="/incidents/new/hot-charging" weight="quiet">
            It is warm
          </ButtonLink>
        </div>
      )}
    </div>
  );
}

/** What its display may say, and what to do then. */
function Messages({ of: charger }: { of: RegisterAnswer['equipment'][number] | null }) {
  if (charger?.facts.kind !== 'charger' || charger.facts.errors.length === 0) return null;
  return (
    <Fold line="What does it say?" className="mt-1 text-sm">
      <ul>
        {charger.facts.errors.map(({ text, means, next }) => (
          <li key={text} className="ruled py-1">
            <b className="font-mono">{text}</b> {means} <b>{next}</b>
          </li>
        ))}
      </ul>
    </Fold>
  );
}

/** Sounds once when something comes to ask for hands, where the browser lets a page do that. */
function useCall(wanted: boolean): void {
  const before = useRef(wanted);
  useEffect(() => {
    if (wanted && !before.current) {
      try {
        const context = new AudioContext();
        const tone = context.createOscillator();
        tone.connect(context.destination);
        tone.start();
        tone.stop(context.currentTime + 0.4);
        tone.onended = () => void context.close();
      } catch {
        // A browser that lets no page sound shows the card all the same.
      }
      if ('Notification' in window && Notification.permission === 'granted')
        new Notification('A charge asks for you', { body: 'Look at the bench.' });
    }
    before.current = wanted;
  }, [wanted]);
}
