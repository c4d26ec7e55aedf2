import { useDeferredValue } from 'react';
import { Link } from 'react-router';
import type { TodayAnswer, TodayItem } from '../../contract';
import { isOutOfUse } from '../../core/assess';
import type { TaskKind } from '../../core/assess';
import type { RoundKind } from '../../core/rounds';
import {
  dueWords,
  INCIDENT_WORDS,
  LIFE_WORDS,
  plural,
  sentence,
  STEP_WORDS,
  whenWords,
} from '../../core/wording';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { MachineTroubles } from '../domain/today/MachineTroubles';
import { OnCharge } from '../domain/today/OnCharge';
import { Section } from '../domain/today/Section';
import { Unexplained } from '../domain/today/Unexplained';
import { Watches } from '../domain/today/Watches';
import { InTwoHands } from '../domain/custody/InTwoHands';
import { useNames } from '../domain/useNames';
import { useRegister } from '../app/queries';
import { useToday } from '../domain/waitingRows';
import { ButtonLink } from '../kit/Button';
import { CellLadder } from '../kit/CellLadder';
import { Loading } from '../kit/Message';
import { VerdictShape } from '../kit/VerdictMark';
import { FirstSteps } from './FirstSteps';
import { Horizon } from './Horizon';

/** What needs hands now. */
export function TodayPage() {
  const today = useToday();
  // What lies below the horizon is drawn once the horizon stands: a phone shows that first.
  const isDrawn = useDeferredValue(today.data !== undefined, false);
  if (today.isPending) return <Loading what="today’s work" />;
  if (today.isLoadingError) return <Failure error={today.error} retry={() => void today.refetch()} />;
  const { data } = today;
  if (data.counts.packs === 0) return <FirstSteps packs={0} measured={0} />;
  const measured = data.counts.packs - data.counts.unmeasured;
  return (
    <>
      {measured === 0 && <FirstSteps packs={data.counts.packs} measured={0} />}
      <MachineTroubles troubles={data.machine} />
      <Headline today={data} />
      <Watches watches={data.watches} />
      <OnCharge running={data.onCharge} />
      <Horizon items={data.outOfBand} total={data.outOfBandTotal} flying={data.flying} />
      {isDrawn && <BelowHorizon today={data} />}
    </>
  );
}

function BelowHorizon({ today: data }: { today: TodayAnswer }) {
  return (
    <>
      <OpenRounds rounds={data.openRounds} />
      <div className="mt-8 grid gap-x-10 gap-y-8 lg:grid-cols-2">
        <Waiting
          title="Out of use, waiting for a decision"
          items={data.held}
          total={data.heldTotal}
          empty="No pack waits for a decision."
          more="/end-of-life"
        />
        <WantedBack items={data.out} total={data.outTotal} />
        <DueList groups={data.due} />
        <Unexplained items={data.unexplained} />
        <OwnStorageOff packs={data.ownStorageOff} />
        <Tasks tasks={data.tasks} />
        <Leaving items={data.leaving} total={data.leavingTotal} />
        <Waiting
          title="To be measured"
          items={data.toMeasure}
          total={data.toMeasureTotal}
          empty="Every pack has a reading fresh enough."
          more="/packs?sort=read"
          showDue
        />
      </div>
    </>
  );
}

/** Packs that should be back by now, or that two people say they have. */
function WantedBack({ items, total }: { items: TodayAnswer['out']; total: number }) {
  const reader = useReader();
  const names = useNames();
  if (items.length === 0) return null;
  return (
    <Section title="Should be back" count={total}>
      <ul>
        {items.map((row) => (
          <li key={row.id} className="ruled py-1.5">
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <VerdictShape verdict={row.verdict} charged={row.charged} />
              <Link
                to={`/packs/${row.id}`}
                className="inline-flex min-h-11 w-16 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
              >
                {row.tag}
              </Link>
              <span className="min-w-0 flex-1 basis-52 text-sm">
                {row.holderId && <b>{names.person(row.holderId)}</b>}
                {row.out && (
                  <>
                    , out since {whenWords(row.out.since, reader)}
                    {row.out.wantedBackAt <= reader.now && (
                      <span className="font-bold text-red">
                        , due back {whenWords(row.out.wantedBackAt, reader)}
                      </span>
                    )}
                  </>
                )}
              </span>
              <ButtonLink to={`/flying/return?pack=${row.id}`}>Return</ButtonLink>
            </div>
            <InTwoHands row={row} />
          </li>
        ))}
      </ul>
      {total > items.length && (
        <Link to="/flying/out" className="block py-2 font-bold text-accent underline">
          {total - items.length} more
        </Link>
      )}
    </Section>
  );
}

/** Retired packs whose next step waits for a hand, or for an hour within sight. */
function Leaving({ items, total }: { items: readonly TodayItem[]; total: number }) {
  const reader = useReader();
  if (items.length === 0) return null;
  return (
    <Section title="On the way out" count={total}>
      <ul>
        {items.map(({ id, tag, life, verdict, next }) => {
          const step = next?.do ?? null;
          const dueAt = step === 'verify-again' ? (next?.dueAt ?? null) : null;
          const leads =
            step === 'consign' || step === 'hand-over' ? '/end-of-life/consignments' : `/packs/${id}`;
          return (
            <li key={id} className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
              <VerdictShape verdict={verdict} />
              <Link
                to={`/packs/${id}`}
                className="inline-flex min-h-11 w-16 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
              >
                {tag}
              </Link>
              <span className="min-w-0 flex-1 basis-40 text-sm">
                {LIFE_WORDS[life]}
                {dueAt !== null && (
                  <span className={dueAt <= reader.now ? 'font-bold text-red' : 'text-faint'}>
                    , {dueWords(dueAt, reader)}
                  </span>
                )}
              </span>
              {step && <ButtonLink to={leads}>{STEP_WORDS[step]}</ButtonLink>}
            </li>
          );
        })}
      </ul>
      {total > items.length && (
        <Link to="/end-of-life/board" className="block py-2 font-bold text-accent underline">
          {total - items.length} more
        </Link>
      )}
    </Section>
  );
}

/** Smart packs that somebody may think look after themselves. */
function OwnStorageOff({ packs }: { packs: TodayAnswer['ownStorageOff'] }) {
  if (packs.length === 0) return null;
  return (
    <Section title="Smart packs whose own storage is off" count={packs.length}>
      <ul className="flex flex-wrap gap-x-4">
        {packs.slice(0, MOST_NAMED).map(({ id, tag }) => (
          <li key={id}>
            <Link
              to={`/packs/${id}`}
              state={{ entry: 'memory' }}
              className="inline-flex min-h-11 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
            >
              {tag}
            </Link>
          </li>
        ))}
      </ul>
      {packs.length > MOST_NAMED && <p className="text-faint">and {packs.length - MOST_NAMED} more</p>}
    </Section>
  );
}

const MOST_NAMED = 24;

/** What incidents left to be done. */
function Tasks({ tasks }: { tasks: TodayAnswer['tasks'] }) {
  const reader = useReader();
  const names = useNames();
  if (tasks.length === 0) return null;
  return (
    <Section title="Follow-ups" count={tasks.length}>
      <ul>
        {tasks.map(({ id, incidentId, incidentKind, text, ownerId, dueAt }) => (
          <li key={id} className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
            <span className="min-w-0 flex-1 basis-52">
              {text}
              <span className="block text-sm text-faint">
                {names.person(ownerId)}, {INCIDENT_WORDS[incidentKind].name.toLowerCase()},{' '}
                <span className={dueAt <= reader.now ? 'font-bold text-red' : ''}>
                  {dueWords(dueAt, reader)}
                </span>
              </span>
            </span>
            <ButtonLink to={`/incidents/${incidentId}`}>Open it</ButtonLink>
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** Rounds somebody began and nobody closed: the way back in. */
function OpenRounds({ rounds }: { rounds: TodayAnswer['openRounds'] }) {
  if (rounds.length === 0) return null;
  return (
    <ul aria-label="Rounds under way" className="mt-6 border-y-2 border-ink">
      {rounds.map(({ id, title, worked, packs }) => (
        <li key={id} className="flex flex-wrap items-center gap-x-4 py-1.5">
          <b className="min-w-0 flex-1">{title}</b>
          <span className="font-mono">
            {worked} of {packs}
          </span>
          <ButtonLink to={`/rounds/${id}`} weight="main">
            Go on
          </ButtonLink>
        </li>
      ))}
    </ul>
  );
}

/** The round that works a task off. */
const ROUND_FOR: Readonly<Record<TaskKind, RoundKind | null>> = {
  'inspect-season': 'season-start',
  'complete-baseline': 'receipt',
  inspect: 'scheduled',
  'top-up': null,
  cycle: 'idle',
  're-read': 'idle',
};

/** What the calendar asks within a week, a line a task. */
function DueList({ groups }: { groups: TodayAnswer['due'] }) {
  const reader = useReader();
  return (
    <Section title="Due within a week" count={groups.reduce((sum, { total }) => sum + total, 0)}>
      {groups.length === 0 && <p className="py-2 text-faint">The calendar asks for nothing.</p>}
      <ul>
        {groups.map(({ do: task, total, overdue, firstDueAt, packs }) => {
          const round = ROUND_FOR[task];
          return (
            <li key={task} className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
              <span className="min-w-0 flex-1 basis-52">
                <Link
                  to={`/packs?q=due:${task}`}
                  className="font-bold text-accent underline-offset-3 hover:underline"
                >
                  {STEP_WORDS[task]}
                </Link>{' '}
                <span className="text-sm">
                  {plural(total, 'pack')},{' '}
                  <span className={overdue > 0 ? 'font-bold text-red' : 'text-faint'}>
                    {overdue > 0 ? `${overdue} overdue` : dueWords(firstDueAt, reader)}
                  </span>
                </span>
                <span className="block font-mono text-sm text-faint">
                  {packs.map(({ tag }) => tag).join(' ')}
                  {total > packs.length && ` + ${total - packs.length}`}
                </span>
              </span>
              {round && (
                <ButtonLink to={`/rounds?kind=${round}`}>
                  {total === 1 ? 'Begin' : 'Begin a round'}
                </ButtonLink>
              )}
            </li>
          );
        })}
      </ul>
    </Section>
  );
}

function Headline({ today }: { today: TodayAnswer }) {
  const { counts } = today;
  const reader = useReader();
  const ruled = counts.packs - counts.noRule;
  const share = ruled === 0 ? null : Math.round((counts.inBand / ruled) * 100);
  const tiles: readonly [number, string, string, string][] = [
    [counts.overdue, 'overdue', 'text-red', '/packs?q=overdue&sort=due'],
    [counts.withinAllowance, 'out of band, in time', 'text-ink', '/packs?q=out-of-band&sort=due'],
    [counts.outOfUse, 'out of use', 'text-red', '/packs?q=hold'],
    [counts.watch, 'caution', 'text-amber', '/packs?q=caution'],
    [counts.unmeasured, 'not measured', 'text-amber', '/packs?q=not+measured'],
  ];
  return (
    <div className="mb-4 flex flex-wrap items-baseline gap-x-8 gap-y-1">
      <h1>
        Today{' '}
        <span className="font-normal text-faint">{whenWords(reader.now, reader).replace('today ', '')}</span>
      </h1>
      <p className="flex flex-wrap gap-x-5">
        {share !== null && (
          <Link
            to="/storage"
            className="underline decoration-line decoration-2 underline-offset-4 hover:decoration-current"
          >
            <b>{share} %</b> of {plural(ruled, 'pack')} in band
          </Link>
        )}
        {tiles
          .filter(([count]) => count > 0)
          .map(([count, words, look, to]) => (
            <Link
              key={words}
              to={to}
              className={`underline decoration-line decoration-2 underline-offset-4 hover:decoration-current ${look}`}
            >
              <b>{count}</b> {words}
            </Link>
          ))}
      </p>
    </div>
  );
}

interface WaitingProps {
  readonly title: string;
  readonly items: readonly TodayItem[];
  readonly total: number;
  readonly empty: string;
  readonly more: string;
  readonly showDue?: boolean;
}

function Waiting({ title, items, total, empty, more, showDue = false }: WaitingProps) {
  return (
    <Section title={title} count={total}>
      {items.length === 0 && <p className="py-2 text-faint">{empty}</p>}
      <ul>
        {items.map((item) => (
          <WaitingRow key={item.id} item={item} showDue={showDue} />
        ))}
      </ul>
      {total > items.length && (
        <Link to={more} className="block py-2 font-bold text-accent underline">
          {total - items.length} more in Packs
        </Link>
      )}
    </Section>
  );
}

function WaitingRow({ item, showDue }: { item: TodayItem; showDue: boolean }) {
  const reader = useReader();
  const register = useRegister().data;
  const type = register?.types.find(({ id }) => id === item.typeId);
  const due = item.next?.dueAt ?? null;
  const said = item.finding && !showDue ? sentence(item.finding, reader, isOutOfUse(item.verdict)) : null;
  return (
    <li className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
      <VerdictShape verdict={item.verdict} charged={item.charged} />
      <Link
        to={`/packs/${item.id}`}
        className="inline-flex min-h-11 w-16 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
      >
        {item.tag}
      </Link>
      <span className="min-w-0 flex-1 basis-52 text-sm">
        {said ?? (item.readAt ? `Last read ${whenWords(item.readAt, reader)}.` : 'No rested reading yet.')}
        {showDue && due !== null && (
          <span className={due <= reader.now ? 'font-bold text-red' : 'text-faint'}>
            {' '}
            {capital(dueWords(due, reader))}.
          </span>
        )}
      </span>
      {item.cellsMv && type && register && showDue && (
        <CellLadder chemistry={type.chemistry} cellsMv={item.cellsMv} rules={register.rules.rules} />
      )}
      {item.next && (
        <ButtonLink
          to={item.next.do === 'decide' ? `/packs/${item.id}/decide` : `/packs/${item.id}`}
          state={{ step: item.next.do }}
        >
          {STEP_WORDS[item.next.do]}
        </ButtonLink>
      )}
    </li>
  );
}

function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
