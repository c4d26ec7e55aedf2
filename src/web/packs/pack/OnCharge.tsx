import { Link } from 'react-router';
import type { PackDetails, RegisterAnswer } from '../../../contract';
import { JOB_WORDS, clockWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useStoredToday } from '../../app/queries';
import { stationName } from '../../domain/bench';
import { useMay } from '../../domain/Person';
import { useNames } from '../../domain/useNames';

/** Where a pack is on charge, since when and by whom watched; else the way onto a charger. */
export function OnCharge({
  pack,
  register,
  usable,
}: {
  pack: PackDetails;
  register: RegisterAnswer;
  usable: boolean;
}) {
  const reader = useReader();
  const names = useNames();
  const mayCharge = useMay('bench.charge');
  const job = useStoredToday().data?.onCharge.find((one) => one.job.packIds.includes(pack.id))?.job;
  const link = 'inline-flex min-h-11 items-center font-bold text-accent underline md:min-h-6';
  if (job)
    return (
      <p className="border-l-6 border-accent bg-sheet px-4 py-2">
        On {stationName(register.equipment, job.equipmentId, job.channel)} since{' '}
        {clockWords(job.start, reader)}: {JOB_WORDS[job.do].toLowerCase()}, expected to end at{' '}
        {clockWords(job.end, reader)}. {job.attendantId && `${names.person(job.attendantId)} watches it.`}{' '}
        <Link to="/charging/bench" className={link}>
          To the bench
        </Link>
      </p>
    );
  const charger = register.equipment.some(({ inUse, facts }) => inUse && facts.kind === 'charger');
  if (!charger || !mayCharge || !usable) return null;
  return (
    <Link to={`/charging/now?pack=${pack.id}`} className={link}>
      Put it on a charger
    </Link>
  );
}
