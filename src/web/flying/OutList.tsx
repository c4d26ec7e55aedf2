import { Link } from 'react-router';
import type { PackRow } from '../../contract';
import { dueWords, plural, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { isOwed } from '../domain/craft';
import { InTwoHands } from '../domain/custody/InTwoHands';
import { useMay, usePerson } from '../domain/Person';
import { useNames } from '../domain/useNames';
import { FieldPacks } from './FieldPacks';
import { ButtonLink } from '../kit/Button';
import { Empty } from '../kit/Message';
import { VerdictShape } from '../kit/VerdictMark';
import type { Shown } from './shown';
import { TAG } from '../kit/press';

/** Every pack in somebody’s hands, by person, the longest overdue first; and what was flown and is not read yet. */
export function OutList({ flying, register, rows }: Shown) {
  const reader = useReader();
  const names = useNames();
  const out = rows.filter(({ holderId }) => holderId !== null);
  const wanted = (row: PackRow) => row.out?.wantedBackAt ?? Infinity;
  const people = [...new Set(out.map(({ holderId }) => holderId!))]
    .map((id) => ({
      id,
      packs: out.filter(({ holderId }) => holderId === id).sort((a, b) => wanted(a) - wanted(b)),
    }))
    .sort((a, b) => wanted(a.packs[0]!) - wanted(b.packs[0]!));
  const owed = rows.filter((row) => isOwed(row, reader.now));
  return (
    <div className="grid gap-x-10 gap-y-8 lg:grid-cols-2">
      <div className="grid content-start gap-6">
        {people.length === 0 && (
          <Empty title="Nothing is out.">Packs are taken out by scanning them, several in a row.</Empty>
        )}
        {people.map(({ id, packs }) => (
          <section key={id} aria-label={names.person(id)}>
            <h2 className="border-b-2 border-ink pb-1">
              {names.person(id)} <span className="font-normal text-faint">{packs.length}</span>
            </h2>
            <ul>
              {packs.map((row) => (
                <OutLine
                  key={row.id}
                  row={row}
                  craft={register.craft.find((one) => one.id === row.out?.craftId)?.name}
                />
              ))}
            </ul>
          </section>
        ))}
      </div>
      <div className="grid content-start gap-8">
        <FieldPacks flying={flying} register={register} rows={rows} />
        <section aria-label="Flown and not read yet">
          <h2 className="border-b-2 border-ink pb-1">
            Flown and not read yet <span className="font-normal text-faint">{owed.length}</span>
          </h2>
          {owed.length === 0 && <p className="py-2 text-faint">Every flown pack has been read.</p>}
          <ul>
            {owed.map((row) => (
              <li key={row.id} className="ruled flex flex-wrap items-baseline gap-x-3 py-1.5">
                <Link to={`/packs/${row.id}`} className={TAG}>
                  {row.tag}
                </Link>
                <span className="text-sm">
                  {names.person(row.owed!.by)}, landed {whenWords(row.owed!.flownAt, reader)}
                  {row.owed!.readFrom > reader.now &&
                    `; to be read from ${whenWords(row.owed!.readFrom, reader)}`}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}

function OutLine({ row, craft }: { row: PackRow; craft: string | undefined }) {
  const reader = useReader();
  const me = usePerson();
  const mayReturn = useMay('record.returned');
  const others = useMay('record.correct.any');
  const { out } = row;
  const late = out !== null && out.wantedBackAt <= reader.now;
  return (
    <li className="ruled py-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <VerdictShape verdict={row.verdict} charged={row.charged} />
        <Link to={`/packs/${row.id}`} className={`w-16 ${TAG}`}>
          {row.tag}
        </Link>
        <span className="min-w-0 flex-1 basis-52 text-sm">
          {out ? (
            <>
              since {whenWords(out.since, reader)}
              {craft && `, for ${craft}`}
              {out.flights > 0 && `, ${plural(out.flights, 'flight')}`},{' '}
              <span className={late ? 'font-bold text-red' : 'text-faint'}>
                {out.dueBackAt === null && !late ? 'no time said' : dueWords(out.wantedBackAt, reader)}
              </span>
            </>
          ) : (
            'in these hands'
          )}
        </span>
        {mayReturn && (others || row.holderId === me.id) && (
          <ButtonLink to={`/flying/return?pack=${row.id}`}>Return</ButtonLink>
        )}
      </div>
      <InTwoHands row={row} />
    </li>
  );
}
