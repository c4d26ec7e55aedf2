import { METAL_BOXES, PLACE_KINDS } from '../../contract';
import type { PlaceAnswer } from '../../contract';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { figureTyped } from '../app/useServerForm';

/** Where packs lie. */
export function PlacesTable({ places }: { places: readonly PlaceAnswer[] }) {
  return (
    <NamedTable
      path="places"
      one="place"
      things={places}
      action="place.edit"
      describe={describe}
      form={(place) => <PlaceForm place={place} />}
    />
  );
}

function describe({ kind, fireResistant, metal, celsius, capacity, setApart }: PlaceAnswer): string {
  return [
    kind,
    fireResistant && 'fire-resistant',
    metal === 'unvented' && 'an unvented metal box: a hazard',
    setApart && 'for packs set apart',
    capacity !== null && `up to ${capacity}`,
    celsius !== null && `${celsius} °C`,
  ]
    .filter(Boolean)
    .join(', ');
}

const METAL_WORDS: Readonly<Record<PlaceAnswer['metal'], string>> = {
  no: 'no',
  vented: 'yes, vented',
  unvented: 'yes, and not vented',
};

interface PlaceValues {
  readonly name: string;
  readonly kind: PlaceAnswer['kind'];
  readonly fireResistant: boolean;
  readonly metal: PlaceAnswer['metal'];
  readonly code: string;
  readonly capacity: string;
  readonly slots: string;
  readonly celsius: string;
  readonly setApart: boolean;
  readonly limitKg: string;
  readonly limitWh: string;
}

const BLANK: PlaceValues = {
  name: '',
  kind: 'box',
  fireResistant: true,
  metal: 'no',
  code: '',
  capacity: '',
  slots: '0',
  celsius: '',
  setApart: false,
  limitKg: '',
  limitWh: '',
};

function valuesOf(place: PlaceAnswer): PlaceValues {
  const { name, kind, fireResistant, metal, code, capacity, slots, celsius, setApart, limitKg, limitWh } =
    place;
  const text = (value: number | null) => (value === null ? '' : String(value));
  return {
    name,
    kind,
    fireResistant,
    metal,
    code: code ?? '',
    capacity: text(capacity),
    slots: String(slots),
    celsius: text(celsius),
    setApart,
    limitKg: text(limitKg),
    limitWh: text(limitWh),
  };
}

function PlaceForm({ place }: { place: PlaceAnswer | null }) {
  const form = useTableForm<PlaceValues>(
    '/places',
    'places',
    place,
    place ? valuesOf(place) : BLANK,
    (values) => ({
      ...values,
      capacity: figureTyped(values.capacity),
      slots: figureTyped(values.slots) ?? 0,
      celsius: figureTyped(values.celsius),
      limitKg: figureTyped(values.limitKg),
      limitWh: figureTyped(values.limitWh),
      map: place?.map ?? null,
    }),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormSelect label="Kind" control={form.control} name="kind">
          {PLACE_KINDS.map((kind) => (
            <SelectOption key={kind} value={kind}>
              {kind}
            </SelectOption>
          ))}
        </FormSelect>
        <FormSelect
          label="A closed metal box?"
          hint="One that lets no gas out bursts when a pack in it burns."
          control={form.control}
          name="metal"
        >
          {METAL_BOXES.map((metal) => (
            <SelectOption key={metal} value={metal}>
              {METAL_WORDS[metal]}
            </SelectOption>
          ))}
        </FormSelect>
        <TextField
          label="Code"
          hint="Printed on it, to be scanned; unlike any pack’s tag."
          className="font-mono"
          error={errors.code?.message}
          {...form.register('code')}
        />
        <TextField
          label="Packs at most"
          inputMode="numeric"
          hint="Empty: no limit."
          error={errors.capacity?.message}
          {...form.register('capacity')}
        />
        <TextField
          label="Numbered slots"
          inputMode="numeric"
          hint="0: packs lie loose."
          error={errors.slots?.message}
          {...form.register('slots')}
        />
        <TextField
          label="Limit, kg"
          inputMode="decimal"
          hint="For a recycling container."
          error={errors.limitKg?.message}
          {...form.register('limitKg')}
        />
        <TextField
          label="Limit, Wh"
          inputMode="decimal"
          hint="For a recycling container."
          error={errors.limitWh?.message}
          {...form.register('limitWh')}
        />
        <TextField
          label="Temperature, °C"
          inputMode="decimal"
          hint="From now on; packs that lie here age by it."
          error={errors.celsius?.message}
          {...form.register('celsius')}
        />
      </div>
      <FormCheck
        label="Fire-resistant"
        hint="A bag, a vented metal box or a cabinet."
        control={form.control}
        name="fireResistant"
      />
      <FormCheck
        label="For packs set apart"
        hint="Packs on hold lie only here. A recycling container set apart takes damaged packs only."
        control={form.control}
        name="setApart"
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!place} />
    </form>
  );
}
