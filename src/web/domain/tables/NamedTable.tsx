import type { ReactNode } from 'react';
import { Link, useParams } from 'react-router';
import type { Action } from '../../../core/lifecycle';
import { useMay } from '../Person';
import { ButtonLink } from '../../kit/Button';
import { Empty } from '../../kit/Message';

interface NamedThing {
  readonly id: string;
  readonly version: number;
  readonly name: string;
}

interface Props<Thing extends NamedThing> {
  readonly path: string;
  /** What one of them is called, as in "Add a place". */
  readonly one: string;
  readonly things: readonly Thing[];
  readonly action: Action;
  /** What a list says of one besides its name. */
  readonly describe: (thing: Thing) => string;
  readonly form: (thing: Thing | null) => ReactNode;
}

/** A table of things with names: the list on the left, the one being looked at on the right. */
export function NamedTable<Thing extends NamedThing>({
  path,
  one,
  things,
  action,
  describe,
  form,
}: Props<Thing>) {
  const { id } = useParams();
  const mayEdit = useMay(action);
  const chosen = things.find((thing) => thing.id === id) ?? null;
  const adding = id === 'new' && mayEdit;
  const open = chosen !== null || adding;
  return (
    <div className="grid gap-8 lg:grid-cols-2">
      <div className={open ? 'max-lg:hidden' : ''}>
        <ul className="border-t-2 border-ink">
          {things.map((thing) => (
            <li key={thing.id} className="ruled">
              <Link
                to={`/settings/${path}/${thing.id}`}
                aria-current={thing.id === id ? 'true' : undefined}
                className="flex min-h-11 flex-wrap items-baseline gap-x-4 px-1 py-2 hover:bg-press aria-[current=true]:bg-press"
              >
                <b>{thing.name}</b>
                <span className="text-sm text-faint">{describe(thing)}</span>
              </Link>
            </li>
          ))}
        </ul>
        {things.length === 0 && <Empty title="None yet." />}
        {mayEdit && (
          <ButtonLink to={`/settings/${path}/new`} weight="main" className="mt-4">
            Add a {one}
          </ButtonLink>
        )}
      </div>
      {open && (
        <div key={id}>
          <Link
            to={`/settings/${path}`}
            className="mb-3 inline-flex min-h-11 items-center text-accent underline lg:hidden"
          >
            All of them
          </Link>
          <fieldset disabled={!mayEdit}>{form(chosen)}</fieldset>
        </div>
      )}
    </div>
  );
}
