import { useParams } from 'react-router';
import { Failure } from '../app/Failure';
import { useCharging, useRegister } from '../app/queries';
import { LinkTabs } from '../kit/LinkTabs';
import { Empty, Loading } from '../kit/Message';
import { BenchBoard } from './BenchBoard';
import { DaysAndPeople } from './DaysAndPeople';
import { PlanView } from './PlanView';

/** The bench this evening: the plan, what runs, and what the plan is made from. */
export default function ChargingPage() {
  const { tab = 'plan' } = useParams();
  const charging = useCharging();
  const register = useRegister();
  if (charging.isLoadingError)
    return <Failure error={charging.error} retry={() => void charging.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (charging.isPending || register.isPending) return <Loading what="the bench" />;
  const running = charging.data.jobs.filter(({ state }) => state === 'running').length;
  return (
    <>
      <title>Charging · Malle</title>
      <h1 className="mb-2">Charging</h1>
      <LinkTabs
        label="Charging"
        ruled
        tabs={[
          { path: '/charging/plan', name: 'Plan' },
          {
            path: '/charging/bench',
            name: 'Bench',
            ...(running > 0 ? { note: `${running} on charge` } : {}),
          },
          { path: '/charging/days', name: 'Days and people' },
        ]}
      />
      {tab === 'plan' && <PlanView charging={charging.data} register={register.data} />}
      {tab === 'bench' && <BenchBoard charging={charging.data} register={register.data} />}
      {tab === 'days' && <DaysAndPeople charging={charging.data} register={register.data} />}
      {!['plan', 'bench', 'days'].includes(tab) && (
        <Empty title="There is nothing of this name under Charging.">Choose one of the tabs above.</Empty>
      )}
    </>
  );
}
