import { Link } from 'react-router';
import type { TodayItem } from '../../contract';
import { sentence, span } from '../../core/wording';
import { useReader } from '../app/clock';
import { needsAt } from '../domain/lifecycle/NeedsList';
import { useMay } from '../domain/Person';
import { ButtonLink } from '../kit/Button';
import { Empty } from '../kit/Message';
import { VerdictMark } from '../kit/VerdictMark';

/** Packs that wait for a person's word, the oldest first. */
export function Waiting({ items }: { items: readonly TodayItem[] }) {
  const reader = useReader();
  const mayDecide = useMay('record.decision');
  return (
    <>
      {mayDecide && (
        <p className="mb-3">
          <Link to="/end-of-life/batch" className="font-bold text-accent underline">
            Retire several of a type or delivery
          </Link>
        </p>
      )}
      {items.length === 0 && (
        <Empty title="No pack waits for a decision.">
          Any pack can still be retired from its own page, under “What becomes of it”.
        </Empty>
      )}
      <ul className="border-t-2 border-ink">
        {items.map(({ id, tag, verdict, finding, outSince, needs }) => {
          const missing = needsAt(needs, reader.now).filter(({ met }) => !met).length;
          return (
            <li
              key={id}
              className="ruled grid items-center gap-x-5 gap-y-1 py-1.5 md:grid-cols-[5rem_9rem_7rem_minmax(0,1fr)_auto]"
            >
              <Link
                to={`/packs/${id}`}
                className="inline-flex min-h-11 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
              >
                {tag}
              </Link>
              <VerdictMark verdict={verdict} />
              <span className="text-sm text-faint">
                {outSince === null ? '' : `for ${span(Math.max(0, reader.now - outSince))}`}
              </span>
              <span className="text-sm">{finding && sentence(finding, reader, true)}</span>
              <ButtonLink to={`/packs/${id}/decide`} weight={missing === 0 ? 'main' : 'plain'}>
                {mayDecide ? 'Decide' : 'For and against'}
              </ButtonLink>
            </li>
          );
        })}
      </ul>
    </>
  );
}
