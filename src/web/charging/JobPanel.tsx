import { useState } from 'react';
import { Link } from 'react-router';
import type { ChargingAnswer, RegisterAnswer } from '../../contract';
import type { Berth, Plan, PlannedJob } from '../../core/charging';
import { JOB_WORDS, amps, clockWords, reasonSentence, whenWords } from '../../core/wording';
import { placeKey, stationName, stationsOf } from '../domain/bench';
import { minuteAt, localMinute } from '../app/days';
import { useReader } from '../app/clock';
import { MomentField } from '../domain/moments/MomentField';
import { Button, ButtonLink } from '../kit/Button';
import { SelectField, SelectOption } from '../kit/Select';
import { berthOfPlanned, keyOf } from './planInput';
import type { Wanted } from './planInput';
import { tagsOf } from './words';

/** One job of the plan: why it is there and then, and what may be changed about it. */
export function JobPanel({
  chosen,
  planned,
  charging,
  register,
  wanted,
  onWanted,
  onClose,
}: {
  chosen: string;
  planned: Plan | null;
  charging: ChargingAnswer;
  register: RegisterAnswer;
  /** Null while the kept plan is shown: a change begins a new one. */
  wanted: Wanted | null;
  onWanted: (next: Partial<Wanted>) => void;
  onClose: () => void;
}) {
  const reader = useReader();
  const draft = planned?.jobs.find((job) => keyOf(job) === chosen) ?? null;
  const kept = charging.jobs.find(({ id }) => id === chosen) ?? null;
  const job = draft ?? kept;
  if (!job) return null;
  const tags = draft ? draft.packs.map(({ tag }) => tag) : tagsOf(kept!, charging);
  const name = (equipmentId: string, channel: string | null) =>
    stationName(register.equipment, equipmentId, channel);
  const board = register.equipment.find(({ id }) => id === job.boardId);
  const adapter = register.equipment.find(({ id }) => id === job.adapterId);
  const flight = draft ? flightOf(draft) : kept!.flightAt;
  return (
    <section aria-label="The job" className="mb-6 border-2 border-ink p-4 print:hidden">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-lg">
          {JOB_WORDS[job.do]}: <span className="font-mono">{tags.join(' ')}</span>
        </h2>
        <Button weight="quiet" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      <p>
        {name(job.equipmentId, job.channel)}, {clockWords(job.start, reader)} to {clockWords(job.end, reader)}
        , at {amps(job.setting.amps)}
        {board && ` on ${board.name}`}
        {adapter && ` by ${adapter.name}`}.{flight !== null && ` Flies ${whenWords(flight, reader)}.`}
      </p>
      <p>{reasonSentence(job.reason, name)}</p>
      {draft && wanted && <Changes draft={draft} wanted={wanted} register={register} onWanted={onWanted} />}
      {kept?.state === 'planned' && (
        <p className="mt-3 flex flex-wrap gap-3">
          <ButtonLink to={`/charging/jobs/${kept.id}`} weight="main">
            To its card
          </ButtonLink>
          <Link
            to={`/packs/${kept.packIds[0]}`}
            className="inline-flex min-h-11 items-center text-accent underline md:min-h-8"
          >
            To the pack
          </Link>
        </p>
      )}
      {kept?.state === 'running' && (
        <p className="mt-3">
          <ButtonLink to={`/charging/jobs/${kept.id}/end`} weight="main">
            End it
          </ButtonLink>
        </p>
      )}
    </section>
  );
}

function flightOf({ packs }: PlannedJob): number | null {
  const [need] = packs.map((pack) => pack.need);
  return need?.do === 'fill' ? need.flightAt : null;
}

/** Lock, leave out, or move; whatever is changed, the rest of the plan follows. */
function Changes({
  draft,
  wanted,
  register,
  onWanted,
}: {
  draft: PlannedJob;
  wanted: Wanted;
  register: RegisterAnswer;
  onWanted: (next: Partial<Wanted>) => void;
}) {
  const key = keyOf(draft);
  const others = wanted.locked.filter(({ id }) => id !== key);
  const isLocked = others.length < wanted.locked.length;
  const [at, setAt] = useState(localMinute(draft.start));
  const [station, setStation] = useState(placeKey(draft.equipmentId, draft.channel));
  const stations = stationsOf(register.equipment).filter(({ outOfOrder }) => !outOfOrder);
  const move = () => {
    const start = minuteAt(at);
    if (start === null || Number.isNaN(start)) return;
    const [equipmentId, channel] = station.split(/ (.*)/s) as [Berth['equipmentId'], string];
    onWanted({
      locked: [...others, { ...berthOfPlanned(draft), equipmentId, channel: channel || null, start }],
    });
  };
  return (
    <>
      {isLocked && !draft.locked && (
        <p className="font-bold text-amber">
          It could not stand where you put it: the channel, the power or the hours would not allow it.
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-start gap-3">
        <Button
          className="sm:mt-6"
          onClick={() => onWanted({ locked: isLocked ? others : [...others, berthOfPlanned(draft)] })}
        >
          {isLocked ? 'Unlock' : 'Lock it here'}
        </Button>
        <Button
          className="sm:mt-6"
          onClick={() =>
            onWanted({ locked: others, leftOut: [...wanted.leftOut, ...draft.packs.map(({ id }) => id)] })
          }
        >
          Leave it out
        </Button>
        <div className="w-44">
          <SelectField label="On" value={station} onChange={setStation}>
            {stations.map(({ key: value, name }) => (
              <SelectOption key={value} value={value}>
                {name}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <div className="w-44">
          <MomentField label="From" wanted="minute" lean="ahead" value={at} onChange={setAt} />
        </div>
        <Button className="sm:mt-6" onClick={move}>
          Move it there
        </Button>
      </div>
    </>
  );
}
