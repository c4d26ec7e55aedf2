import type { RecyclerAnswer } from '../../contract';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { dayWords } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { figureTyped } from '../app/useServerForm';
import { TextArea, TextField, Tick, withOrWithout } from '../kit/fields';
import { FormCheck } from '../kit/formFields';
import { useController } from 'react-hook-form';

/** Who takes packs that are over. */
export function RecyclersTable({ recyclers }: { recyclers: readonly RecyclerAnswer[] }) {
  return (
    <NamedTable
      path="recyclers"
      one="recycler"
      things={recyclers}
      action="recycler.edit"
      describe={describe}
      form={(recycler) => <RecyclerForm recycler={recycler} />}
    />
  );
}

function describe({ chemistries, takesDamaged, takesCharged, limitKg, active }: RecyclerAnswer): string {
  return [
    chemistries.map((chemistry) => CHEMISTRY[chemistry].name).join(', '),
    takesDamaged && 'damaged too',
    takesCharged && 'at storage charge too',
    limitKg !== null && `up to ${limitKg} kg`,
    !active && 'no longer used',
  ]
    .filter(Boolean)
    .join('; ');
}

interface RecyclerValues {
  readonly name: string;
  readonly contact: string;
  readonly chemistries: Chemistry[];
  readonly takesDamaged: boolean;
  readonly takesCharged: boolean;
  readonly limitKg: string;
  readonly askedNow: boolean;
  readonly active: boolean;
}

function RecyclerForm({ recycler }: { recycler: RecyclerAnswer | null }) {
  const reader = useReader();
  const form = useTableForm<RecyclerValues>(
    '/recyclers',
    'recyclers',
    recycler,
    {
      name: recycler?.name ?? '',
      contact: recycler?.contact ?? '',
      chemistries: [...(recycler?.chemistries ?? CHEMISTRIES)],
      takesDamaged: recycler?.takesDamaged ?? false,
      takesCharged: recycler?.takesCharged ?? false,
      limitKg: recycler?.limitKg == null ? '' : String(recycler.limitKg),
      askedNow: false,
      active: recycler?.active ?? true,
    },
    ({ askedNow, limitKg, ...values }) => ({
      ...values,
      limitKg: figureTyped(limitKg),
      confirmedAt: askedNow ? currentTime() : (recycler?.confirmedAt ?? null),
    }),
  );
  const { errors, isSubmitting } = form.formState;
  const { field: chemistries } = useController({ control: form.control, name: 'chemistries' });
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <TextArea label="Where and when" error={errors.contact?.message} {...form.register('contact')} />
      <fieldset>
        <legend className="mb-0.5 text-sm font-bold">Takes</legend>
        <div className="flex flex-wrap gap-x-5">
          {CHEMISTRIES.map((chemistry) => (
            <Tick
              key={chemistry}
              plain
              label={CHEMISTRY[chemistry].name}
              checked={chemistries.value.includes(chemistry)}
              onChange={(takes) => chemistries.onChange(withOrWithout(chemistries.value, chemistry, takes))}
            />
          ))}
        </div>
        {errors.chemistries && (
          <p role="alert" className="text-sm font-bold text-red">
            {errors.chemistries.message}
          </p>
        )}
      </fieldset>
      <FormCheck label="Damaged packs too" control={form.control} name="takesDamaged" />
      <FormCheck
        label="Sound packs at storage charge too"
        hint="With their contacts covered, not discharged first. The house rules must allow it as well."
        control={form.control}
        name="takesCharged"
      />
      <TextField
        label="At one visit, kg"
        inputMode="decimal"
        hint="Empty: no limit."
        error={errors.limitKg?.message}
        {...form.register('limitKg')}
      />
      <FormCheck
        label="Asked today, all this holds"
        hint={
          recycler?.confirmedAt == null
            ? 'What a recycler takes changes without notice.'
            : `Last asked ${dayWords(recycler.confirmedAt, reader)}.`
        }
        control={form.control}
        name="askedNow"
      />
      <FormCheck
        label="Used"
        hint="One no longer used stays on its old consignments."
        control={form.control}
        name="active"
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!recycler} />
    </form>
  );
}
