import { Link } from 'react-router';
import type { TodayAnswer } from '../../../contract';
import { watchOf } from '../../../core/charging';
import { clockWords, span } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useRegister } from '../../app/queries';
import { useNames } from '../useNames';
import { ButtonLink } from '../../kit/Button';

/** What is on charge, for everybody: who watches it, and which charge nobody watches. */
export function OnCharge({ running }: { running: TodayAnswer['onCharge'] }) {
  const reader = useReader();
  const names = useNames();
  const rules = useRegister().data?.rules.rules;
  if (running.length === 0 || !rules) return null;
  return (
    <ul aria-label="On charge" className="mb-5 border-y-2 border-ink">
      {running.map(({ job, tags }) => {
        const watch = watchOf(job, reader.now, rules);
        const alarm = watch === 'unwatched' || watch === 'stop-now';
        return (
          <li key={job.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
            {tags.map((tag, i) => (
              <Link
                key={tag}
                to={`/packs/${job.packIds[i]}`}
                className="inline-flex min-h-11 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
              >
                {tag}
              </Link>
            ))}
            <span className={alarm ? 'font-bold text-red' : ''}>
              {watch === 'stop-now' && 'runs far longer than it should: stop it at the charger'}
              {watch === 'unwatched' &&
                `on charge, and nobody has said for ${span(reader.now - (job.seenAt ?? job.start))} that they watch it`}
              {!alarm &&
                `on charge until ${clockWords(job.end, reader)}${job.end < reader.now ? `, expected to end ${span(reader.now - job.end)} ago` : ''}`}
            </span>
            <span className="min-w-40 flex-1 text-sm text-faint">
              {job.attendantId && `watched by ${names.person(job.attendantId)}`}
            </span>
            <ButtonLink to="/charging/bench" weight={alarm ? 'main' : 'plain'}>
              To the bench
            </ButtonLink>
          </li>
        );
      })}
    </ul>
  );
}
