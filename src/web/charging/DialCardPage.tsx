import clsx from 'clsx';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import {
  attendedUntil,
  detectsCells,
  gateQuestions,
  gateRefusals,
  isHard,
  settingChanges,
  SETTING_FIELDS,
} from '../../core/charging';
import type {
  Adapter,
  AtTheStart,
  Board,
  Charger,
  Equipment,
  ExternalLoad,
  GateAnswers,
  GateQuestion,
  SettingField,
} from '../../core/charging';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { MINUTE_MS } from '../../core/measure';
import type { PersonId } from '../../core/measure';
import {
  GATE_WORDS,
  JOB_WORDS,
  SETTING_WORDS,
  clockWords,
  durationWords,
  gateRefusalSentence,
  settingValue,
} from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, queryClient, useCharging, useRegister } from '../app/queries';
import { stationName } from '../domain/bench';
import { useMay, usePerson } from '../domain/Person';
import { Button, ButtonLink } from '../kit/Button';
import { TextField, Tick, withOrWithout } from '../kit/fields';
import { Empty, Loading, Notice } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';
import { personName, tagsOf } from './words';

/** The card of one job: what is dialled, in the charger's own words and order, and the gate before its start. */
export default function DialCardPage() {
  const { id } = useParams();
  const charging = useCharging();
  const register = useRegister();
  if (charging.isLoadingError)
    return <Failure error={charging.error} retry={() => void charging.refetch()} />;
  if (charging.isPending || !register.data) return <Loading what="the card" />;
  const job = charging.data.jobs.find((one) => one.id === id);
  if (!job)
    return (
      <Empty title="This job is no longer in the plan.">
        <p className="mb-3">Another plan was kept meanwhile, or it ended long ago.</p>
        <ButtonLink to="/charging/plan">To the plan</ButtonLink>
      </Empty>
    );
  return <DialCard key={job.id} job={job} charging={charging.data} register={register.data} />;
}

function startOf(
  job: JobAnswer,
  charging: ChargingAnswer,
  register: RegisterAnswer,
  now: number,
): AtTheStart | null {
  const output = register.equipment.find(({ id }) => id === job.equipmentId);
  const packs = job.packIds.flatMap((id) => charging.packs.find((pack) => pack.id === id) ?? []);
  if (!output || packs.length !== job.packIds.length) return null;
  return {
    do: job.do,
    setting: job.setting,
    packs,
    output: output as Equipment<Charger> | Equipment<ExternalLoad>,
    channel: job.channel,
    board: (register.equipment.find(({ id }) => id === job.boardId) as Equipment<Board> | undefined) ?? null,
    adapters: register.equipment.filter(({ facts }) => facts.kind === 'adapter') as Equipment<Adapter>[],
    last:
      charging.lastSettings.find(
        ({ equipmentId, channel }) => equipmentId === job.equipmentId && channel === job.channel,
      )?.setting ?? null,
    now,
    end: now + (job.end - job.start),
    attended: charging.attended,
  };
}

const UNANSWERED: Readonly<Record<GateQuestion, boolean>> = {
  looked: false,
  balanceLead: false,
  polarity: false,
  leadsFirst: false,
  surface: false,
  wayOut: false,
};

function DialCard({
  job,
  charging,
  register,
}: {
  job: JobAnswer;
  charging: ChargingAnswer;
  register: RegisterAnswer;
}) {
  const reader = useReader();
  const navigate = useNavigate();
  const me = usePerson();
  const mayCharge = useMay('bench.charge');
  const [confirmed, setConfirmed] = useState<readonly SettingField[]>([]);
  const [answers, setAnswers] = useState(UNANSWERED);
  const [cells, setCells] = useState('');
  const [chemistry, setChemistry] = useState('');
  const [attendant, setAttendant] = useState<string>(me.id);
  const [pressed, setPressed] = useState(false);
  const [problem, setProblem] = useState<readonly string[]>([]);
  const [busy, setBusy] = useState(false);
  const start = startOf(job, charging, register, reader.now);
  const tags = tagsOf(job, charging);
  if (!start)
    return (
      <Empty title="This job can no longer be started.">
        <p className="mb-3">Its charger or one of its packs is no longer in the register.</p>
        <ButtonLink to="/charging/plan">Plan again</ButtonLink>
      </Empty>
    );
  const { output } = start;
  const charger = output.facts.kind === 'charger' ? output.facts : null;
  const changes = charger ? settingChanges(start.last, job.setting) : [];
  const typedCells = /^\d{1,2}$/.test(cells.trim()) ? Number(cells.trim()) : null;
  const gate: GateAnswers = {
    detectedCells: typedCells,
    setChemistry: chemistry === '' ? null : (chemistry as Chemistry),
    confirmed,
    ...answers,
    attendantId: attendant as PersonId,
  };
  const refusals = gateRefusals(start, gate);
  const hard = refusals.filter(isHard);
  const open = refusals.filter((one) => !isHard(one));
  const until = attendedUntil(charging.attended, reader.now);
  const planned = start.end;

  const begin = async () => {
    setPressed(true);
    setProblem([]);
    if (refusals.length > 0) return;
    setBusy(true);
    try {
      const answer = await ask('POST /charging/jobs/:id/start', {
        params: { id: job.id },
        body: { gate: { ...gate, confirmed: [...confirmed] } },
      });
      queryClient.setQueryData(KEYS.charging, answer);
      say(`${tags.join(' ')} on charge. Stay with it.`);
      await navigate('/charging/bench');
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(
        error.fields.length > 0
          ? error.fields.map(({ message }) => message)
          : [error.problem?.detail ?? error.message],
      );
      void queryClient.invalidateQueries({ queryKey: KEYS.charging });
    } finally {
      setBusy(false);
    }
  };
  if (job.state !== 'planned')
    return (
      <Empty title={job.state === 'running' ? 'This job is running.' : 'This job is over.'}>
        <ButtonLink to="/charging/bench" weight="main">
          To the bench
        </ButtonLink>
      </Empty>
    );
  return (
    <div className="mx-auto max-w-3xl">
      <title>{`${tags.join(' ')} · Charging · Malle`}</title>
      <p className="text-faint">
        {stationName(register.equipment, job.equipmentId, job.channel)}
        {start.board && ` · ${start.board.name}`} · {JOB_WORDS[job.do]}, planned{' '}
        {clockWords(job.start, reader)} to {clockWords(job.end, reader)}
      </p>
      <h1 className="mb-3 font-mono text-3xl">{tags.join(' ')}</h1>
      {hard.length > 0 && (
        <Notice title="This cannot be started.">
          <ul>
            {hard.map((one) => (
              <li key={gateRefusalSentence(one, reader.now)}>{gateRefusalSentence(one, reader.now)}</li>
            ))}
          </ul>
        </Notice>
      )}
      {charger && (
        <Dials
          job={job}
          charger={charger}
          changes={changes}
          confirmed={confirmed}
          onConfirm={setConfirmed}
          known={start.last !== null}
        />
      )}
      {!charger && (
        <p className="border-y-2 border-ink py-3 text-xl">
          Hang it on {output.name}: it takes {settingValue('amps', job.setting.amps)} at most. Watch the volts
          yourself: stop at <b>{settingValue('topV', job.setting.topMv)} a cell</b>.
        </p>
      )}
      {charger && charger.connectOrder.length > 0 && (
        <p className="mt-3">
          <b>Connect in this order:</b> {charger.connectOrder.join(', then ')}.
        </p>
      )}
      {charger && (
        <div className="mt-4 grid gap-x-6 gap-y-3 sm:grid-cols-2">
          <SelectField label="Chemistry on the display now" value={chemistry} onChange={setChemistry}>
            <SelectOption value="">read it off</SelectOption>
            {CHEMISTRIES.map((one) => (
              <SelectOption key={one} value={one}>
                {CHEMISTRY[one].name}
              </SelectOption>
            ))}
          </SelectField>
          {detectsCells(start) && (
            <TextField
              label="Cells it detects"
              inputMode="numeric"
              className="text-lg"
              value={cells}
              onChange={({ target }) => setCells(target.value)}
              error={
                refusals.some(({ code }) => code === 'fewer-cells' || code === 'more-cells')
                  ? gateRefusalSentence(
                      refusals.find(({ code }) => code === 'fewer-cells' || code === 'more-cells')!,
                      reader.now,
                    )
                  : undefined
              }
            />
          )}
        </div>
      )}
      <fieldset className="mt-4">
        <legend className="mb-1 font-bold">Before it starts</legend>
        {gateQuestions(start).map((question) => (
          <Tick
            key={question}
            plain
            label={GATE_WORDS[question]}
            checked={answers[question]}
            onChange={(yes) => setAnswers((now) => ({ ...now, [question]: yes }))}
          />
        ))}
      </fieldset>
      <div className="mt-3 max-w-xs">
        <SelectField
          label="Who stays with it"
          value={attendant}
          onChange={setAttendant}
          hint={
            until === null
              ? 'Nobody has said that they are at the bench now.'
              : until < planned
                ? `Attendance ends at ${clockWords(until, reader)}, before this is expected to end (${clockWords(planned, reader)}): see who takes over.`
                : `Somebody is here until ${clockWords(until, reader)}.`
          }
        >
          {register.people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
      </div>
      {problem.length > 0 && (
        <Notice title="It was not started.">
          <ul>
            {problem.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </Notice>
      )}
      {pressed && hard.length === 0 && open.length > 0 && (
        <Notice title="Not yet.">
          <ul>
            {open.map((one) => (
              <li key={gateRefusalSentence(one, reader.now)}>{gateRefusalSentence(one, reader.now)}</li>
            ))}
          </ul>
        </Notice>
      )}
      {mayCharge && (
        <div className="mt-4 flex flex-wrap items-center gap-4">
          <Button
            weight="main"
            className="min-h-12 px-6 text-lg"
            disabled={busy || hard.length > 0}
            onClick={() => void begin()}
          >
            Start it
          </Button>
          <span className="text-faint">
            Expected to take {durationWords(Math.round((planned - reader.now) / MINUTE_MS))}.{' '}
            {personName(register, attendant)} stays with it.
          </span>
        </div>
      )}
    </div>
  );
}

const OF = (field: SettingField, job: JobAnswer) =>
  field === 'topV' ? job.setting.topMv : job.setting[field];

/** What is dialled, in large figures; what differs from the channel's last setting is marked and ticked one by one. */
function Dials({
  job,
  charger,
  changes,
  confirmed,
  onConfirm,
  known,
}: {
  job: JobAnswer;
  charger: Charger;
  changes: ReturnType<typeof settingChanges>;
  confirmed: readonly SettingField[];
  onConfirm: (next: readonly SettingField[]) => void;
  known: boolean;
}) {
  return (
    <>
      <dl className="border-t-2 border-ink">
        {SETTING_FIELDS.map((field) => {
          const value = OF(field, job);
          if (value === null) return null;
          const change = changes.find((one) => one.field === field);
          return (
            <div
              key={field}
              className={clsx(
                'grid grid-cols-[7.5rem_1fr] items-center gap-x-4 border-b border-rule px-2 py-1.5 sm:grid-cols-[10rem_10rem_1fr]',
                change && (change.dangerous ? 'bg-wash-red' : known ? 'bg-wash-amber' : ''),
              )}
            >
              <dt className="leading-tight">{charger.words[field] ?? SETTING_WORDS[field]}</dt>
              <dd className="font-mono text-2xl font-bold">{settingValue(field, value)}</dd>
              <dd className="max-sm:col-span-2">
                {change ? (
                  <Tick
                    plain
                    label={
                      change.from === null
                        ? 'set, and seen on the display'
                        : `changed from ${settingValue(field, change.from)}${change.dangerous ? ': left so, it could burn the pack' : ''}`
                    }
                    checked={confirmed.includes(field)}
                    onChange={(yes) => onConfirm(withOrWithout(confirmed, field, yes))}
                  />
                ) : (
                  <span className="text-faint">as it was last</span>
                )}
              </dd>
            </div>
          );
        })}
      </dl>
      {!known && (
        <p className="mt-1 text-sm text-faint">
          What this channel was last set to is not known: look at each field.
        </p>
      )}
    </>
  );
}
