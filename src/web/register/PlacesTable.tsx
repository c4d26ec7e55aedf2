import { PLACE_KINDS } from '../../contract';
import type { PlaceAnswer } from '../../contract';
import { CheckField, SelectField, TextField } from '../kit/fields';
import { NamedTable } from '../app/tables/NamedTable';
import { SaveRow } from '../app/tables/SaveRow';
import { useTableForm } from '../app/tables/useTableForm';

/** Where packs lie. */
export function PlacesTable({ places }: { places: readonly PlaceAnswer[] }) {
  return (
    <NamedTable
      path="places"
      one="place"
      things={places}
      action="place.edit"
      describe={({ kind, fireResistant }) => (fireResistant ? `${kind}, fire-resistant` : kind)}
      form={(place) => <PlaceForm place={place} />}
    />
  );
}

type PlaceValues = Pick<PlaceAnswer, 'name' | 'kind' | 'fireResistant'>;

function PlaceForm({ place }: { place: PlaceAnswer | null }) {
  const initial: PlaceValues = place
    ? { name: place.name, kind: place.kind, fireResistant: place.fireResistant }
    : { name: '', kind: 'box', fireResistant: true };
  const form = useTableForm<PlaceValues>('/places', 'places', place, initial, (values) => values);
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <SelectField label="Kind" error={errors.kind?.message} {...form.register('kind')}>
        {PLACE_KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </SelectField>
      <CheckField
        label="Fire-resistant"
        hint="A bag, a vented metal box or a cabinet. An unvented metal box is itself a hazard."
        {...form.register('fireResistant')}
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!place} />
    </form>
  );
}
