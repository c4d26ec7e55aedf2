import type { PackTypeAnswer } from '../../contract';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { cellsLabel, DUTY_CLASSES } from '../../core/pack';
import type { DutyClass } from '../../core/pack';
import { capacity } from '../../core/wording';
import { figureTyped } from '../app/useServerForm';
import { TextField } from '../kit/fields';
import { FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';

/** What labels say, once for all packs of a type. */
export function PackTypesTable({ types }: { types: readonly PackTypeAnswer[] }) {
  return (
    <NamedTable
      path="types"
      one="pack type"
      things={types}
      action="type.edit"
      describe={(type) =>
        `${CHEMISTRY[type.chemistry].name} ${cellsLabel(type)} ${capacity(type.capacityMah)}`
      }
      form={(type) => <PackTypeForm type={type} />}
    />
  );
}

type Figure =
  'series' | 'parallel' | 'capacityMah' | 'continuousC' | 'burstC' | 'chargeC' | 'massG' | 'price';
type TypeValues = Record<Figure | 'name' | 'connector' | 'balancePlug', string> & {
  chemistry: Chemistry;
  dutyClass: DutyClass;
};

const FIGURES: readonly { readonly field: Figure; readonly label: string; readonly hint?: string }[] = [
  { field: 'series', label: 'Cells in series' },
  { field: 'parallel', label: 'In parallel' },
  { field: 'capacityMah', label: 'Capacity, mAh or Ah', hint: '3300, or 3.3' },
  { field: 'chargeC', label: 'Highest charge, C' },
  { field: 'continuousC', label: 'Continuous, C' },
  { field: 'burstC', label: 'Burst, C' },
  { field: 'massG', label: 'Mass, g' },
  { field: 'price', label: 'Price' },
];

function PackTypeForm({ type }: { type: PackTypeAnswer | null }) {
  const form = useTableForm<TypeValues>('/pack-types', 'types', type, valuesOf(type), bodyOf);
  const { errors, isSubmitting } = form.formState;
  const field = (name: Figure) => {
    const { label, hint } = FIGURES.find((figure) => figure.field === name)!;
    return (
      <TextField
        key={name}
        label={label}
        hint={hint}
        inputMode="decimal"
        error={errors[name]?.message}
        {...form.register(name)}
      />
    );
  };
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <div className="grid grid-cols-2 gap-4 sm:grid-cols-4">
        <FormSelect label="Chemistry" control={form.control} name="chemistry">
          {CHEMISTRIES.map((chemistry) => (
            <SelectOption key={chemistry} value={chemistry}>
              {CHEMISTRY[chemistry].name}
            </SelectOption>
          ))}
        </FormSelect>
        {FIGURES.slice(0, 3).map((figure) => field(figure.field))}
        {FIGURES.slice(3).map((figure) => field(figure.field))}
        <FormSelect label="Duty" control={form.control} name="dutyClass">
          {DUTY_CLASSES.map((duty) => (
            <SelectOption key={duty} value={duty}>
              {duty}
            </SelectOption>
          ))}
        </FormSelect>
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField label="Connector" error={errors.connector?.message} {...form.register('connector')} />
        <TextField
          label="Balance plug"
          error={errors.balancePlug?.message}
          {...form.register('balancePlug')}
        />
      </div>
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!type} />
    </form>
  );
}

function valuesOf(type: PackTypeAnswer | null): TypeValues {
  const text = (value: number | string | null | undefined) =>
    value === null || value === undefined ? '' : String(value);
  return {
    name: text(type?.name),
    chemistry: type?.chemistry ?? 'lipo',
    series: text(type?.series),
    parallel: text(type?.parallel ?? 1),
    capacityMah: text(type?.capacityMah),
    continuousC: text(type?.continuousC),
    burstC: text(type?.burstC),
    chargeC: text(type?.chargeC),
    connector: text(type?.connector),
    balancePlug: text(type?.balancePlug),
    massG: text(type?.massG),
    price: text(type?.price),
    dutyClass: type?.dutyClass ?? 'normal',
  };
}

function bodyOf(values: TypeValues) {
  const figures = Object.fromEntries(FIGURES.map(({ field }) => [field, figureTyped(values[field])]));
  return { ...values, ...figures, capacityMah: milliampHours(values.capacityMah) };
}

/** From here to there a bare figure may be either: the smallest packs have 40 mAh, the largest 60 Ah. */
const UNCLEAR = { from: 10, to: 100 };

/** Labels give mAh or Ah. The size of a bare figure tells which, or it goes as it was typed, and its unit is asked for at the field. */
function milliampHours(typed: string) {
  const figure = figureTyped(typed.replace(/\s*m?ah$/i, ''));
  if (typeof figure !== 'number') return figure;
  const unit = /m?ah$/i.exec(typed.trim())?.[0].toLowerCase();
  if (!unit && figure >= UNCLEAR.from && figure < UNCLEAR.to) return typed.trim();
  const inAmpHours = unit === 'ah' || (!unit && figure < UNCLEAR.from);
  return inAmpHours ? Math.round(figure * 1000) : figure;
}
