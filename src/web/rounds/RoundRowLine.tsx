import { memo } from 'react';
import { Link } from 'react-router';
import type { PackId } from '../../core/measure';
import { dueWords, OUTCOME_WORDS, STEP_WORDS, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { useRegister } from '../app/queries';
import { VerdictMark } from '../kit/VerdictMark';
import { RowCells } from './RowCells';
import type { RowView } from './useRound';

/**
 * A row that is not being worked: how it stands, what comes next for the pack, and who ended it. Drawn anew only when it
 * changed: a key typed in the row at hand must not wait for forty others.
 */
export const RoundRowLine = memo(function RoundRowLine({
  row,
  problem,
  typed,
  onOpen,
}: {
  row: RowView;
  problem: string | null;
  typed: boolean;
  /** Goes to this row; null where nobody may. */
  onOpen: ((packId: PackId) => void) | null;
}) {
  const reader = useReader();
  const register = useRegister().data;
  const { pack, type, outcome, outgoing } = row;
  if (!pack || !type || !register) return null;
  const refused =
    problem ?? (outgoing?.state === 'refused' ? (outgoing.problem?.title ?? 'Not taken.') : null);
  const who = register.people.find(({ id }) => id === row.by)?.name ?? '';
  const ended = outcome !== null;
  const whereabouts =
    register.people.find(({ id }) => id === pack.holderId)?.name ??
    register.places.find(({ id }) => id === pack.placeId)?.name;
  return (
    <li className={`ruled py-1 text-sm ${ended ? '' : 'text-faint'}`}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {onOpen ? (
          <button
            type="button"
            onClick={() => onOpen(row.packId)}
            className="min-h-11 w-20 text-left font-mono text-base font-bold text-accent underline-offset-3 hover:underline md:min-h-7"
          >
            {pack.tag}
          </button>
        ) : (
          <Link
            to={`/packs/${pack.id}`}
            className="inline-flex min-h-11 w-20 items-center font-mono text-base font-bold text-accent md:min-h-7"
          >
            {pack.tag}
          </Link>
        )}
        <span className="w-24">
          {outgoing?.state === 'waiting' ? (
            <b className="text-amber">waiting</b>
          ) : ended ? (
            <b className={outcome === 'stopped' ? 'text-red' : 'text-leaf'}>{OUTCOME_WORDS[outcome]}</b>
          ) : row.at !== null ? (
            'under way'
          ) : typed ? (
            'typed, not saved'
          ) : (
            'open'
          )}
        </span>
        <RowCells pack={pack} type={type} rules={register.rules.rules} />
        <span className="w-32">
          <VerdictMark verdict={pack.verdict} charged={pack.charged} />
        </span>
        <span className="min-w-0 flex-1 basis-40">
          {row.reason ?? (
            <>
              {!ended && whereabouts}
              {ended && pack.next && STEP_WORDS[pack.next.do]}
              {ended && pack.next?.dueAt != null && `, ${dueWords(pack.next.dueAt, reader)}`}
            </>
          )}
        </span>
        {row.at !== null && (
          <span className="text-faint">
            {who}, {whenWords(row.at, reader)}
          </span>
        )}
      </div>
      {refused && (
        <p role="alert" className="font-bold text-red">
          Not taken: {refused}
        </p>
      )}
    </li>
  );
});
