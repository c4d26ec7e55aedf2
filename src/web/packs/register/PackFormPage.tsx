import { useRef } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import { v7 as newId } from 'uuid';
import type { PackDetails, PackRow, RegisterAnswer } from '../../../contract';
import type { PackId } from '../../../core/measure';
import { nextTag } from '../../../core/pack';
import { dayOf, startOfDay } from '../../app/days';
import { ask } from '../../app/api';
import { currentTime } from '../../app/clock';
import { Failure } from '../../app/Failure';
import { say } from '../../app/notices';
import { KEYS, queryClient, usePack, useRegister } from '../../app/queries';
import { usePackRows } from '../../domain/waitingRows';
import { figureTyped, useServerForm } from '../../app/useServerForm';
import { Button } from '../../kit/Button';
import { TextField } from '../../kit/fields';
import { FormCheck, FormSelect } from '../../kit/formFields';
import { SelectOption } from '../../kit/Select';
import { Loading, Notice } from '../../kit/Message';
import { FormMoment } from '../../domain/moments/MomentField';

/** Receiving a pack, and editing the facts of one. */
export default function PackFormPage() {
  const id = useParams().id as PackId | undefined;
  const register = useRegister();
  const rows = usePackRows();
  if (register.isLoadingError) return <Failure error={register.error} />;
  if (register.isPending || rows.isPending) return <Loading what="the register" />;
  return id ? (
    <EditPack id={id} register={register.data} />
  ) : (
    <ReceivePack register={register.data} rows={rows.data ?? []} />
  );
}

interface PackValues {
  readonly tag: string;
  readonly typeId: string;
  readonly owner: string;
  readonly homePlaceId: string;
  /** A day, as a date field gives it. */
  readonly inServiceAt: string;
  readonly fieldPack: boolean;
  readonly smart: boolean;
  readonly autoStorage: boolean;
  readonly autoStorageAfterHours: string;
  readonly source: string;
  /** Whether it was in use before this register knew it, and what it had behind it then. */
  readonly used: boolean;
  readonly cycles: string;
  readonly flights: string;
}

const BLANK: PackValues = {
  tag: '',
  typeId: '',
  owner: '',
  homePlaceId: '',
  inServiceAt: '',
  fieldPack: false,
  smart: false,
  autoStorage: true,
  autoStorageAfterHours: '120',
  source: '',
  used: false,
  cycles: '',
  flights: '',
};

function factsFrom(values: PackValues) {
  return {
    tag: values.tag,
    typeId: values.typeId,
    owner: values.owner,
    homePlaceId: values.homePlaceId || null,
    inServiceAt: values.inServiceAt ? startOfDay(values.inServiceAt) : null,
    fieldPack: values.fieldPack,
    smart: values.smart
      ? { autoStorage: values.autoStorage, autoStorageAfterHours: figureTyped(values.autoStorageAfterHours) }
      : null,
  };
}

function ReceivePack({ register, rows }: { register: RegisterAnswer; rows: readonly PackRow[] }) {
  const navigate = useNavigate();
  const scanned = (useLocation().state as { tag?: string } | null)?.tag ?? '';
  // Kept for the life of the form, so that pressing twice receives one pack.
  const ids = useRef({ id: newId(), recordId: newId() });
  const form = useServerForm<PackValues>('receive', { ...BLANK, tag: scanned }, async (values) => {
    const pack = await ask('POST /packs', {
      body: {
        ...factsFrom(values),
        ...ids.current,
        receivedAt: currentTime(),
        source: values.source,
        ...(values.used && {
          before: { cycles: figureTyped(values.cycles), flights: figureTyped(values.flights) },
        }),
      },
    });
    await queryClient.invalidateQueries({ queryKey: KEYS.packs });
    say(`${pack.tag} received. Now measure it.`);
    await navigate(`/packs/${pack.id}`);
  });
  const typeId = form.watch('typeId');
  const suggestion =
    form.watch('tag') === ''
      ? nextTag(rows.filter((row) => row.typeId === typeId).map(({ tag }) => tag))
      : null;
  return (
    <FormPage title="Receive a pack" lead="Its facts now, its cells on the next page.">
      <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-5">
        <PackFields form={form} register={register} suggestion={suggestion} />
        <TextField
          label="Where from"
          hint="Seller, delivery, or whoever brought it."
          error={form.formState.errors.source?.message}
          {...form.register('source')}
        />
        <UsedBefore form={form} />
        <Submit busy={form.formState.isSubmitting} problem={form.problem} back="/packs">
          Receive the pack
        </Submit>
      </form>
    </FormPage>
  );
}

/** A pack that is not new is not held to what a seller owes, and its wear begins where its old book ended. */
function UsedBefore({ form: { register, control, watch, formState } }: { form: PackForm }) {
  const errors = formState.errors as {
    before?: { cycles?: { message?: string }; flights?: { message?: string } };
  };
  return (
    <div>
      <FormCheck
        label="It was in use before"
        hint="Not new: it comes from another register, a drawer, a member."
        control={control}
        name="used"
      />
      {watch('used') && (
        <div className="mt-2 ml-7 grid gap-3 sm:grid-cols-2">
          <TextField
            label="Cycles so far"
            inputMode="decimal"
            hint="Empty where nobody counted."
            error={errors.before?.cycles?.message}
            {...register('cycles')}
          />
          <TextField
            label="Flights so far"
            inputMode="decimal"
            error={errors.before?.flights?.message}
            {...register('flights')}
          />
        </div>
      )}
    </div>
  );
}

function EditPack({ id, register }: { id: PackId; register: RegisterAnswer }) {
  const pack = usePack(id);
  if (pack.isLoadingError) return <Failure error={pack.error} />;
  if (pack.isPending) return <Loading what="the pack" />;
  return <EditLoadedPack pack={pack.data} register={register} />;
}

function EditLoadedPack({ pack, register }: { pack: PackDetails; register: RegisterAnswer }) {
  const navigate = useNavigate();
  const form = useServerForm<PackValues>(
    `edit.${pack.id}.${pack.version}`,
    valuesOf(pack),
    async (values) => {
      await ask('PUT /packs/:id', {
        params: { id: pack.id },
        body: { ...factsFrom(values), version: pack.version },
      });
      await Promise.all([
        queryClient.invalidateQueries({ queryKey: KEYS.pack(pack.id) }),
        queryClient.invalidateQueries({ queryKey: KEYS.packs }),
      ]);
      say('Facts changed.');
      await navigate(`/packs/${pack.id}`);
    },
  );
  return (
    <FormPage
      title={`Facts of ${pack.tag}`}
      lead="A new tag does not cut the history: the old one still finds this pack."
    >
      <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-5">
        <PackFields form={form} register={register} typeFixed />
        <Submit busy={form.formState.isSubmitting} problem={form.problem} back={`/packs/${pack.id}`}>
          Save the facts
        </Submit>
      </form>
    </FormPage>
  );
}

function valuesOf(pack: PackDetails): PackValues {
  return {
    ...BLANK,
    tag: pack.tag,
    typeId: pack.typeId,
    owner: pack.owner ?? '',
    homePlaceId: pack.homePlaceId ?? '',
    inServiceAt: pack.inServiceAt ? dayOf(pack.inServiceAt) : '',
    fieldPack: pack.fieldPack,
    smart: pack.smart !== null,
    autoStorage: pack.smart?.autoStorage ?? true,
    autoStorageAfterHours: String(pack.smart?.autoStorageAfterHours ?? 120),
  };
}

type PackForm = ReturnType<typeof useServerForm<PackValues>>;

function PackFields({
  form,
  register: tables,
  typeFixed = false,
  suggestion = null,
}: {
  form: PackForm;
  register: RegisterAnswer;
  typeFixed?: boolean;
  suggestion?: string | null;
}) {
  const { register, control, formState, watch } = form;
  const { errors } = formState;
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField
          label="Tag"
          autoFocus
          className="font-mono text-lg font-bold"
          error={errors.tag?.message}
          hint={
            suggestion && (
              <>
                Next in this series:{' '}
                <button
                  type="button"
                  onClick={() => form.setValue('tag', suggestion)}
                  className="min-h-6 font-mono font-bold text-accent underline"
                >
                  {suggestion}
                </button>
              </>
            )
          }
          {...register('tag')}
        />
        <FormSelect
          label="Type"
          disabled={typeFixed}
          hint={
            typeFixed ? (
              'A pack keeps its type.'
            ) : (
              <Link to="/settings/types/new" className="inline-block min-h-6 text-accent underline">
                A type not listed yet
              </Link>
            )
          }
          control={control}
          name="typeId"
        >
          <SelectOption value="">choose …</SelectOption>
          {tables.types.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
        <TextField label="Owner" error={errors.owner?.message} {...register('owner')} />
        <FormSelect label="Home place" control={control} name="homePlaceId">
          <SelectOption value="">none</SelectOption>
          {tables.places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
        <FormMoment label="In service since" wanted="day" lean="past" control={control} name="inServiceAt" />
      </div>
      <FormCheck
        label="Field pack"
        hint="Large and gently loaded; may wait charged for longer."
        control={control}
        name="fieldPack"
      />
      <div>
        <FormCheck
          label="Smart pack"
          hint="Has its own memory and can bleed itself to storage."
          control={control}
          name="smart"
        />
        {watch('smart') && (
          <div className="mt-2 ml-7 grid gap-3 sm:grid-cols-2">
            <FormCheck label="Stores itself" control={control} name="autoStorage" />
            <TextField
              label="After hours without use"
              inputMode="numeric"
              hint="12 to 240"
              error={
                (errors.smart as { autoStorageAfterHours?: { message?: string } } | undefined)
                  ?.autoStorageAfterHours?.message
              }
              {...register('autoStorageAfterHours')}
            />
          </div>
        )}
      </div>
    </>
  );
}

function FormPage({ title, lead, children }: { title: string; lead: string; children: React.ReactNode }) {
  return (
    <div className="max-w-2xl">
      <h1>{title}</h1>
      <p className="mb-5 text-faint">{lead}</p>
      {children}
    </div>
  );
}

function Submit({
  busy,
  problem,
  back,
  children,
}: {
  busy: boolean;
  problem: string | null;
  back: string;
  children: string;
}) {
  return (
    <div>
      {problem && <Notice title={problem} />}
      <div className="flex items-center gap-4 border-t-2 border-ink pt-4">
        <Button type="submit" weight="main" disabled={busy}>
          {children}
        </Button>
        <Link to={back} className="inline-flex min-h-11 items-center text-accent underline md:min-h-8">
          Back
        </Link>
      </div>
    </div>
  );
}
