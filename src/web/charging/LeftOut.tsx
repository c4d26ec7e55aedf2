import { Link } from 'react-router';
import type { RegisterAnswer } from '../../contract';
import type { Demand, Plan } from '../../core/charging';
import type { PackId } from '../../core/measure';
import { leftOutSentence, liftSentence, plural, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Button } from '../kit/Button';

/** What the plan does not do: which limit stands in the way and what would lift it; and what is left as it is on purpose. */
export function LeftOut({
  plan,
  demand,
  register,
  onPutBack,
}: {
  plan: Plan;
  demand: Demand;
  register: RegisterAnswer;
  onPutBack: (id: PackId) => void;
}) {
  const reader = useReader();
  const typeName = (id: string) => register.types.find((type) => type.id === id)?.name ?? 'packs';
  const stations = register.equipment.flatMap(({ name, inUse, facts }) =>
    !inUse
      ? []
      : facts.kind === 'charger'
        ? facts.channels.filter(({ outOfOrder }) => !outOfOrder).map(({ key }) => `${name} ${key}`)
        : [],
  );
  const groups = byReason(plan);
  const { leftCharged, short } = demand;
  if (groups.length + leftCharged.length + short.length + plan.remainders.length === 0) return null;
  return (
    <div className="grid gap-x-10 gap-y-5 lg:grid-cols-2 print:block">
      {groups.length > 0 && (
        <section aria-label="Not in the plan">
          <h2 className="border-b-2 border-ink pb-1">Not in the plan</h2>
          <ul>
            {groups.map(({ says, lift, packs, chosen }) => (
              <li key={`${says} ${packs[0]!.id}`} className="ruled py-1.5">
                <Tags packs={packs} /> {says}{' '}
                {lift && <b>{liftSentence(lift, (station) => stations[station] ?? 'those here')}</b>}
                {chosen &&
                  packs.map(({ id, tag }) => (
                    <Button key={id} weight="quiet" onClick={() => onPutBack(id)}>
                      Put {tag} back
                    </Button>
                  ))}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Left as it is">
        {leftCharged.length > 0 && (
          <>
            <h2 className="border-b-2 border-ink pb-1">Left charged for a flight</h2>
            <p className="ruled py-1.5">
              <Tags packs={leftCharged.map(({ packId, tag }) => ({ id: packId, tag }))} />{' '}
              {plural(leftCharged.length, 'pack')} full already, and flying within the allowance:{' '}
              {[...new Set(leftCharged.map(({ until }) => whenWords(until, reader)))].join(', ')}.
            </p>
          </>
        )}
        {plan.remainders.map(({ boardId, packs }) => (
          <p key={`${boardId} ${packs[0]?.id}`} className="ruled py-1.5">
            <Tags packs={packs} /> do not fill {register.equipment.find(({ id }) => id === boardId)?.name}: a
            board with an empty port is no circuit. They are planned without it.
          </p>
        ))}
        {short.map(({ dayId, typeId, missing }) => (
          <p key={`${dayId} ${typeId}`} className="ruled py-1.5">
            <b>
              {plural(missing, 'pack')} too few of {typeName(typeId)}
            </b>{' '}
            for a flying day: all others are out of use or fly already.
          </p>
        ))}
      </section>
    </div>
  );
}

function Tags({ packs }: { packs: readonly { readonly id: PackId; readonly tag: string }[] }) {
  return (
    <>
      {packs.map(({ id, tag }) => (
        <Link
          key={id}
          to={`/packs/${id}`}
          className="mr-2 inline-flex min-h-11 items-center font-mono font-bold text-accent hover:underline md:min-h-6"
        >
          {tag}
        </Link>
      ))}
    </>
  );
}

function byReason(plan: Plan) {
  const groups = new Map<
    string,
    {
      says: string;
      lift: Plan['leftOut'][number]['lift'];
      chosen: boolean;
      packs: { id: PackId; tag: string }[];
    }
  >();
  for (const { packs, why, minutes, lift } of plan.leftOut) {
    const says = leftOutSentence({ why, minutes });
    const key = `${says} ${JSON.stringify(lift)}`;
    const group = groups.get(key) ?? { says, lift, chosen: why === 'chosen', packs: [] };
    group.packs.push(...packs.map(({ id, tag }) => ({ id, tag })));
    groups.set(key, group);
  }
  return [...groups.values()];
}
