import { useState } from 'react';
import type { AttendanceAnswer, ChargingAnswer, FlyingDayAnswer, RegisterAnswer } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import { clockWords, whenWords } from '../../core/wording';
import { FailedRequest, ask, request } from '../app/api';
import { localMinute, minuteAt } from '../app/days';
import { useReader } from '../app/clock';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { useServerForm } from '../app/useServerForm';
import { FormMoment } from '../domain/moments/MomentField';
import { DaySheet } from '../domain/flyingDays/DayForm';
import { dayWants } from '../domain/flyingDays/words';
import { useMay, usePerson } from '../domain/Person';
import { Button } from '../kit/Button';
import { FormSelect } from '../kit/formFields';
import { Notice } from '../kit/Message';
import { SelectOption } from '../kit/Select';
import { Sheet } from '../kit/Sheet';
import { personName } from './words';

/** What a plan is made from besides packs and chargers: when somebody is there, and what flies next. */
export function DaysAndPeople({
  charging,
  register,
}: {
  charging: ChargingAnswer;
  register: RegisterAnswer;
}) {
  return (
    <div className="grid gap-x-12 gap-y-8 lg:grid-cols-2">
      <Attendance charging={charging} register={register} />
      <FlyingDays charging={charging} register={register} />
    </div>
  );
}

const again = () => queryClient.invalidateQueries({ queryKey: KEYS.charging });

function Attendance({ charging, register }: { charging: ChargingAnswer; register: RegisterAnswer }) {
  const reader = useReader();
  const [open, setOpen] = useState<AttendanceAnswer | 'new' | null>(null);
  const mayAttend = useMay('bench.attend');
  const me = usePerson();
  const mayChange = (span: AttendanceAnswer) =>
    mayAttend && (span.personId === me.id || mayDo(me.role, 'equipment.edit'));
  return (
    <section aria-label="Who watches the bench">
      <h2 className="border-b-2 border-ink pb-1">Who watches the bench</h2>
      {charging.attended.length === 0 && (
        <p className="py-2 text-faint">
          Nobody has said so yet. No charge runs unattended: a plan lies inside these hours.
        </p>
      )}
      <ul>
        {charging.attended.map((span) => (
          <li key={span.id} className="ruled flex flex-wrap items-center gap-x-4 py-1">
            <b>{personName(register, span.personId)}</b>
            <span>
              {whenWords(span.from, reader)} to {clockWords(span.to, reader)}
            </span>
            {mayChange(span) && (
              <span className="ml-auto">
                <Button weight="quiet" onClick={() => setOpen(span)}>
                  Change
                </Button>
                <Button weight="quiet" onClick={() => void takeBack(span)}>
                  Take back
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {mayAttend && (
        <Button weight="main" className="mt-3" onClick={() => setOpen('new')}>
          Add hours
        </Button>
      )}
      {open !== null && (
        <Sheet
          open
          onClose={() => setOpen(null)}
          title={open === 'new' ? 'Hours at the bench' : 'Change the hours'}
        >
          <AttendanceForm
            span={open === 'new' ? null : open}
            register={register}
            onDone={() => setOpen(null)}
          />
        </Sheet>
      )}
    </section>
  );
}

async function takeBack({ id }: AttendanceAnswer): Promise<void> {
  try {
    await ask('DELETE /attendance/:id', { params: { id } });
    say('Taken back. What was planned in those hours wants a new plan.');
  } catch (error) {
    if (!(error instanceof FailedRequest)) throw error;
    say(error.says);
  }
  await again();
}

interface SpanValues {
  readonly personId: string;
  readonly from: string;
  readonly to: string;
}

function AttendanceForm({
  span,
  register,
  onDone,
}: {
  span: AttendanceAnswer | null;
  register: RegisterAnswer;
  onDone: () => void;
}) {
  const reader = useReader();
  const me = usePerson();
  const mayOthers = mayDo(me.role, 'equipment.edit');
  const form = useServerForm<SpanValues>(
    `attendance.${span ? `${span.id}.${span.version}` : 'new'}`,
    {
      personId: span?.personId ?? me.id,
      from: span ? localMinute(span.from) : localMinute(reader.now),
      to: span ? localMinute(span.to) : '',
    },
    async ({ personId, from, to }) => {
      const body = { personId, from: minuteAt(from), to: minuteAt(to) };
      if (span) await request('PUT', `/attendance/${span.id}`, { ...body, version: span.version });
      else await request('POST', '/attendance', body);
      await again();
      say(span ? 'Changed.' : 'Added.');
      onDone();
    },
  );
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      {mayOthers && (
        <FormSelect label="Who" control={form.control} name="personId">
          {register.people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
      )}
      <FormMoment label="From" wanted="minute" lean="ahead" control={form.control} name="from" />
      <FormMoment label="To" wanted="minute" lean="ahead" control={form.control} name="to" />
      {form.problem && <Notice title={form.problem} />}
      <Button type="submit" weight="main" disabled={form.formState.isSubmitting}>
        {span ? 'Save' : 'Add them'}
      </Button>
    </form>
  );
}

function FlyingDays({ charging, register }: { charging: ChargingAnswer; register: RegisterAnswer }) {
  const reader = useReader();
  const [open, setOpen] = useState<FlyingDayAnswer | 'new' | null>(null);
  const mayEdit = useMay('flying-day.edit');
  return (
    <section aria-label="Flying days">
      <h2 className="border-b-2 border-ink pb-1">Flying days</h2>
      {charging.days.length === 0 && (
        <p className="py-2 text-faint">
          None to come. With one, its packs are charged as late as the evening allows, and full ones are left
          full.
        </p>
      )}
      <ul>
        {charging.days.map((day) => (
          <li key={day.id} className="ruled flex flex-wrap items-start gap-x-4 py-1.5">
            <span className={day.cancelled ? 'line-through' : ''}>
              <b>{whenWords(day.at, reader)}</b> {day.place}
              {day.craft && `, ${day.craft}`}
            </span>
            <span className="text-faint">
              {dayWants(day, register)}
              {day.cancelled && ' (cancelled)'}
            </span>
            {mayEdit && (
              <Button weight="quiet" className="ml-auto" onClick={() => setOpen(day)}>
                Change
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <Button weight="main" className="mt-3" onClick={() => setOpen('new')}>
          Add a flying day
        </Button>
      )}
      {open !== null && <DaySheet day={open} register={register} onClose={() => setOpen(null)} />}
    </section>
  );
}
