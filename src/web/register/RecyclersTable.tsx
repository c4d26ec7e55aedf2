import type { RecyclerAnswer } from '../../contract';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { dayWords } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { figureTyped } from '../app/useServerForm';
import { CheckField, TextArea, TextField } from '../kit/fields';

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
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <TextArea label="Where and when" error={errors.contact?.message} {...form.register('contact')} />
      <fieldset>
        <legend className="mb-0.5 text-sm font-bold">Takes</legend>
        <div className="flex flex-wrap gap-x-5">
          {CHEMISTRIES.map((chemistry) => (
            <label key={chemistry} className="flex min-h-11 items-center gap-2 md:min-h-8">
              <input
                type="checkbox"
                value={chemistry}
                className="size-5 accent-(--accent)"
                {...form.register('chemistries')}
              />
              {CHEMISTRY[chemistry].name}
            </label>
          ))}
        </div>
        {errors.chemistries && (
          <p role="alert" className="text-sm font-bold text-red">
            {errors.chemistries.message}
          </p>
        )}
      </fieldset>
      <CheckField label="Damaged packs too" {...form.register('takesDamaged')} />
      <CheckField
        label="Sound packs at storage charge too"
        hint="With their contacts covered, not discharged first. The house rules must allow it as well."
        {...form.register('takesCharged')}
      />
      <TextField
        label="At one visit, kg"
        inputMode="decimal"
        hint="Empty: no limit."
        error={errors.limitKg?.message}
        {...form.register('limitKg')}
      />
      <CheckField
        label="Asked today, all this holds"
        hint={
          recycler?.confirmedAt == null
            ? 'What a recycler takes changes without notice.'
            : `Last asked ${dayWords(recycler.confirmedAt, reader)}.`
        }
        {...form.register('askedNow')}
      />
      <CheckField
        label="Used"
        hint="One no longer used stays on its old consignments."
        {...form.register('active')}
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!recycler} />
    </form>
  );
}
