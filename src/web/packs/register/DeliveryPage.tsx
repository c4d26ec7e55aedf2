import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { v7 as newId } from 'uuid';
import type { PackRow, RegisterAnswer } from '../../../contract';
import { nextTag, tagSeries } from '../../../core/pack';
import { plural } from '../../../core/wording';
import { ask } from '../../app/api';
import { currentTime } from '../../app/clock';
import { Failure } from '../../app/Failure';
import { say } from '../../app/notices';
import { KEYS, queryClient, useRegister } from '../../app/queries';
import { usePackRows } from '../../domain/waitingRows';
import { figureTyped, useServerForm } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { TextField } from '../../kit/fields';
import { FormCheck, FormSelect } from '../../kit/formFields';
import { SelectOption } from '../../kit/Select';
import { Loading, Notice } from '../../kit/Message';

/** Receiving several packs of one type that came together, and going on to their baselines. */
export default function DeliveryPage() {
  const register = useRegister();
  const rows = usePackRows();
  if (register.isLoadingError) return <Failure error={register.error} />;
  if (register.isPending || rows.isPending) return <Loading what="the register" />;
  return <DeliveryForm register={register.data} rows={rows.data ?? []} />;
}

interface DeliveryValues {
  readonly typeId: string;
  readonly count: string;
  readonly first: string;
  readonly owner: string;
  readonly homePlaceId: string;
  readonly source: string;
  readonly fieldPack: boolean;
}

const BLANK: DeliveryValues = {
  typeId: '',
  count: '4',
  first: '',
  owner: '',
  homePlaceId: '',
  source: '',
  fieldPack: false,
};
const MOST = 100;

function DeliveryForm({ register, rows }: { register: RegisterAnswer; rows: readonly PackRow[] }) {
  const navigate = useNavigate();
  // Kept for the life of the form, so that pressing twice receives one delivery.
  const ids = useRef({
    delivery: newId(),
    round: newId(),
    packs: Array.from({ length: MOST }, () => ({ id: newId(), recordId: newId() })),
  });
  const form = useServerForm<DeliveryValues>('delivery', BLANK, async (values) => {
    const tags = tagsOf(values) ?? [values.first];
    const received = await ask('POST /deliveries', {
      body: {
        id: ids.current.delivery,
        typeId: values.typeId,
        packs: tags.map((tag, i) => ({ ...ids.current.packs[i]!, tag })),
        owner: values.owner,
        homePlaceId: values.homePlaceId || null,
        fieldPack: values.fieldPack,
        smart: null,
        receivedAt: currentTime(),
        source: values.source,
      },
    });
    await queryClient.invalidateQueries({ queryKey: KEYS.packs });
    const round = await ask('POST /rounds', {
      body: {
        id: ids.current.round,
        kind: 'receipt',
        title: `Receipt, ${tags[0]}${tags.length > 1 ? ` to ${tags.at(-1)}` : ''}`,
        checklist: true,
        placeId: null,
        fliesAt: null,
        packIds: received.map(({ id }) => id),
      },
    });
    say(`${plural(tags.length, 'pack')} received. Now their baselines.`);
    await navigate(`/rounds/${round.id}`);
  });
  const { register: field, control, formState, watch, setValue } = form;
  const { errors } = formState;
  const values = watch();
  const tags = tagsOf(values);
  const suggestion =
    values.first === '' && values.typeId !== ''
      ? nextTag(rows.filter((row) => row.typeId === values.typeId).map(({ tag }) => tag))
      : null;
  const tagErrors = (
    errors as { packs?: { message?: string } | ({ tag?: { message?: string } } | undefined)[] }
  ).packs;
  const tagProblem = Array.isArray(tagErrors)
    ? tagErrors
        .map((one) => one?.tag?.message)

        .filter(Boolean)
        .join(' ') || undefined
    : tagErrors?.message;
  return (
    <div className="max-w-2xl">
      <title>Receive a delivery · Malle</title>
      <h1>Receive a delivery</h1>
      <p className="mb-5 text-faint">
        Several new packs of one type at once. Their first cells, resistances, thickness and mass follow in a
        round.
      </p>
      <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
        <FormSelect label="Type" autoFocus control={control} name="typeId">
          <SelectOption value="">choose …</SelectOption>
          {register.types.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
        <div className="grid gap-4 sm:grid-cols-[8rem_minmax(0,1fr)]">
          <TextField label="How many" inputMode="numeric" error={errors.count?.message} {...field('count')} />
          <TextField
            label="First tag"
            className="font-mono text-lg font-bold"
            error={tagProblem ?? (values.first !== '' && tags === null ? SERIES_WANTED : undefined)}
            hint={
              suggestion ? (
                <>
                  Next in this series:{' '}
                  <button
                    type="button"
                    onClick={() => setValue('first', suggestion)}
                    className="min-h-6 font-mono font-bold text-accent underline"
                  >
                    {suggestion}
                  </button>
                </>
              ) : (
                tags && (
                  <span className="font-mono">
                    {tags.length > 6 ? `${tags[0]} … ${tags.at(-1)}` : tags.join(' ')}
                  </span>
                )
              )
            }
            {...field('first')}
          />
        </div>
        <div className="grid gap-4 sm:grid-cols-2">
          <TextField label="Owner" error={errors.owner?.message} {...field('owner')} />
          <FormSelect label="Home place" control={control} name="homePlaceId">
            <SelectOption value="">none</SelectOption>
            {register.places.map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
          </FormSelect>
        </div>
        <TextField
          label="Where from"
          hint="Seller and delivery note."
          error={errors.source?.message}
          {...field('source')}
        />
        <FormCheck
          label="Field packs"
          hint="Large and gently loaded; may wait charged for longer."
          control={control}
          name="fieldPack"
        />
        {form.problem && !tagProblem && <Notice title={form.problem} />}
        <div className="border-t-2 border-ink pt-4">
          <Button type="submit" weight="main" disabled={formState.isSubmitting}>
            Receive {tags ? plural(tags.length, 'pack') : 'them'}
          </Button>
        </div>
      </form>
    </div>
  );
}

const SERIES_WANTED = 'A series ends in a number, like HX-13, and holds 1 to 100 packs.';

/** The tags of the series; null while it cannot be told. */
function tagsOf({ first, count }: DeliveryValues): readonly string[] | null {
  const many = figureTyped(count);
  if (typeof many !== 'number' || !Number.isInteger(many) || many < 1 || many > MOST) return null;
  return tagSeries(first, many);
}
