import { useState } from 'react';
import { Link } from 'react-router';
import type { FlyingDayAnswer } from '../../contract';
import { plural, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { DaySheet } from '../domain/flyingDays/DayForm';
import { dayWants } from '../domain/flyingDays/words';
import { useMay } from '../domain/Person';
import { useNames } from '../domain/useNames';
import { Button, ButtonLink } from '../kit/Button';
import { Empty } from '../kit/Message';
import type { Shown } from './shown';

/** Flying days to come: what they want, who flies, and what is taken along. */
export function DaysList({ flying, register }: Shown) {
  const reader = useReader();
  const names = useNames();
  const mayEdit = useMay('flying-day.edit');
  const [open, setOpen] = useState<FlyingDayAnswer | 'new' | null>(null);
  return (
    <>
      {flying.days.length === 0 && (
        <Empty title="No flying day is planned.">
          With one, its packs are charged in time, a list of what to take along is proposed, and full packs
          are left full.
        </Empty>
      )}
      <ul className={flying.days.length > 0 ? 'border-t-2 border-ink' : ''}>
        {flying.days.map((day) => (
          <li key={day.id} className="ruled flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
            <span className={`min-w-0 flex-1 basis-72 ${day.cancelled ? 'text-faint line-through' : ''}`}>
              <Link
                to={`/flying/days/${day.id}`}
                className="inline-flex min-h-11 items-center font-bold text-accent md:min-h-8"
              >
                {whenWords(day.at, reader)}
              </Link>{' '}
              {day.place}
              {day.craft && `, ${day.craft}`}
              <span className="block text-sm text-faint">{dayWants(day, register)}</span>
              {day.personIds.length > 0 && (
                <span className="block text-sm">
                  {day.personIds.map((id) => names.person(id)).join(', ')}
                </span>
              )}
            </span>
            <span className="text-sm">
              {day.cancelled
                ? 'cancelled'
                : day.handOut.length > 0
                  ? `${plural(day.handOut.length, 'pack')} to take along`
                  : 'nothing settled yet'}
            </span>
            {!day.cancelled && (
              <ButtonLink to={`/flying/days/${day.id}`} weight={day.handOut.length > 0 ? 'plain' : 'main'}>
                Hand-out
              </ButtonLink>
            )}
            {mayEdit && (
              <Button weight="quiet" onClick={() => setOpen(day)}>
                Change
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <Button weight="main" className="mt-4" onClick={() => setOpen('new')}>
          Add a flying day
        </Button>
      )}
      {open !== null && <DaySheet day={open} register={register} onClose={() => setOpen(null)} />}
    </>
  );
}
