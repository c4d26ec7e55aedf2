import { useWatch } from 'react-hook-form';
import type { UseFormReturn } from 'react-hook-form';
import type { FlyingDayAnswer, PackTypeAnswer, RegisterAnswer } from '../../../contract';
import { worstOutcome } from '../../../core/flying';
import type { PackTypeId, PersonId } from '../../../core/measure';
import { FailedRequest, request } from '../../app/api';
import { localMinute, minuteAt } from '../../app/days';
import { say } from '../../app/notices';
import { KEYS, queryClient } from '../../app/queries';
import { figureTyped, useServerForm } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { TextField, Tick, withOrWithout } from '../../kit/fields';
import { FormSelect } from '../../kit/formFields';
import { Notice } from '../../kit/Message';
import { SelectOption } from '../../kit/Select';
import { Sheet } from '../../kit/Sheet';
import { typeFits } from '../craft';
import { FormMoment } from '../moments/MomentField';

interface Line {
  readonly typeId: PackTypeId;
  readonly packs: string;
  readonly craftId: string;
}

interface DayValues {
  readonly at: string;
  readonly place: string;
  readonly craft: string;
  readonly lines: Line[];
  readonly personIds: PersonId[];
  readonly wants: string;
}

/** The form of a flying day over whatever page it was opened from. */
export function DaySheet({
  day,
  register,
  onClose,
}: {
  day: FlyingDayAnswer | 'new';
  register: RegisterAnswer;
  onClose: () => void;
}) {
  const isNew = day === 'new';
  return (
    <Sheet open onClose={onClose} title={isNew ? 'A flying day' : 'Change the flying day'}>
      <DayForm day={isNew ? null : day} register={register} onDone={onClose} />
    </Sheet>
  );
}

/** A flying day: when, where, how many packs of which type for which craft, and who flies. */
function DayForm({
  day,
  register,
  onDone,
}: {
  day: FlyingDayAnswer | null;
  register: RegisterAnswer;
  onDone: () => void;
}) {
  const save = async (cancelled: boolean, { at, place, craft, lines, personIds }: DayValues) => {
    const wants = lines.flatMap(({ typeId, packs: typed, craftId }) => {
      const packs = figureTyped(typed);
      return packs === null || packs === 0 ? [] : [{ typeId, packs, craftId: craftId || null }];
    });
    const body = { at: minuteAt(at), place, craft, wants, personIds, cancelled };
    if (day) await request('PUT', `/flying-days/${day.id}`, { ...body, version: day.version });
    else await request('POST', '/flying-days', body);
    await Promise.all([
      queryClient.invalidateQueries({ queryKey: KEYS.charging }),
      queryClient.invalidateQueries({ queryKey: KEYS.flying }),
    ]);
    say(cancelled ? 'Cancelled. No storage clock begins anew by it.' : day ? 'Changed.' : 'Added.');
    onDone();
  };
  const form = useServerForm<DayValues>(
    `flying-day.${day ? `${day.id}.${day.version}` : 'new'}`,
    {
      at: day ? localMinute(day.at) : '',
      place: day?.place ?? '',
      craft: day?.craft ?? '',
      lines: linesOf(day, register.types),
      personIds: [...(day?.personIds ?? [])],
      wants: '',
    },
    (values) => save(day?.cancelled ?? false, values),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <FormMoment label="First flight" wanted="minute" lean="ahead" control={form.control} name="at" />
      <TextField label="Where" error={errors.place?.message} {...form.register('place')} />
      <fieldset>
        <legend className="mb-1 text-sm font-bold">Packs of each type, a flight each</legend>
        <div className="grid gap-y-1">
          {form.getValues('lines').map(({ typeId }, i) => (
            <WantLine
              key={i}
              form={form}
              i={i}
              type={register.types.find(({ id }) => id === typeId)}
              register={register}
            />
          ))}
        </div>
        {errors.wants && (
          <p role="alert" className="text-sm font-bold text-red">
            {errors.wants.message ?? 'Say which packs it wants, as whole numbers.'}
          </p>
        )}
      </fieldset>
      <People form={form} register={register} />
      <TextField
        label="Remarks on the craft"
        hint="May be left empty."
        error={errors.craft?.message}
        {...form.register('craft')}
      />
      {form.problem && <Notice title={form.problem} />}
      <div className="flex flex-wrap gap-3">
        <Button type="submit" weight="main" disabled={isSubmitting}>
          {day ? 'Save' : 'Add it'}
        </Button>
        {day && !day.cancelled && (
          <Button
            onClick={() =>
              void save(true, form.getValues()).catch((error: unknown) =>
                say(error instanceof FailedRequest ? error.says : 'That failed.'),
              )
            }
          >
            Cancel this day
          </Button>
        )}
      </div>
    </form>
  );
}

/** A line for every type, with what the day wants of it already; a type wanted for two craft has two. */
function linesOf(day: FlyingDayAnswer | null, types: readonly PackTypeAnswer[]): Line[] {
  return types.flatMap(({ id }): Line[] => {
    const wanted = day?.wants.filter(({ typeId }) => typeId === id) ?? [];
    if (wanted.length === 0) return [{ typeId: id, packs: '', craftId: '' }];
    return wanted.map(({ packs, craftId }) => ({ typeId: id, packs: String(packs), craftId: craftId ?? '' }));
  });
}

/** One type: how many packs, and once there are some, on what they are flown. */
function WantLine({
  form,
  i,
  type,
  register,
}: {
  form: UseFormReturn<DayValues>;
  i: number;
  type: PackTypeAnswer | undefined;
  register: RegisterAnswer;
}) {
  const packs = useWatch({ control: form.control, name: `lines.${i}.packs` });
  if (!type) return null;
  const fitting = register.craft.filter(
    (craft) => craft.inUse && worstOutcome(typeFits(type, craft, register)) !== 'refused',
  );
  return (
    <div className="grid grid-cols-[1fr_5rem] items-center gap-x-3">
      <label className="contents">
        <span>{type.name}</span>
        <input
          inputMode="numeric"
          autoComplete="off"
          className="min-h-11 rounded-sm border-[1.5px] border-rule bg-sheet px-2 text-right md:min-h-9"
          {...form.register(`lines.${i}.packs`)}
        />
      </label>
      {packs !== '' && fitting.length > 0 && (
        <div className="col-span-2 pb-2">
          <FormSelect label={`${type.name}: flown on`} control={form.control} name={`lines.${i}.craftId`}>
            <SelectOption value="">not said</SelectOption>
            {fitting.map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
          </FormSelect>
        </div>
      )}
    </div>
  );
}

function People({ form, register }: { form: UseFormReturn<DayValues>; register: RegisterAnswer }) {
  const chosen = useWatch({ control: form.control, name: 'personIds' });
  const flyers = register.people.filter(({ role, id }) => role !== 'reader' || chosen.includes(id));
  return (
    <fieldset>
      <legend className="text-sm font-bold">Who flies</legend>
      <div className="flex flex-wrap gap-x-5">
        {flyers.map(({ id, name }) => (
          <Tick
            key={id}
            plain
            label={name}
            checked={chosen.includes(id)}
            onChange={(ticked) =>
              form.setValue('personIds', withOrWithout(chosen, id, ticked), { shouldDirty: true })
            }
          />
        ))}
      </div>
    </fieldset>
  );
}
