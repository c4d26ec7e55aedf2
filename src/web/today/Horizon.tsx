import { useDeferredValue } from 'react';
import { Link } from 'react-router';
import type { FlyingDayAnswer, TodayItem } from '../../contract';
import type { Instant } from '../../core/measure';
import { dueWords, plural, STEP_WORDS, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { ButtonLink } from '../kit/Button';
import { VerdictShape } from '../kit/VerdictMark';
import { barParts, horizonAxis, midnights } from './horizonAxis';
import type { BarPart, HorizonAxis } from './horizonAxis';

/** Tag, bar, due, action; on a phone the bar takes a line of its own. */
const ROW =
  'grid grid-cols-[8rem_1fr_auto] md:grid-cols-[8.5rem_minmax(0,1fr)_17.5rem_12.5rem] items-center gap-x-3';

/** Every pack outside its storage band on one time axis, from the moment it left to the hour it is due. */
export function Horizon({
  items,
  total,
  flying,
}: {
  items: readonly TodayItem[];
  total: number;
  flying: readonly FlyingDayAnswer[];
}) {
  const reader = useReader();
  const axis = horizonAxis(reader.now);
  const days = midnights(axis, reader).map(({ at }) => at);
  const shown = useDeferredValue(items.length, FIRST_ROWS);
  const posts = flying.filter(({ at, cancelled }) => !cancelled && at > axis.from && at < axis.to);
  return (
    <section aria-label="Storage horizon">
      <div className={`${ROW} border-b-2 border-ink`}>
        <h2 className="pb-1 max-md:col-span-3 md:whitespace-nowrap">Storage horizon</h2>
        <Ruler axis={axis} posts={posts} />
        <span className="pb-1 text-sm text-faint max-md:hidden">{plural(total, 'pack')} out of band</span>
        <span className="max-md:hidden" />
      </div>
      {items.length === 0 && <p className="py-3 text-faint">Every measured pack is in its storage band.</p>}
      <ul>
        {items.slice(0, shown).map((item) => (
          <HorizonRow key={item.id} item={item} axis={axis} days={days} posts={posts} now={reader.now} />
        ))}
      </ul>
      {total > items.length && (
        <Link to="/packs?q=out-of-band&sort=due" className="block py-2 font-bold text-accent underline">
          {total - items.length} more in Packs, the most urgent first
        </Link>
      )}
    </section>
  );
}

/** More rows than a screen has lines are drawn after these. */
const FIRST_ROWS = 12;

function Ruler({ axis, posts }: { axis: HorizonAxis; posts: readonly FlyingDayAnswer[] }) {
  const reader = useReader();
  const nowPercent = axis.percent(reader.now);
  return (
    <div className="relative h-9 self-end text-xs text-faint max-md:hidden" aria-hidden="true">
      {midnights(axis, reader).map(({ at, day }) => (
        <span
          key={at}
          className="absolute bottom-0 border-l border-rule pl-1 whitespace-nowrap"
          style={{ left: `${axis.percent(at)}%` }}
        >
          {axis.percent(at) < 92 && day}
        </span>
      ))}
      {posts.map(({ id, at, place }) => (
        <span
          key={id}
          title={`Flying: ${place}`}
          className="absolute top-0 max-w-28 -translate-x-1/2 truncate border border-accent bg-sheet px-1 text-accent"
          style={{ left: `${axis.percent(at)}%` }}
        >
          flying
        </span>
      ))}
      <span
        className="absolute top-0 -translate-x-1/2 bg-ink px-1 font-bold text-ground"
        style={{ left: `${nowPercent}%` }}
      >
        now
      </span>
    </div>
  );
}

function HorizonRow({
  item,
  axis,
  days,
  posts,
  now,
}: {
  item: TodayItem;
  axis: HorizonAxis;
  days: readonly Instant[];
  posts: readonly FlyingDayAnswer[];
  now: Instant;
}) {
  const reader = useReader();
  const { since, dueAt, next } = item;
  if (since === null || dueAt === null) return null;
  const urgent = next?.do === 'store-up-now';
  const overdue = now >= dueAt;
  return (
    <li className={`${ROW} ruled py-1 max-md:py-2`}>
      <span className="flex items-center gap-2">
        <VerdictShape verdict={item.verdict} charged={item.charged} />
        <Link
          to={`/packs/${item.id}`}
          className="inline-flex min-h-11 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
        >
          {item.tag}
        </Link>
        <span className="text-sm text-faint">{item.storage}</span>
      </span>
      <Bar
        axis={axis}
        parts={barParts(axis, since, dueAt, now)}
        now={now}
        days={days}
        posts={posts}
        says={`Out of band since ${whenWords(since, reader)}`}
      />
      <span className={`text-sm max-md:col-span-2 ${overdue || urgent ? 'font-bold text-red' : ''}`}>
        {urgent ? 'nearly flat: bring it up now' : dueWords(dueAt, reader)}
      </span>
      {next && (
        <ButtonLink
          to={`/packs/${item.id}`}
          state={{ step: next.do }}
          weight={overdue || urgent ? 'main' : 'plain'}
          className="max-md:col-start-3 max-md:row-start-2"
        >
          {STEP_WORDS[next.do]}
        </ButtonLink>
      )}
    </li>
  );
}

const PART: Readonly<Record<BarPart['kind'], string>> = {
  used: 'bg-used',
  left: 'border-y border-r border-rule bg-sheet',
  overdue: 'hatched border border-red',
};

function Bar({
  axis,
  parts,
  days,
  posts,
  now,
  says,
}: {
  axis: HorizonAxis;
  parts: readonly BarPart[];
  days: readonly Instant[];
  posts: readonly FlyingDayAnswer[];
  now: Instant;
  says: string;
}) {
  return (
    <span role="img" aria-label={says} className="relative block h-7 max-md:col-span-2">
      {days.map((at) => (
        <span key={at} className="absolute inset-y-0 w-px bg-line" style={{ left: `${axis.percent(at)}%` }} />
      ))}
      {parts.map(({ kind, leftPercent, widthPercent }) => (
        <span
          key={kind}
          className={`absolute inset-y-1.5 ${PART[kind]}`}
          style={{ left: `${leftPercent}%`, width: `${widthPercent}%` }}
        />
      ))}
      {posts.map(({ id, at }) => (
        <span
          key={id}
          className="absolute inset-y-0 w-1 bg-accent"
          style={{ left: `${axis.percent(at)}%` }}
        />
      ))}
      <span className="absolute inset-y-0 w-px bg-ink" style={{ left: `${axis.percent(now)}%` }} />
    </span>
  );
}
