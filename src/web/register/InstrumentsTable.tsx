import type { InstrumentAnswer } from '../../contract';
import { figureTyped } from '../app/useServerForm';
import { TextField } from '../kit/fields';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';

/** The meters, each with its own error. */
export function InstrumentsTable({ instruments }: { instruments: readonly InstrumentAnswer[] }) {
  return (
    <NamedTable
      path="instruments"
      one="meter"
      things={instruments}
      action="instrument.edit"
      describe={({ errorMv }) => `± ${errorMv} mV`}
      form={(instrument) => <InstrumentForm instrument={instrument} />}
    />
  );
}

interface InstrumentValues {
  readonly name: string;
  readonly errorMv: string;
}

function InstrumentForm({ instrument }: { instrument: InstrumentAnswer | null }) {
  const initial: InstrumentValues = {
    name: instrument?.name ?? '',
    errorMv: String(instrument?.errorMv ?? 5),
  };
  const form = useTableForm<InstrumentValues>(
    '/instruments',
    'instruments',
    instrument,
    initial,
    ({ name, errorMv }) => ({
      name,
      errorMv: figureTyped(errorMv),
    }),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <TextField
        label="Error either way, mV"
        inputMode="numeric"
        hint="Readings carry it, and every state of charge shows what it leaves open."
        error={errors.errorMv?.message}
        {...form.register('errorMv')}
      />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!instrument} />
    </form>
  );
}
