import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { isOutOfUse } from '../../core/assess';
import type { Instant, PackId } from '../../core/measure';
import { byUrgency, isPressing } from '../../core/rounds';
import { dueWords, OUTCOME_WORDS, plural, STEP_WORDS } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import { say } from '../app/notices';
import { useRoundHistories } from '../domain/histories';
import type { KnownPack } from '../domain/histories';
import { useMay } from '../domain/Person';
import { KEYS, queryClient, useRegister } from '../app/queries';
import { Button, ButtonLink } from '../kit/Button';
import { VerdictMark } from '../kit/VerdictMark';
import { NOTHING_TYPED } from './roundDraft';
import type { RoundDraft } from './roundDraft';
import { isTyped } from './rowDraft';
import { RowCells } from './RowCells';
import { RoundGate } from './RoundGate';
import type { OpenRound } from './RoundGate';
import { StorageJobLine } from './StorageJobLine';
import { useJudging } from './useJudging';
import { useRowViews } from './useRound';
import type { RowView } from './useRound';

/** What a round found and what is to be done about it, the most urgent first; and the packs it did not see. */
export default function SummaryPage() {
  return <RoundGate>{(open) => <Summary {...open} />}</RoundGate>;
}

function Summary({ round, packs, register }: OpenRound) {
  const [draft] = useDraft<RoundDraft>(`round.${round.id}`, NOTHING_TYPED);
  const histories = useRoundHistories(
    round.id,
    useMemo(() => round.rows.map(({ packId }) => packId), [round.rows]),
  ).data;
  const rows = useRowViews(round, packs, register, draft.scannedIn);
  const typed = rows.filter(({ packId }) => isTyped(draft.rows[packId]));
  const reader = useReader();
  const navigate = useNavigate();
  const mayWork = useMay('round.work');
  const worked = rows.filter(({ outcome }) => outcome === 'done' || outcome === 'stopped');
  const toDo = worked
    .filter(({ pack }) => pack && (pack.next !== null || pack.verdict !== 'fit'))
    .sort((a, b) => byUrgency(a.pack!, b.pack!));
  const pressing = toDo.filter(({ pack }) => isPressing(pack!, reader.now));
  const routine = toDo.length - pressing.length;
  const unseen = rows.filter(({ outcome }) => outcome === null || outcome === 'missing');
  const skipped = rows.filter(({ outcome }) => outcome === 'skipped');
  const close = async () => {
    await ask('POST /rounds/:id/close', { params: { id: round.id } });
    await queryClient.invalidateQueries({ queryKey: KEYS.rounds });
    say('The round is closed.');
    await navigate('/rounds');
  };
  return (
    <>
      <title>{`Summary · ${round.title} · Malle`}</title>
      <div className="mb-4 flex flex-wrap items-baseline justify-between gap-3">
        <div>
          <p className="text-sm text-faint">
            <Link to="/rounds" className="inline-block min-h-6 text-accent underline">
              Rounds
            </Link>
          </p>
          <h1>{round.title}</h1>
          <p className="text-faint">
            {plural(worked.length, 'pack')} worked, {plural(pressing.length, 'pack')} to see to
            {routine > 0 && `, ${routine} with routine later`}
            {unseen.length > 0 && `, ${unseen.length} not seen`}
            {skipped.length > 0 && `, ${skipped.length} left out`}
            {typed.length > 0 && `, ${typed.length} typed here and not saved`}.
          </p>
        </div>
        <span className="flex gap-2">
          {round.closedAt === null && <ButtonLink to={`/rounds/${round.id}`}>Back to the rows</ButtonLink>}
          <ButtonLink to={`/rounds/${round.id}/sheet`}>Bench sheet</ButtonLink>
          {round.closedAt === null && mayWork && (
            <Button weight="main" disabled={typed.length > 0} onClick={() => void close()}>
              Close the round
            </Button>
          )}
        </span>
      </div>
      {typed.length > 0 && round.closedAt === null && (
        <div role="alert" className="mb-4 border-l-4 border-red bg-wash-red px-3 py-2">
          <b>{plural(typed.length, 'pack')} with something typed on this device that is not saved.</b> Go back
          to the rows: save it, or clear it. Until then the round stays open.
        </div>
      )}
      {typed.length > 0 && <Part title="Typed here, not saved" rows={typed} empty="" />}
      <Part
        title="To see to, the most urgent first"
        rows={pressing}
        empty="Nothing presses."
        known={histories}
        fliesAt={round.fliesAt}
      />
      {unseen.length > 0 && (
        <Part title={round.placeId ? 'Should lie in the box, not seen' : 'Not seen'} rows={unseen} empty="" />
      )}
      {skipped.length > 0 && <Part title="Left out" rows={skipped} empty="" />}
    </>
  );
}

function Part({
  title,
  rows,
  empty,
  known,
  fliesAt = null,
}: {
  title: string;
  rows: readonly RowView[];
  empty: string;
  /** With the ledgers, each line says the storage job too, so that the summary can be worked from. */
  known?: ReadonlyMap<PackId, KnownPack> | undefined;
  fliesAt?: Instant | null;
}) {
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="border-b-2 border-ink pb-1">
        {title} <span className="font-normal text-faint">{rows.length}</span>
      </h2>
      {rows.length === 0 && <p className="py-2 text-faint">{empty}</p>}
      <ul>
        {rows.map((row) => (
          <SummaryLine key={row.packId} row={row} known={known?.get(row.packId)} fliesAt={fliesAt} />
        ))}
      </ul>
    </section>
  );
}

function SummaryLine({
  row: { pack, type, outcome, reason },
  known,
  fliesAt,
}: {
  row: RowView;
  known: KnownPack | undefined;
  fliesAt: Instant | null;
}) {
  const reader = useReader();
  const register = useRegister().data!;
  if (!pack || !type) return null;
  const place = register.places.find(({ id }) => id === pack.placeId)?.name;
  const holder = register.people.find(({ id }) => id === pack.holderId)?.name;
  return (
    <li className="ruled flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5 text-sm">
      <Link
        to={`/packs/${pack.id}`}
        className="inline-flex min-h-11 w-20 items-center font-mono text-base font-bold text-accent underline-offset-3 hover:underline md:min-h-7"
      >
        {pack.tag}
      </Link>
      <span className="w-32">
        <VerdictMark verdict={pack.verdict} charged={pack.charged} />
      </span>
      <RowCells pack={pack} type={type} rules={register.rules.rules} />
      <span className="min-w-0 flex-1 basis-48">
        {outcome === 'done' || outcome === 'stopped' ? (
          <>
            <b>{pack.next ? STEP_WORDS[pack.next.do] : 'Decide what becomes of it'}</b>
            {pack.next?.dueAt != null && `, ${dueWords(pack.next.dueAt, reader)}`}
            {known && !isOutOfUse(pack.verdict) && <JobOf packId={pack.id} known={known} fliesAt={fliesAt} />}
          </>
        ) : (
          <>
            {outcome ? OUTCOME_WORDS[outcome] : 'open'}
            {reason && `: ${reason}`}
          </>
        )}
      </span>
      <span className="text-faint">{holder ? `with ${holder}` : place}</span>
    </li>
  );
}

function JobOf({ packId, known, fliesAt }: { packId: PackId; known: KnownPack; fliesAt: Instant | null }) {
  const { before, rules } = useJudging(packId, known);
  return <StorageJobLine view={before} rules={rules} fliesAt={fliesAt} />;
}
