import { useParams } from 'react-router';
import { Failure } from '../app/Failure';
import { useEndOfLife, useRegister } from '../app/queries';
import { LinkTabs } from '../kit/LinkTabs';
import { Empty, Loading } from '../kit/Message';
import { Board } from './Board';
import { Consignments } from './Consignments';
import { Waiting } from './Waiting';

const TABS = [
  { tab: 'decisions', name: 'Decisions waiting' },
  { tab: 'board', name: 'On the way out' },
  { tab: 'consignments', name: 'Consignments' },
] as const;

/** From a decision to a receipt: what waits for a word, what waits for a hand, what waits for the recycler. */
export default function EndOfLifePage() {
  const { tab = 'decisions' } = useParams();
  const answer = useEndOfLife();
  const register = useRegister();
  if (answer.isLoadingError) return <Failure error={answer.error} retry={() => void answer.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (answer.isPending || register.isPending) return <Loading what="what is over" />;
  const { waiting, board, containers, consignments } = answer.data;
  const counts = {
    decisions: String(waiting.length),
    board: String(board.length),
    consignments: openWords(consignments.filter(({ closedAt }) => closedAt === null).length),
  };
  return (
    <>
      <title>Disposal · Malle</title>
      <h1 className="mb-2">Disposal</h1>
      <LinkTabs
        label="Disposal"
        ruled
        tabs={TABS.map((one) => ({
          path: `/end-of-life/${one.tab}`,
          name: one.name,
          note: counts[one.tab],
        }))}
      />
      {tab === 'decisions' && <Waiting items={waiting} />}
      {tab === 'board' && <Board packs={board} containers={containers} register={register.data} />}
      {tab === 'consignments' && (
        <Consignments consignments={consignments} register={register.data} board={board} />
      )}
      {!TABS.some((one) => one.tab === tab) && <Empty title="There is no such page." />}
    </>
  );
}

/** Closed consignments stay listed, so the bare number of open ones would contradict the list. */
function openWords(open: number): string {
  return open === 0 ? '' : `${open} open`;
}
