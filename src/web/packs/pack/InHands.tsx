import { Link } from 'react-router';
import type { PackDetails } from '../../../contract';
import { dueWords, whenWords } from '../../../core/wording';
import { useReader } from '../../app/clock';
import { useRegister } from '../../app/queries';
import { InTwoHands } from '../../domain/custody/InTwoHands';
import type { PackView } from '../../domain/packView';
import { useMay } from '../../domain/Person';
import { useNames } from '../../domain/useNames';
import { ButtonLink } from '../../kit/Button';

/** Who has the pack and when it is wanted back; or the way to take it out. */
export function InHands({ pack, view }: { pack: PackDetails; view: PackView }) {
  const reader = useReader();
  const names = useNames();
  const mayTake = useMay('record.taken-out');
  const outHours = useRegister().data?.rules.rules.flight.outHours;
  const { custody } = view.history;
  if (!custody) {
    if (!mayTake || view.assessment.mayFly === 'no' || view.facts.fieldPack) return null;
    return (
      <p className="print:hidden">
        <ButtonLink to={`/flying/take-out?pack=${pack.id}`}>Take it out</ButtonLink>
      </p>
    );
  }
  const { holderId, since, craftId, dueBackAt } = custody;
  const wantedBackAt = dueBackAt ?? since + (outHours ?? 0) * 3_600_000;
  const late = wantedBackAt <= reader.now;
  const out = { holder: holderId, since, craftId, dueBackAt, wantedBackAt, recordId: null, flights: 0 };
  const row = { id: pack.id, tag: pack.tag, out: { ...out, alsoWith: custody.alsoWith } };
  return (
    <section aria-label="In whose hands" className="grid gap-1">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span>
          <b>{names.person(holderId)}</b> has it since {whenWords(since, reader)}
          {craftId && `, for ${names.craft(craftId)}`};{' '}
          <span className={late ? 'font-bold text-red' : 'text-faint'}>{dueWords(wantedBackAt, reader)}</span>
        </span>
        {mayTake && <ButtonLink to={`/flying/return?pack=${pack.id}`}>Return it</ButtonLink>}
        <Link
          to="/flying/out"
          className="inline-flex min-h-11 items-center text-sm text-accent underline md:min-h-6 print:hidden"
        >
          All that is out
        </Link>
      </p>
      <InTwoHands row={row} />
    </section>
  );
}
