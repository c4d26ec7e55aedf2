import clsx from 'clsx';
import { useState } from 'react';
import { Link } from 'react-router';
import type { CraftAnswer, PackTypeAnswer } from '../../contract';
import { cutOffTask, worstOutcome } from '../../core/flying';
import type { FitCheck, FitOutcome } from '../../core/flying';
import { fitSentence, hoverStepSentence, plural, volts } from '../../core/wording';
import { packFits, stepOf, typeFits } from '../domain/craft';
import { Empty } from '../kit/Message';
import { Scroll } from '../kit/Scroll';
import type { Shown } from './shown';

const LOOK: Readonly<
  Record<FitOutcome, { readonly shape: string; readonly words: string; readonly colour: string }>
> = {
  ok: { shape: '●', words: 'fits', colour: 'text-leaf' },
  caution: { shape: '▲', words: 'with care', colour: 'text-amber' },
  refused: { shape: '×', words: 'no', colour: 'text-faint' },
};

/** Every type against every craft, the holes named, and what may fly today. */
export function FitMatrix({ flying, register, rows }: Shown) {
  const craft = register.craft.filter(({ inUse }) => inUse);
  const types = register.types.filter(({ id }) =>
    rows.some(
      ({ typeId, verdict, fieldPack }) =>
        typeId === id && !fieldPack && verdict !== 'retired' && verdict !== 'recycled',
    ),
  );
  const [chosen, setChosen] = useState<{ craft: CraftAnswer; type: PackTypeAnswer } | null>(null);
  if (craft.length === 0)
    return (
      <Empty title="No craft is registered yet.">
        <Link to="/settings/craft/new" className="text-accent underline">
          Add one
        </Link>{' '}
        with the cells and currents it takes, and Malle says which packs are right for it.
      </Empty>
    );
  const checksOf = (one: CraftAnswer, type: PackTypeAnswer) => typeFits(type, one, register);
  const readyOn = (one: CraftAnswer, type: PackTypeAnswer) =>
    rows.filter(
      (row) =>
        row.typeId === type.id &&
        row.mayFly === 'yes' &&
        row.charged === 'charged' &&
        row.holderId === null &&
        worstOutcome(packFits(row, one, register)) !== 'refused',
    );
  const tasks = craft.flatMap((one) =>
    types.flatMap((type) => {
      const task = cutOffTask(checksOf(one, type), type.chemistry, register.rules.rules);
      return task ? [{ one, type, task }] : [];
    }),
  );
  const fitsNothing = (type: PackTypeAnswer) =>
    craft.every((one) => worstOutcome(checksOf(one, type)) === 'refused');
  // Where the cut-off alone stands in the way, that is said already.
  const alone = craft.filter(
    (one) =>
      !tasks.some((task) => task.one.id === one.id) &&
      types.every((type) => worstOutcome(checksOf(one, type)) === 'refused'),
  );
  const useless = types.filter(
    (type) => fitsNothing(type) && !tasks.some((task) => task.type.id === type.id),
  );
  const columns = types.filter((type) => !useless.includes(type));
  return (
    <div className="grid gap-6">
      <Scroll label="What fits what" className="max-w-full">
        <table className="border-collapse">
          <thead>
            <tr className="border-b-2 border-ink align-bottom">
              <th className="pr-4 pb-1 text-left">Craft</th>
              {columns.map(({ id, name }) => (
                <th key={id} className="w-32 px-2 pb-1 text-left text-sm font-bold">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {craft.map((one) => (
              <tr key={one.id} className="ruled">
                <th scope="row" className="py-1.5 pr-4 text-left">
                  <Link to={`/settings/craft/${one.id}`} className="font-bold text-accent">
                    {one.name}
                  </Link>
                </th>
                {columns.map((type) => {
                  const worst = worstOutcome(checksOf(one, type));
                  const { shape, words, colour } = LOOK[worst];
                  const ready = worst === 'refused' ? 0 : readyOn(one, type).length;
                  const isChosen = chosen?.craft.id === one.id && chosen.type.id === type.id;
                  return (
                    <td key={type.id} className={clsx('px-2', isChosen && 'bg-press')}>
                      <button
                        type="button"
                        aria-pressed={isChosen}
                        aria-label={`${type.name} on ${one.name}: ${words}`}
                        onClick={() => setChosen({ craft: one, type })}
                        className={clsx('min-h-11 text-left md:min-h-8', colour)}
                      >
                        <span aria-hidden="true">{shape}</span> <b>{words}</b>
                        {worst !== 'refused' && (
                          <span className="block text-sm text-faint">{ready} ready now</span>
                        )}
                      </button>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      {chosen && <Why craft={chosen.craft} type={chosen.type} checks={checksOf(chosen.craft, chosen.type)} />}
      {(tasks.length > 0 || alone.length > 0 || useless.length > 0) && (
        <section aria-label="Holes">
          <h2 className="border-b-2 border-ink pb-1">What stands in the way</h2>
          <ul>
            {tasks.map(({ one, type, task }) => (
              <li key={`${one.id} ${type.id}`} className="ruled py-1.5">
                <b>{one.name}</b>: set its cut-off to {task.cells} × {volts(task.cellMv)} V, and {type.name}{' '}
                packs fit.
              </li>
            ))}
            {alone.map(({ id, name }) => (
              <li key={id} className="ruled py-1.5">
                <b>{name}</b>: no pack of the register fits it.
              </li>
            ))}
            {useless.length > 0 && (
              <li className="ruled py-1.5">
                <b>{useless.map(({ name }) => name).join(', ')}</b>: for no craft that is registered.
              </li>
            )}
          </ul>
        </section>
      )}
      <section aria-label="Hover and rest">
        <h2 className="border-b-2 border-ink pb-1">From hover to rest</h2>
        <ul>
          {craft.map((one) => (
            <li key={one.id} className="ruled py-1.5">
              <b>{one.name}</b>: {hoverStepSentence(stepOf(flying, one.id))}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}

function Why({
  craft,
  type,
  checks,
}: {
  craft: CraftAnswer;
  type: PackTypeAnswer;
  checks: readonly FitCheck[];
}) {
  return (
    <section aria-label={`${type.name} on ${craft.name}`}>
      <h2 className="border-b-2 border-ink pb-1">
        {type.name} on {craft.name}{' '}
        <span className="font-normal text-faint">{plural(checks.length, 'check')}</span>
      </h2>
      <ul>
        {checks.map((check) => (
          <li key={check.check} className="ruled flex gap-3 py-1">
            <span
              className={clsx('w-5', check.outcome === 'refused' ? 'text-red' : LOOK[check.outcome].colour)}
              aria-hidden="true"
            >
              {LOOK[check.outcome].shape}
            </span>
            <span className={check.outcome === 'refused' ? 'font-bold text-red' : ''}>
              {fitSentence(check)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
