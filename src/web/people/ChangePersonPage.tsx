import { isBadge } from '../app/changePerson';
import { useSession } from '../app/queries';
import { useScanTarget } from '../app/scanTarget';
import { say } from '../app/notices';
import { usePerson } from '../domain/Person';
import { Empty } from '../kit/Message';
import { BenchPeople } from './BenchPeople';

/** At a shared bench: the next person comes in, and whoever was there is out. */
export default function ChangePersonPage() {
  const person = usePerson();
  const bench = useSession().data?.bench ?? null;
  useScanTarget((scanned) => {
    if (!bench) return false;
    void isBadge(scanned).then((isIn) => !isIn && say('Nobody has this badge.'));
    return true;
  });
  return (
    <>
      <title>Change person · Malle</title>
      <h1>Change person</h1>
      {bench ? (
        <>
          <p className="mb-6 text-faint">
            {person.name} is signed in here. What they typed and did not hand in is kept for them.
          </p>
          <BenchPeople bench={bench} />
        </>
      ) : (
        <Empty title="This browser is nobody’s shared bench.">
          A custodian makes it one under Settings, People. Until then, sign out and in again.
        </Empty>
      )}
    </>
  );
}
