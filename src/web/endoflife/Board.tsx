import { useState } from 'react';
import { Link } from 'react-router';
import type { BoardPack, ContainerFill, RegisterAnswer } from '../../contract';
import { END_STEPS } from '../../core/assess';
import type { StepKind } from '../../core/assess';
import { dueWords, LIFE_WORDS, plural, STEP_WORDS, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { DisposalForm } from '../domain/lifecycle/DisposalForm';
import { useMay } from '../domain/Person';
import { Button } from '../kit/Button';
import { Empty } from '../kit/Message';
import { Sheet } from '../kit/Sheet';

/** Retired packs by the step each waits for, and how full the containers are. */
export function Board({
  packs,
  containers,
  register,
}: {
  packs: readonly BoardPack[];
  containers: readonly ContainerFill[];
  register: RegisterAnswer;
}) {
  const groups = END_STEPS.map((step) => ({ step, items: packs.filter(({ next }) => next?.do === step) }));
  return (
    <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <div>
        {packs.length === 0 && (
          <Empty title="No pack is on its way out.">
            A retired pack comes here, and leaves with a receipt.
          </Empty>
        )}
        {groups
          .filter(({ items }) => items.length > 0)
          .map(({ step, items }) => (
            <section key={step} aria-label={STEP_WORDS[step]} className="mb-6">
              <h2 className="flex items-baseline justify-between gap-4 border-b-2 border-ink pb-1">
                <span>
                  {STEP_WORDS[step]} <span className="font-normal text-faint">{items.length}</span>
                </span>
                {(step === 'consign' || step === 'hand-over') && (
                  <Link to="/end-of-life/consignments" className="text-accent underline">
                    To the consignments
                  </Link>
                )}
              </h2>
              <ul>
                {items.map((pack) => (
                  <Row key={pack.id} pack={pack} step={step} register={register} />
                ))}
              </ul>
            </section>
          ))}
      </div>
      <Containers containers={containers} register={register} />
    </div>
  );
}

function Row({ pack, step, register }: { pack: BoardPack; step: StepKind; register: RegisterAnswer }) {
  const reader = useReader();
  const mayTake = useMay('record.disposal');
  const [open, setOpen] = useState(false);
  const type = register.types.find(({ id }) => id === pack.typeId);
  const dueAt = pack.next?.dueAt ?? null;
  const waits = step === 'verify-again' && dueAt !== null && dueAt > reader.now;
  return (
    <li className="ruled flex flex-wrap items-center gap-x-4 gap-y-1 py-1.5">
      <Link
        to={`/packs/${pack.id}`}
        className="inline-flex min-h-11 w-20 items-center font-mono text-lg font-bold text-accent underline-offset-3 hover:underline md:min-h-8"
      >
        {pack.tag}
      </Link>
      <span className="min-w-0 flex-1 basis-52 text-sm">
        {type?.name}
        <span className="block text-faint">
          {LIFE_WORDS[pack.life]}
          {pack.since !== null && `, ${whenWords(pack.since, reader)}`}
          {pack.apart && <b className="text-red"> · damaged, packed apart</b>}
          {pack.charged && <b className="text-amber"> · at storage charge</b>}
        </span>
      </span>
      {step === 'verify-again' && dueAt !== null && (
        <span className={`text-sm ${waits ? 'text-faint' : 'font-bold text-red'}`}>
          {dueWords(dueAt, reader)}
        </span>
      )}
      {mayTake && step !== 'consign' && step !== 'hand-over' && (
        <Button
          weight={waits ? 'quiet' : 'plain'}
          onClick={() => setOpen(true)}
          aria-label={`${STEP_WORDS[step]}: ${pack.tag}`}
        >
          {SHORT[step] ?? STEP_WORDS[step]}
        </Button>
      )}
      {type && (
        <Sheet
          open={open}
          onClose={() => setOpen(false)}
          title={`${pack.tag}: ${STEP_WORDS[step].toLowerCase()}`}
        >
          <DisposalForm
            pack={{ id: pack.id, tag: pack.tag, type, fromMv: null, apart: pack.apart }}
            step={step}
            dueAt={dueAt}
            onDone={() => setOpen(false)}
          />
        </Sheet>
      )}
    </li>
  );
}

/** The step again, short enough for a button beside its heading. */
const SHORT: Readonly<Partial<Record<StepKind, string>>> = {
  'mark-red': 'Marked',
  drain: 'Discharge',
  'pack-apart': 'Pack apart',
  'verify-empty': 'Type the reading',
  'verify-again': 'Type the reading',
  insulate: 'Covered',
  bin: 'Laid in',
};

/** Count, mass and energy of what lies in each recycling container, against its limits. */
function Containers({
  containers,
  register,
}: {
  containers: readonly ContainerFill[];
  register: RegisterAnswer;
}) {
  const places = register.places.filter(({ kind }) => kind === 'recycling');
  return (
    <section aria-label="Containers">
      <h2 className="border-b-2 border-ink pb-1">Containers</h2>
      {places.length === 0 && (
        <p className="py-2 text-sm text-faint">
          No recycling container yet: add a place of the kind “recycling” under Settings, Places.
        </p>
      )}
      {places.map(({ id, name, capacity, limitKg, limitWh, setApart }) => {
        const fill = containers.find(({ placeId }) => placeId === id) ?? { packs: 0, massG: 0, wh: 0 };
        return (
          <div key={id} className="ruled py-2">
            <p className="font-bold">
              {name} {setApart && <span className="font-normal text-red">for damaged packs</span>}
            </p>
            <Fill label={plural(fill.packs, 'pack')} value={fill.packs} limit={capacity} unit="" />
            <Fill
              label={`${(fill.massG / 1000).toFixed(2)} kg`}
              value={fill.massG / 1000}
              limit={limitKg}
              unit=" kg"
            />
            <Fill label={`${Math.round(fill.wh)} Wh`} value={fill.wh} limit={limitWh} unit=" Wh" />
          </div>
        );
      })}
    </section>
  );
}

function Fill({
  label,
  value,
  limit,
  unit,
}: {
  label: string;
  value: number;
  limit: number | null;
  unit: string;
}) {
  const share = limit === null ? null : value / limit;
  return (
    <p className="grid grid-cols-[6rem_minmax(0,1fr)_5rem] items-center gap-2 text-sm">
      <span className="font-mono">{label}</span>
      <span className="h-2.5 border border-rule bg-sheet" aria-hidden="true">
        {share !== null && (
          <span
            className={`block h-full ${share >= 0.9 ? 'bg-red' : 'bg-used'}`}
            style={{ width: `${Math.min(1, share) * 100}%` }}
          />
        )}
      </span>
      <span className="text-right text-faint">{limit === null ? 'no limit' : `of ${limit}${unit}`}</span>
    </p>
  );
}
