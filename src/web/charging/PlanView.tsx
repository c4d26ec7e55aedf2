import { useMemo, useState } from 'react';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, RegisterAnswer } from '../../contract';
import type { Bound, Plan, PlannedJob } from '../../core/charging';
import { MINUTE_MS } from '../../core/measure';
import type { JobId } from '../../core/measure';
import { clockWords, plural, whenWords } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { currentTime, useReader } from '../app/clock';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useMay } from '../domain/Person';
import { Button, ButtonLink } from '../kit/Button';
import { Empty, Notice } from '../kit/Message';
import { ProgressLine } from '../kit/ProgressBar';
import { JobPanel } from './JobPanel';
import { LeftOut } from './LeftOut';
import { NoCharger } from './NoCharger';
import { berthOf, keyOf, NOTHING_WANTED, planInput } from './planInput';
import type { Wanted } from './planInput';
import { PrintedJobs } from './PrintedJobs';
import { Timetable } from './Timetable';
import type { Bar } from './Timetable';
import { usePlan } from './usePlan';
import type { Planned } from './usePlan';
import { boundWords, tagsOf, wishWords } from './words';

/** Tonight's plan: the one that is kept, or one in the making that may take its place. */
export function PlanView({ charging, register }: { charging: ChargingAnswer; register: RegisterAnswer }) {
  const kept = charging.jobs.filter(({ state }) => state === 'planned');
  const mayPlan = useMay('bench.plan');
  // Planning goes on from one moment, so that the plan on the page does not slide while it is looked at.
  const begin = () => ({ from: currentTime(), version: charging.version });
  const [begun, setBegun] = useState(() => (kept.length === 0 && mayPlan ? begin() : null));
  const from = begun?.from ?? null;
  const [wanted, setWanted] = useState<Wanted>(() => ({ ...NOTHING_WANTED, leftOut: charging.leftOutIds }));
  const [chosen, setChosen] = useState<string | null>(null);
  const { rules } = register.rules;
  const made = useMemo(
    () => (from === null ? null : planInput(charging, register.equipment, rules, wanted, from)),
    [charging, register.equipment, rules, wanted, from],
  );
  const planned = usePlan(made?.input ?? null);
  const shownJobs = from === null ? kept : null;
  const bars =
    from === null
      ? keptBars(charging)
      : [...plannedBars(planned.plan), ...keptBars(charging).filter(({ state }) => state !== 'planned')];

  const again = (next: Partial<Wanted> = {}) => {
    const locked = from === null ? kept.filter((job) => job.locked).map(berthOf) : wanted.locked;
    setWanted((now) => ({ ...now, locked, ...next }));
    setBegun(begin());
  };
  if (charging.attended.length === 0 && kept.length === 0)
    return (
      <Empty title="Say first who watches the bench, and when.">
        <p className="mb-3">
          No charge runs unattended, so a plan lies inside the hours somebody has promised.
        </p>
        <ButtonLink to="/charging/days" weight="main">
          Days and people
        </ButtonLink>
      </Empty>
    );
  if (!register.equipment.some(({ facts, inUse }) => facts.kind === 'charger' && inUse)) return <NoCharger />;
  return (
    <>
      {shownJobs ? (
        <KeptHead charging={charging} onAgain={() => again()} />
      ) : (
        <DraftHead
          planned={planned}
          charging={charging}
          wanted={wanted}
          onKept={() => {
            setBegun(null);
            setChosen(null);
          }}
          onDrop={kept.length > 0 ? () => setBegun(null) : null}
          overtaken={begun !== null && begun.version !== charging.version}
          onAgain={() => again()}
        />
      )}
      <Timetable bars={bars} charging={charging} register={register} chosen={chosen} onChoose={setChosen} />
      <Legend />
      {chosen !== null && (
        <JobPanel
          key={chosen}
          chosen={chosen}
          planned={planned.plan}
          charging={charging}
          register={register}
          wanted={from === null ? null : wanted}
          onWanted={(next) => again(next)}
          onClose={() => setChosen(null)}
        />
      )}
      {planned.plan && made && from !== null && (
        <LeftOut
          plan={planned.plan}
          demand={made.demand}
          register={register}
          onPutBack={(id) => again({ leftOut: wanted.leftOut.filter((one) => one !== id) })}
        />
      )}
      <PrintedJobs
        bars={bars}
        register={register}
        jobs={shownJobs ?? planned.plan?.jobs ?? []}
        charging={charging}
      />
    </>
  );
}

function plannedBars(plan: Plan | null): Bar[] {
  return (plan?.jobs ?? []).map((job) => ({
    key: keyOf(job),
    do: job.do,
    tags: job.packs.map(({ tag }) => tag),
    equipmentId: job.equipmentId,
    channel: job.channel,
    start: job.start,
    end: job.end,
    state: 'planned',
    locked: job.locked,
  }));
}

function keptBars({ jobs, packs }: ChargingAnswer): Bar[] {
  return jobs.map((job) => ({
    key: job.id,
    do: job.do,
    tags: tagsOf(job, { packs }),
    equipmentId: job.equipmentId,
    channel: job.channel,
    start: job.start,
    end: job.end,
    state: job.state,
    locked: job.locked && job.state === 'planned',
  }));
}

function KeptHead({ charging, onAgain }: { charging: ChargingAnswer; onAgain: () => void }) {
  const reader = useReader();
  const mayPlan = useMay('bench.plan');
  const open = charging.jobs.filter(({ state }) => state === 'planned');
  const late = open.filter(({ start }) => start < reader.now - 10 * MINUTE_MS);
  const next = open.find(({ start }) => start >= reader.now - 10 * MINUTE_MS);
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
      <p className="min-w-0 flex-1">
        <b>{plural(open.length, 'job')} to come.</b> {next && <>Next at {clockWords(next.start, reader)}. </>}
        {late.length > 0 && (
          <b className="text-red">{plural(late.length, 'job')} should have begun: start or plan again. </b>
        )}
        <span className="text-faint">
          {charging.keptAt !== null && `Kept ${whenWords(charging.keptAt, reader)}.`}
        </span>
      </p>
      <ButtonLink to="/charging/bench" weight={late.length > 0 ? 'plain' : 'main'}>
        To the bench
      </ButtonLink>
      {mayPlan && (
        <Button weight={late.length > 0 ? 'main' : 'plain'} onClick={onAgain}>
          Plan again from now
        </Button>
      )}
      <Button weight="quiet" onClick={() => window.print()}>
        Print
      </Button>
    </div>
  );
}

function DraftHead({
  planned,
  charging,
  wanted,
  onKept,
  onDrop,
  onAgain,
  overtaken,
}: {
  planned: Planned & { readonly stop: () => void };
  charging: ChargingAnswer;
  wanted: Wanted;
  onKept: () => void;
  onDrop: (() => void) | null;
  onAgain: () => void;
  /** Whether somebody kept another plan since this one was begun. */
  overtaken: boolean;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { plan, state, share } = planned;
  const keep = async () => {
    if (!plan) return;
    setBusy(true);
    setProblem(null);
    try {
      const answer = await ask('PUT /charging/plan', {
        body: { version: charging.version, jobs: plan.jobs.map(jobToKeep), leftOutIds: wanted.leftOut },
      });
      queryClient.setQueryData(KEYS.charging, answer);
      say('The plan is kept: everybody sees it.');
      onKept();
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.problem?.detail ?? error.says);
      if (error.code === 'changed-meanwhile') void queryClient.invalidateQueries({ queryKey: KEYS.charging });
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mb-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <p className="min-h-12 min-w-0 flex-1" aria-live="polite">
          {plan && <Summary plan={plan} bound={planned.bound} />}
          {!plan && state !== 'failed' && 'Planning …'}
        </p>
        {state === 'planning' && (
          <Button weight="plain" onClick={planned.stop}>
            Stop here
          </Button>
        )}
        <Button
          weight="main"
          disabled={busy || overtaken || !plan || plan.jobs.length === 0}
          onClick={() => void keep()}
        >
          Keep this plan
        </Button>
        {(state === 'stopped' || state === 'failed') && (
          <Button weight="plain" onClick={onAgain}>
            Plan once more
          </Button>
        )}
        {onDrop && (
          <Button weight="quiet" onClick={onDrop}>
            Back to the kept one
          </Button>
        )}
      </div>
      {/* Its place is kept: the timetable must not move under a hand when planning ends. */}
      <div className="mt-2 h-2">
        {state === 'planning' && share > 0 && (
          <ProgressLine label="Looking for a better one" done={Math.round(share * 100)} of={100} />
        )}
      </div>
      {state === 'failed' && <Notice title="Planning failed in this browser. Try once more." />}
      {overtaken && (
        <Notice title="Somebody kept another plan meanwhile. Look at that one, or plan again from it.">
          <Button weight="quiet" onClick={onAgain}>
            Plan again
          </Button>
        </Notice>
      )}
      {problem && <Notice title={problem} />}
    </div>
  );
}

function Summary({ plan, bound }: { plan: Plan; bound: Bound | null | undefined }) {
  const packs = plan.jobs.reduce((sum, job) => sum + job.packs.length, 0);
  const distance = bound ? boundWords(bound) : '';
  if (plan.jobs.length === 0) return <b>Nothing to be done that can be done.</b>;
  return (
    <>
      <b>
        {plural(plan.jobs.length, 'job')}, {plural(packs, 'pack')}.
      </b>{' '}
      {wishWords(plan.wishes).join(', ')}.{' '}
      {distance && <span className="font-bold text-leaf">{distance}</span>}
    </>
  );
}

function jobToKeep({ packs, ...job }: PlannedJob) {
  const flights = packs.flatMap(({ need }) => (need.do === 'fill' ? [need.flightAt] : []));
  return {
    id: newId() as JobId,
    do: job.do,
    packIds: packs.map(({ id }) => id),
    equipmentId: job.equipmentId,
    channel: job.channel,
    boardId: job.boardId,
    adapterId: job.adapterId,
    setting: job.setting,
    start: job.start,
    end: job.end,
    peakW: job.peakW,
    locked: job.locked,
    reason: { ...job.reason } as { because: string },
    flightAt: flights.length > 0 ? Math.min(...flights) : null,
  };
}

function Legend() {
  return (
    <p className="mt-1 mb-4 flex flex-wrap gap-x-5 text-sm text-faint">
      <span>▲ charge full</span>
      <span>↑ up to storage</span>
      <span>↓ down to storage</span>
      <span>⤓ empty for a cycle</span>
    </p>
  );
}
