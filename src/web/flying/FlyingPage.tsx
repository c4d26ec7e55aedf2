import { useParams } from 'react-router';
import { Failure } from '../app/Failure';
import { useFlying, useRegister } from '../app/queries';
import { useMay } from '../domain/Person';
import { usePackRows } from '../domain/waitingRows';
import { ButtonLink } from '../kit/Button';
import { LinkTabs } from '../kit/LinkTabs';
import { Empty, Loading } from '../kit/Message';
import { DaysList } from './DaysList';
import { FitMatrix } from './FitMatrix';
import { LandingsView } from './LandingsView';
import { OutList } from './OutList';

/** Who has which pack, what flies next, what fits what, and how landings go. */
export default function FlyingPage() {
  const { tab = 'out' } = useParams();
  const flying = useFlying();
  const register = useRegister();
  const rows = usePackRows();
  const mayTake = useMay('record.taken-out');
  if (flying.isLoadingError) return <Failure error={flying.error} retry={() => void flying.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (flying.isPending || register.isPending || rows.isPending) return <Loading what="the flying" />;
  const out = rows.data.filter(({ holderId }) => holderId !== null).length;
  const shown = { flying: flying.data, register: register.data, rows: rows.data };
  return (
    <>
      <title>Flying · Malle</title>
      <div className="mb-2 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <h1>Flying</h1>
        {mayTake && (
          <span className="flex gap-3">
            <ButtonLink to="/flying/take-out" weight="main">
              Take out
            </ButtonLink>
            <ButtonLink to="/flying/return">Return</ButtonLink>
          </span>
        )}
      </div>
      <LinkTabs
        label="Flying"
        ruled
        tabs={[
          { path: '/flying/out', name: 'Out', ...(out > 0 ? { note: String(out) } : {}) },
          { path: '/flying/days', name: 'Days' },
          { path: '/flying/fit', name: 'What fits' },
          { path: '/flying/landings', name: 'Landings' },
        ]}
      />
      {tab === 'out' && <OutList {...shown} />}
      {tab === 'days' && <DaysList {...shown} />}
      {tab === 'fit' && <FitMatrix {...shown} />}
      {tab === 'landings' && <LandingsView {...shown} />}
      {!['out', 'days', 'fit', 'landings'].includes(tab) && (
        <Empty title="There is nothing of this name under Flying.">Choose one of the tabs above.</Empty>
      )}
    </>
  );
}
