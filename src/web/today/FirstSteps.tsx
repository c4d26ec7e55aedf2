import type { ReactNode } from 'react';
import { plural } from '../../core/wording';
import { useRegister } from '../app/queries';
import { useMay } from '../domain/Person';
import { ButtonLink } from '../kit/Button';
import { Empty } from '../kit/Message';

/** Leads a register that has just begun from its types to its first round, and says how far it is. */
export function FirstSteps({ packs, measured }: { packs: number; measured: number }) {
  const mayReceive = useMay('pack.create');
  const types = useRegister().data?.types.length ?? 0;
  if (!mayReceive)
    return packs === 0 ? (
      <Empty title="No packs yet.">A custodian or deputy takes the first packs into the register.</Empty>
    ) : null;
  const done = [types > 0, packs > 0, measured > 0];
  const next = done.indexOf(false);
  return (
    <section aria-labelledby="first" className="mb-8 max-w-3xl">
      <h1 id="first">
        {packs === 0 ? 'Begin this register' : 'The register has its packs: now measure them'}
      </h1>
      <p className="text-faint">
        {done.filter(Boolean).length} of 3 steps done, and labels whenever you like.
      </p>
      <ol className="mt-3 border-t-2 border-ink">
        <Step
          nth={1}
          isDone={types > 0}
          isNext={next === 0}
          title="Say which types of pack there are"
          told={
            types > 0
              ? `${plural(types, 'type')} so far.`
              : 'What their labels say: chemistry, cells, capacity. A list you bring in names its types itself.'
          }
        >
          <ButtonLink to="/settings/types/new" weight={next === 0 ? 'main' : 'plain'}>
            Add a type
          </ButtonLink>
        </Step>
        <Step
          nth={2}
          isDone={packs > 0}
          isNext={next === 1}
          title="Take the packs in"
          told={
            packs > 0
              ? `${plural(packs, 'pack')} so far.`
              : 'From the spreadsheet you have, or one by one with a tag each.'
          }
        >
          <ButtonLink to="/settings/import" weight={packs === 0 ? 'main' : 'plain'}>
            Bring in a list
          </ButtonLink>
          <ButtonLink to="/packs/receive">Receive a pack</ButtonLink>
        </Step>
        <Step
          nth={null}
          isDone={false}
          isNext={false}
          title="Print their labels"
          told="A code that a scanner or phone opens the pack by, and the facts a hand needs."
        >
          {packs > 0 && <ButtonLink to="/packs/labels">Labels</ButtonLink>}
        </Step>
        <Step
          nth={3}
          isDone={measured > 0}
          isNext={next === 2}
          title="Go through them once"
          told="A first round: scan each pack, type its cells, and its verdict stands."
        >
          {packs > 0 && (
            <ButtonLink to="/rounds?kind=receipt" weight={next === 2 ? 'main' : 'plain'}>
              Begin the first round
            </ButtonLink>
          )}
        </Step>
      </ol>
    </section>
  );
}

/** One step, with what is done of it and the button that does it. */
function Step({
  nth,
  isDone,
  isNext,
  title,
  told,
  children,
}: {
  nth: number | null;
  isDone: boolean;
  isNext: boolean;
  title: string;
  told: string;
  children: ReactNode;
}) {
  return (
    <li
      aria-current={isNext ? 'step' : undefined}
      className="ruled grid items-center gap-x-4 gap-y-1 py-2.5 sm:grid-cols-[2rem_minmax(0,1fr)_auto]"
    >
      <span
        className={`font-mono text-lg font-bold ${isDone ? 'text-leaf' : isNext ? 'text-ink' : 'text-faint'}`}
      >
        {isDone ? '✓' : (nth ?? '·')}
      </span>
      <span>
        <b className={isDone ? 'font-normal' : ''}>{title}</b>
        <span className="block text-sm text-faint">{told}</span>
      </span>
      <span className="flex flex-wrap gap-2">{children}</span>
    </li>
  );
}
