import { Link } from 'react-router';
import type { TodayAnswer } from '../../../contract';
import { HOUR_MS } from '../../../core/measure';
import { volts, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { localMinute } from '../../app/days';
import { readDraft, saveDraft } from '../../app/drafts';
import { ButtonLink } from '../../kit/Button';
import { usePerson } from '../Person';
import { useNames } from '../useNames';
import { Section } from './Section';

/** The form opens with a time that lies between the two readings, for only then does it explain the second. */
function beginEntry({ packId, direction, fromAt, toAt }: TodayAnswer['unexplained'][number]): void {
  const key = `${direction === 'use' ? 'flight' : 'charge'}.${packId}`;
  const ended = Math.max((fromAt + toAt) / 2, toAt - HOUR_MS);
  if (readDraft(key) === undefined) saveDraft(key, { ended: localMinute(ended) });
}

/** What the cells tell and nobody wrote down: one’s own first, for whoever had the pack knows. */
export function Unexplained({ items }: { items: TodayAnswer['unexplained'] }) {
  const reader = useReader();
  const names = useNames();
  const me = usePerson().id;
  const mine = ({ holderId }: TodayAnswer['unexplained'][number]) => holderId === me;
  if (items.length === 0) return null;
  return (
    <Section title="Used or charged, and not written down" count={items.length}>
      <ul>
        {[...items.filter(mine), ...items.filter((item) => !mine(item))].map((item) => {
          const { packId, tag, direction, fromAt, toAt, fromMv, toMv, holderId } = item;
          return (
            <li key={packId} className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
              <Link
                to={`/packs/${packId}`}
                className="inline-flex min-h-11 w-16 items-center font-mono font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
              >
                {tag}
              </Link>
              <span className="min-w-0 flex-1 basis-56 text-sm">
                {mine(item) && <b>You had it last. </b>}
                {volts(fromMv)} V {whenWords(fromAt, reader)}, {volts(toMv)} V {whenWords(toAt, reader)}
                {holderId && !mine(item) && (
                  <span className="text-faint">, last with {names.person(holderId)}</span>
                )}
              </span>
              <ButtonLink
                to={`/packs/${packId}`}
                state={{ entry: direction === 'use' ? 'flight' : 'charge' }}
                onClick={() => beginEntry(item)}
                weight={mine(item) ? 'main' : 'plain'}
              >
                {direction === 'use' ? 'Log the flight' : 'Log the charge'}
              </ButtonLink>
            </li>
          );
        })}
      </ul>
    </Section>
  );
}
