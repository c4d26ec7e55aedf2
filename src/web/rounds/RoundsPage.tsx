import { Link } from 'react-router';
import type { RoundAnswer } from '../../contract';
import { ROUND_WORDS, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { useMay } from '../domain/Person';
import { useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { ButtonLink } from '../kit/Button';
import { Loading } from '../kit/Message';
import { StartRound } from './StartRound';
import { useRounds } from './useRound';

/** Rounds under way, the way to begin another, and what was worked lately. */
export default function RoundsPage() {
  const rounds = useRounds();
  const packs = usePackRows();
  const register = useRegister();
  const mayWork = useMay('round.work');
  for (const query of [rounds, packs, register])
    if (query.isLoadingError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  if (!rounds.data || !packs.data || !register.data) return <Loading what="the rounds" />;
  const open = rounds.data.filter(({ closedAt }) => closedAt === null);
  const closed = rounds.data.filter(({ closedAt }) => closedAt !== null);
  return (
    <>
      <title>Rounds · Malle</title>
      <h1 className="mb-4">Rounds</h1>
      <div className="grid items-start gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="grid gap-8">
          <section aria-label="Under way">
            <h2 className="border-b-2 border-ink pb-1">
              Under way <span className="font-normal text-faint">{open.length}</span>
            </h2>
            {open.length === 0 && (
              <p className="py-2 text-faint">No round is under way. Begin one for tonight’s packs.</p>
            )}
            <ul>
              {open.map((round) => (
                <RoundLine key={round.id} round={round} />
              ))}
            </ul>
          </section>
          {closed.length > 0 && (
            <section aria-label="Closed">
              <h2 className="border-b-2 border-ink pb-1">Closed</h2>
              <ul>
                {closed.map((round) => (
                  <RoundLine key={round.id} round={round} />
                ))}
              </ul>
            </section>
          )}
        </div>
        {mayWork && <StartRound packs={packs.data} register={register.data} />}
      </div>
    </>
  );
}

function RoundLine({ round }: { round: RoundAnswer }) {
  const reader = useReader();
  const people = useRegister().data?.people ?? [];
  const who = people.find(({ id }) => id === round.startedBy)?.name ?? '';
  const closed = round.closedAt !== null;
  return (
    <li className="ruled flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
      <Link
        to={closed ? `/rounds/${round.id}/summary` : `/rounds/${round.id}`}
        className="inline-flex min-h-11 items-center font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
      >
        {round.title}
      </Link>
      <span className="min-w-0 flex-1 basis-48 text-sm text-faint">
        {ROUND_WORDS[round.kind].name}, begun by {who} {whenWords(round.startedAt, reader)}
      </span>
      <span className="font-mono">
        {round.worked} of {round.packs}
      </span>
      {!closed && (
        <ButtonLink to={`/rounds/${round.id}`} weight="main">
          Go on
        </ButtonLink>
      )}
    </li>
  );
}
