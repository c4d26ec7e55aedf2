import { useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, JobAnswer, RegisterAnswer } from '../../contract';
import { endingOfCurve, lastWorking, slotReadings } from '../../core/charging';
import type { CurvePoint } from '../../core/charging';
import { isLithium } from '../../core/chemistry';
import { MINUTE_MS } from '../../core/measure';
import type { RecordId } from '../../core/measure';
import { FELT, parseMah, parseMinutes, parseVolts } from '../../core/reading';
import type { Felt } from '../../core/reading';
import { CHARGE_ENDINGS } from '../../core/record';
import type { ChargeEnding } from '../../core/record';
import { ENDING_WORDS, FELT_WORDS, JOB_WORDS, clockWords } from '../../core/wording';
import { stationName } from '../domain/bench';
import { FailedRequest, ask } from '../app/api';
import { currentTime, useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { useDevices } from '../app/devices';
import { dropDraft, useDraft } from '../app/drafts';
import { say } from '../app/notices';
import { usePackRows } from '../domain/waitingRows';
import { useCurveOfJob } from '../domain/curve/Curve';
import { KEYS, queryClient, useCharging, useRegister } from '../app/queries';
import { Button, ButtonLink } from '../kit/Button';
import { Choice, TextField } from '../kit/fields';
import { Empty, Loading, Notice } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';
import type { Spoken } from './LiveCharge';
import { spokenOf } from './LiveCharge';
import { tagsOf } from './words';

/** The end of a job: taken off in the right order, and what it came to in one row, as planned unless something else is said. */
export default function EndJobPage() {
  const { id } = useParams();
  const charging = useCharging();
  const register = useRegister();
  if (charging.isLoadingError)
    return <Failure error={charging.error} retry={() => void charging.refetch()} />;
  if (charging.isPending || !register.data) return <Loading what="the job" />;
  const job = charging.data.jobs.find((one) => one.id === id);
  if (job?.state !== 'running')
    return (
      <Empty title={job?.state === 'ended' ? 'This job is over.' : 'This job does not run.'}>
        <ButtonLink to="/charging/bench" weight="main">
          To the bench
        </ButtonLink>
      </Empty>
    );
  return <EndJob key={job.id} job={job} charging={charging.data} register={register.data} />;
}

/** What the charger tells of the end, until a hand writes something else. */
function toldEnd(
  told: Spoken['shows'] | null,
  points: readonly CurvePoint[],
  { setting }: JobAnswer,
): Pick<EndDraft, 'ending' | 'cells' | 'moved' | 'minutes'> {
  const point = told?.point;
  if (!told || !point) return { ending: 'complete', cells: '', moved: '', minutes: '' };
  // What rests on the lead afterwards is no end of a charge, and moves with every line.
  const shown = told.state === 'running' ? point : (lastWorking(points) ?? point);
  const failed = told.alarms.find(({ code }) => code === 'error');
  return {
    ending: failed
      ? 'error'
      : told.stopped || told.state === 'running'
        ? 'stopped'
        : endingOfCurve(points, setting),
    cells: shown.mv.length > 1 ? shown.mv.map((mv) => (mv / 1000).toFixed(3)).join(' ') : '',
    moved: String(Math.round(point.movedMah)),
    minutes: String(Math.max(1, Math.round(shown.seconds / 60))),
  };
}

/** So long after the expected end nobody knows when it really ended. */
const LATE_MS = 10 * MINUTE_MS;

interface EndDraft {
  readonly ending: ChargeEnding;
  readonly cells: string;
  readonly moved: string;
  readonly minutes: string;
  readonly felt: Felt | '';
  readonly remarks: string;
  /** The id of the field pack that fed the charger or took the charge back; empty for none. */
  readonly fieldPack: string;
}

function EndJob({
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
  const draftKey = `end.${job.id}`;
  const [kept, setKept] = useDraft<Partial<EndDraft>>(draftKey, {});
  const spoken = spokenOf(useDevices(), job.equipmentId, job.channel);
  const told = spoken?.shows.jobId === job.id ? spoken.shows : null;
  const curve = useCurveOfJob(job.id, told !== null);
  const draft: EndDraft = {
    ...toldEnd(told, curve?.points ?? [], job),
    felt: '',
    remarks: '',
    fieldPack: '',
    ...kept,
  };
  const [pressed, setPressed] = useState(false);
  const [problem, setProblem] = useState<readonly string[]>([]);
  const [busy, setBusy] = useState(false);
  const fieldRecord = useRef(newId() as RecordId);
  const fieldPacks = (usePackRows().data ?? []).filter(
    ({ id, fieldPack, life }) => fieldPack && life === 'in-service' && !job.packIds.includes(id),
  );
  const empties = job.do === 'lower' || job.do === 'discharge';
  const records = useRef(job.packIds.map((packId) => ({ packId, id: newId() as RecordId })));
  const tags = tagsOf(job, charging);
  const board = register.equipment.find(({ id }) => id === job.boardId)?.facts;
  const series = board?.kind === 'board' && board.wiring === 'series' ? board : null;
  const lithium = isLithium(job.setting.chemistry);
  const set =
    <Field extends keyof EndDraft>(field: Field) =>
    (value: EndDraft[Field]) =>
      setKept({ ...kept, [field]: value });

  const typed = parseVolts(draft.cells, { chemistry: job.setting.chemistry, series: job.setting.cells });
  const wrongCells = draft.cells.trim() !== '' && typed.outcome === 'refused' ? 'refused' : null;
  const shownMv = typed.outcome === 'cells' ? typed.cellsMv : null;
  const slots = series && shownMv ? slotReadings(series.slotCells, shownMv) : null;
  const moved = parseMah(draft.moved);
  const minutesTyped = parseMinutes(draft.minutes);
  const taken = Math.max(1, Math.round((reader.now - job.start) / MINUTE_MS));
  const late = reader.now - job.end;
  // A charge that ended by itself while nobody looked took nobody knows how long.
  const endedAlone = draft.ending === 'complete' && late > LATE_MS;
  const errors = {
    cells: wrongCells
      ? `Type ${job.setting.cells} cells as the charger shows them, or leave it empty.`
      : undefined,
    moved:
      moved.outcome === 'figure' || moved.outcome === 'empty'
        ? undefined
        : 'Type the charge as mAh, or leave it empty.',
    minutes:
      minutesTyped.outcome === 'figure' || minutesTyped.outcome === 'empty'
        ? undefined
        : 'Type whole minutes.',
  };

  const end = async () => {
    setPressed(true);
    if (Object.values(errors).some((one) => one !== undefined)) return;
    setBusy(true);
    setProblem([]);
    try {
      const answer = await ask('POST /charging/jobs/:id/end', {
        params: { id: job.id },
        body: {
          at: currentTime(),
          ending: draft.ending,
          records: records.current.map(({ packId, id }, i) => ({
            packId,
            id,
            endCellsMv: series
              ? slots
                ? [slots[i]!]
                : null
              : job.packIds.length === 1 && shownMv
                ? [...shownMv]
                : null,
          })),
          movedMah: moved.outcome === 'figure' ? moved.value : null,
          minutes: minutesTyped.outcome === 'figure' ? minutesTyped.value : endedAlone ? null : taken,
          temperatureC: told?.point?.celsius ?? null,
          felt: draft.felt === '' ? null : draft.felt,
          balanced:
            draft.ending === 'complete' && job.setting.mode === 'balance' && job.do === 'charge'
              ? true
              : null,
          remarks: draft.remarks,
          fieldPack: draft.fieldPack ? { packId: draft.fieldPack, recordId: fieldRecord.current } : null,
        },
      });
      queryClient.setQueryData(KEYS.charging, answer);
      dropDraft(draftKey);
      say(
        job.do === 'raise' || job.do === 'lower'
          ? 'Written down. Read it again when it has rested for 30 minutes.'
          : 'Written down.',
      );
      await navigate('/charging/bench');
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(
        error.problem === null
          ? ['No connection. What you typed is kept here; send it again when it is back.']
          : error.fields.length > 0
            ? error.fields.map(({ message }) => message)
            : [error.problem.detail ?? error.message],
      );
      if (error.code === 'changed-meanwhile') void queryClient.invalidateQueries({ queryKey: KEYS.charging });
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="mx-auto grid max-w-2xl gap-4"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void end();
      }}
    >
      <title>{`End of ${tags.join(' ')} · Malle`}</title>
      <div>
        <p className="text-faint">
          {stationName(register.equipment, job.equipmentId, job.channel)} · {JOB_WORDS[job.do]}, since{' '}
          {clockWords(job.start, reader)}
          {late > LATE_MS && `, expected to end at ${clockWords(job.end, reader)}`}
        </p>
        <h1 className="font-mono text-3xl">{tags.join(' ')}</h1>
        <p className="mt-1 border-l-4 border-accent pl-3">
          First the pack off the lead, then the lead off the charger: a lead pulled out there has bare live
          plugs.
        </p>
      </div>
      {told && (
        <p role="status" className="text-sm text-faint">
          As {spoken!.device.name} tells it. What you change is written down as you say.
        </p>
      )}
      <SelectField
        label="How it ended"
        value={draft.ending}
        onChange={(value) => set('ending')(value as ChargeEnding)}
      >
        {CHARGE_ENDINGS.map((one) => (
          <SelectOption key={one} value={one}>
            {ENDING_WORDS[one]}
          </SelectOption>
        ))}
      </SelectField>
      {lithium && (job.packIds.length === 1 || series) && (
        <TextField
          label="Cells at the end"
          inputMode="decimal"
          autoFocus
          hint={
            series
              ? slots
                ? `Slot by slot: ${slots.map((mv, i) => `${tags[i]} ${(mv / 1000).toFixed(2)}`).join(', ')}.`
                : 'As the charger shows them; the board’s map puts each to its pack.'
              : 'As the charger shows them: 420 419 420 420.'
          }
          error={pressed ? errors.cells : undefined}
          value={draft.cells}
          onChange={({ target }) => set('cells')(target.value)}
        />
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label="Charge moved, mAh"
          inputMode="decimal"
          hint={job.packIds.length > 1 && !series ? 'Shared out by capacity as an estimate.' : undefined}
          error={pressed ? errors.moved : undefined}
          value={draft.moved}
          onChange={({ target }) => set('moved')(target.value)}
        />
        <TextField
          label="Minutes"
          inputMode="numeric"
          placeholder={endedAlone ? '' : String(taken)}
          hint={endedAlone ? 'Empty: not known, since it ended by itself.' : 'Empty: since it was started.'}
          error={pressed ? errors.minutes : undefined}
          value={draft.minutes}
          onChange={({ target }) => set('minutes')(target.value)}
        />
      </div>
      <Choice
        label="It felt"
        value={draft.felt}
        onChange={(value) => set('felt')(value)}
        options={
          [
            { value: '', label: 'not felt' },
            ...FELT.map((one) => ({ value: one, label: FELT_WORDS[one] })),
          ] as { value: Felt | ''; label: string }[]
        }
      />
      {fieldPacks.length > 0 && (
        <SelectField
          label={empties ? 'Given back to' : 'Fed by'}
          hint={draft.fieldPack && 'Written down for the field pack too, as an estimate.'}
          value={draft.fieldPack}
          onChange={set('fieldPack')}
        >
          <SelectOption value="">{empties ? 'no field pack' : 'the mains or another supply'}</SelectOption>
          {fieldPacks.map(({ id, tag }) => (
            <SelectOption key={id} value={id}>
              {tag}
            </SelectOption>
          ))}
        </SelectField>
      )}
      <TextField
        label="Remarks"
        value={draft.remarks}
        onChange={({ target }) => set('remarks')(target.value)}
      />
      {problem.length > 0 && (
        <Notice title="It was not written down.">
          <ul>
            {problem.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </Notice>
      )}
      <Button type="submit" weight="main" className="min-h-12 text-lg" disabled={busy}>
        It is off the charger
      </Button>
    </form>
  );
}
