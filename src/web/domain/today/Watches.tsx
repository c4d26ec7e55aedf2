import { Link } from 'react-router';
import type { TodayAnswer } from '../../../contract';
import { INCIDENT_WORDS, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { ButtonLink } from '../../kit/Button';
import { WatchTimer } from '../lifecycle/WatchTimer';

/** Packs nobody goes near, counting down; over, they are inspected. */
export function Watches({ watches }: { watches: TodayAnswer['watches'] }) {
  const reader = useReader();
  if (watches.length === 0) return null;
  return (
    <ul aria-label="In quarantine" className="mb-5 border-y-2 border-red">
      {watches.map(({ packId, tag, incidentId, kind, from, until }) => (
        <li key={packId} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
          <Link
            to={`/packs/${packId}`}
            className="inline-flex min-h-11 w-20 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
          >
            {tag}
          </Link>
          <WatchTimer from={from} until={until} />
          <span className="min-w-0 flex-1 basis-48 text-sm">
            <Link to={`/incidents/${incidentId}`} className="underline underline-offset-3">
              {INCIDENT_WORDS[kind].name}
            </Link>
            , {reader.now < until ? `keep off until ${whenWords(until, reader)}` : 'to be inspected first'}
          </span>
          {reader.now >= until && (
            <ButtonLink to={`/packs/${packId}`} state={{ step: 'inspect-held' }} weight="main">
              Inspect it
            </ButtonLink>
          )}
        </li>
      ))}
    </ul>
  );
}
