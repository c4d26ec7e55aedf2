import { Link, useNavigate } from 'react-router';
import { v7 as newId } from 'uuid';
import type { BoardPack, ConsignmentAnswer, RecyclerAnswer, RegisterAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { dayWords, plural } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { useMay } from '../domain/Person';
import { KEYS, queryClient } from '../app/queries';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { SelectOption } from '../kit/Select';
import { Empty } from '../kit/Message';
import { FormSelect } from '../kit/formFields';
import { useServerForm } from '../app/useServerForm';

/** Whether a recycler's word is older than the house trusts. */
export function isStale({ confirmedAt }: RecyclerAnswer, confirmDays: number, now: number): boolean {
  return confirmedAt === null || now - confirmedAt > confirmDays * DAY_MS;
}

/** What goes to a recycler, and what went. */
export function Consignments({
  consignments,
  register,
  board,
}: {
  consignments: readonly ConsignmentAnswer[];
  register: RegisterAnswer;
  board: readonly BoardPack[];
}) {
  const reader = useReader();
  const names = useNames();
  const mayConsign = useMay('consign');
  const ready = board.filter(({ next }) => next?.do === 'consign');
  return (
    <>
      <p className="mb-3">
        {ready.length === 0 ? (
          <span className="text-faint">No pack lies ready in a container.</span>
        ) : (
          <>
            <b>{plural(ready.length, 'pack')}</b> {ready.length === 1 ? 'lies' : 'lie'} ready:{' '}
            <span className="font-mono">{ready.map(({ tag }) => tag).join(' ')}</span>
          </>
        )}
      </p>
      {mayConsign && <Begin register={register} />}
      {consignments.length === 0 && <Empty title="No consignment yet." />}
      <ul className="mt-4 border-t-2 border-ink">
        {consignments.map(({ id, recyclerId, packs, massG, openedAt, openedBy, closedAt }) => (
          <li key={id} className="ruled">
            <Link
              to={`/end-of-life/consignments/${id}`}
              className="flex min-h-11 flex-wrap items-baseline gap-x-5 px-1 py-2 hover:bg-press"
            >
              <b>{register.recyclers.find((one) => one.id === recyclerId)?.name}</b>
              <span className="font-mono">
                {plural(packs, 'pack')}, {(massG / 1000).toFixed(2)} kg
              </span>
              <span className="ml-auto text-sm">
                {closedAt === null ? (
                  <>
                    <b className="text-amber">open</b> since {dayWords(openedAt, reader)},{' '}
                    {names.person(openedBy)}
                  </>
                ) : (
                  <span className="text-faint">handed over {dayWords(closedAt, reader)}</span>
                )}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

function Begin({ register }: { register: RegisterAnswer }) {
  const navigate = useNavigate();
  const recyclers = register.recyclers.filter(({ active }) => active);
  const form = useServerForm<{ recyclerId: string }>(
    'consignment.begin',
    { recyclerId: recyclers[0]?.id ?? '' },
    async ({ recyclerId }) => {
      const { id } = await ask('POST /consignments', { body: { id: newId(), recyclerId } });
      await queryClient.invalidateQueries({ queryKey: KEYS.endOfLife });
      await navigate(`/end-of-life/consignments/${id}`);
    },
  );
  if (recyclers.length === 0)
    return (
      <p>
        No recycler is in the register.{' '}
        <Link to="/settings/recyclers/new" className="font-bold text-accent underline">
          Add one
        </Link>
      </p>
    );
  return (
    <form onSubmit={(event) => void form.hand(event)} className="flex flex-wrap items-end gap-3">
      <div className="min-w-56">
        <FormSelect label="For" control={form.control} name="recyclerId" refused={form.problem ?? undefined}>
          {recyclers.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
      </div>
      <Button type="submit" weight="main">
        Begin a consignment
      </Button>
    </form>
  );
}
