import { useParams } from 'react-router';
import { useRegister } from '../app/queries';
import { Failure } from '../app/Failure';
import { usePackRows } from '../domain/waitingRows';
import { LinkTabs } from '../kit/LinkTabs';
import { Empty, Loading } from '../kit/Message';
import { BuyPage } from './BuyPage';
import { DayPage } from './DayPage';
import { DeliveriesPage } from './DeliveriesPage';

const TABS = [
  { path: '/fleet/buy', name: 'What to buy' },
  { path: '/fleet/day', name: 'Packs for a day' },
  { path: '/fleet/deliveries', name: 'Deliveries' },
];

/** The packs as a whole: what the next two years cost, how many a day takes, and what came bad from the box. */
export default function FleetPage() {
  const { tab = 'buy' } = useParams();
  const register = useRegister();
  const rows = usePackRows();
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isPending || rows.isPending) return <Loading what="the register" />;
  return (
    <div className="on-one-page">
      <title>Fleet · Malle</title>
      <h1 className="mb-3">Fleet</h1>
      <LinkTabs label="Fleet" ruled tabs={TABS} />
      {rows.data.length === 0 ? (
        <Empty title="No pack is in the register yet.">What to buy is worked out from how packs wear.</Empty>
      ) : tab === 'deliveries' ? (
        <DeliveriesPage register={register.data} rows={rows.data} />
      ) : tab === 'day' ? (
        <DayPage register={register.data} rows={rows.data} />
      ) : (
        <BuyPage register={register.data} rows={rows.data} />
      )}
    </div>
  );
}
