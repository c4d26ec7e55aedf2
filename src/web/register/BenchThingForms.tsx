import { useWatch } from 'react-hook-form';
import type { Control, FieldPathByValue, FieldValues } from 'react-hook-form';
import type { EquipmentAnswer } from '../../contract';
import { SUPPLY_KINDS } from '../../core/charging';
import { figureTyped } from '../app/useServerForm';
import { parseFigures } from '../../core/reading';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { FormTicks, refusedAt } from './equipmentFields';

interface Props {
  readonly thing: EquipmentAnswer | null;
  readonly plugs: readonly string[];
}

function text(value: number | string | null | undefined): string {
  return value === null || value === undefined ? '' : String(value);
}

const named = (thing: EquipmentAnswer | null) => ({ name: thing?.name ?? '', inUse: thing?.inUse ?? true });

/** A load beside the chargers. */
export function LoadForm({ thing, plugs }: Props) {
  const facts = thing?.facts.kind === 'load' ? thing.facts : null;
  const form = useTableForm(
    '/equipment',
    'equipment',
    thing,
    {
      ...named(thing),
      amps: text(facts?.amps),
      watts: text(facts?.watts),
      connectors: [...(facts?.connectors ?? [])] as string[],
    },
    ({ name, inUse, amps, watts, connectors }) => ({
      name,
      inUse,
      facts: { kind: 'load', amps: figureTyped(amps), watts: figureTyped(watts), connectors },
    }),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" error={errors.name?.message} {...form.register('name')} />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="At most, A"
          inputMode="decimal"
          error={refusedAt(errors, 'facts.amps')}
          {...form.register('amps')}
        />
        <TextField
          label="At most, W"
          inputMode="decimal"
          error={refusedAt(errors, 'facts.watts')}
          {...form.register('watts')}
        />
      </div>
      <FormTicks legend="Fits" control={form.control} name="connectors" items={plugs} words={(one) => one} />
      <FormCheck label="Out of the cupboard" control={form.control} name="inUse" />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!thing} />
    </form>
  );
}

/** A board that holds several packs on one channel. */
export function BoardForm({ thing, plugs }: Props) {
  const facts = thing?.facts.kind === 'board' ? thing.facts : null;
  const form = useTableForm(
    '/equipment',
    'equipment',
    thing,
    {
      ...named(thing),
      wiring: facts?.wiring ?? 'parallel',
      ports: text(facts?.ports ?? 4),
      connector: facts?.connector ?? '',
      lead: facts?.lead ?? '',
      slotCells: facts?.slotCells.join(' ') ?? '',
      tolerance: text(facts ? facts.toleranceMv / 1000 : ''),
    },
    ({ name, inUse, wiring, ports, connector, lead, slotCells, tolerance }) => {
      const count = figureTyped(ports);
      const inOrder =
        typeof count === 'number' && count > 0 && count < 30
          ? Array.from({ length: count }, (_, i) => i + 1)
          : [];
      const typed = tolerance.trim() === '' ? usualTolerance(wiring) : figureTyped(tolerance);
      return {
        name,
        inUse,
        facts: {
          kind: 'board',
          wiring,
          ports: count,
          connector: connector.trim() === '' ? null : connector,
          lead: lead.trim() === '' ? null : lead,
          slotCells:
            wiring === 'parallel' ? [] : slotCells.trim() === '' ? inOrder : (parseFigures(slotCells) ?? []),
          toleranceMv: typeof typed === 'number' ? Math.round(typed * 1000) : typed,
        },
      };
    },
  );
  const { errors, isSubmitting } = form.formState;
  const wiring = useWatch({ control: form.control, name: 'wiring' });
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" error={errors.name?.message} {...form.register('name')} />
      <div className="grid grid-cols-2 gap-3">
        <FormSelect label="Wired" control={form.control} name="wiring">
          <SelectOption value="parallel">in parallel</SelectOption>
          <SelectOption value="series">in series, for single cells</SelectOption>
        </FormSelect>
        <TextField
          label="Ports"
          inputMode="numeric"
          error={refusedAt(errors, 'facts.ports')}
          {...form.register('ports')}
        />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <PlugSelect
          label="Its ports take"
          none="any plug"
          control={form.control}
          name="connector"
          plugs={plugs}
        />
        <PlugSelect
          label="Its lead to the charger"
          none="fits by itself"
          control={form.control}
          name="lead"
          plugs={plugs}
        />
      </div>
      {wiring === 'series' && (
        <TextField
          label="Cell of each slot, slot 1 first"
          hint="Empty: in order. Some boards are labelled backwards: 6 5 4 3 2 1."
          error={refusedAt(errors, 'facts.slotCells')}
          {...form.register('slotCells')}
        />
      )}
      <TextField
        label="Packs may lie apart by, V a cell"
        inputMode="decimal"
        placeholder={usualTolerance(wiring).toFixed(2)}
        error={refusedAt(errors, 'facts.toleranceMv')}
        {...form.register('tolerance')}
      />
      <FormCheck label="Out of the cupboard" control={form.control} name="inUse" />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!thing} />
    </form>
  );
}

function PlugSelect<Values extends FieldValues>({
  label,
  none,
  control,
  name,
  plugs,
}: {
  label: string;
  none: string;
  control: Control<Values>;
  name: FieldPathByValue<Values, string>;
  plugs: readonly string[];
}) {
  return (
    <FormSelect label={label} control={control} name={name}>
      <SelectOption value="">{none}</SelectOption>
      {plugs.map((plug) => (
        <SelectOption key={plug} value={plug}>
          {plug}
        </SelectOption>
      ))}
    </FormSelect>
  );
}

/** Volts a cell. Source: the practice. */
function usualTolerance(wiring: string): number {
  return wiring === 'series' ? 0.3 : 0.05;
}

/** A lead from a charger's output to a pack's plug. */
export function AdapterForm({ thing, plugs }: Props) {
  const facts = thing?.facts.kind === 'adapter' ? thing.facts : null;
  const form = useTableForm(
    '/equipment',
    'equipment',
    thing,
    { ...named(thing), from: facts?.from ?? '', to: facts?.to ?? '', data: facts?.data ?? false },
    ({ name, inUse, from, to, data }) => ({ name, inUse, facts: { kind: 'adapter', from, to, data } }),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" error={errors.name?.message} {...form.register('name')} />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="From the output"
          list="plugs"
          error={refusedAt(errors, 'facts.from')}
          {...form.register('from')}
        />
        <TextField
          label="To the pack"
          list="plugs"
          error={refusedAt(errors, 'facts.to')}
          {...form.register('to')}
        />
      </div>
      <datalist id="plugs">
        {plugs.map((plug) => (
          <option key={plug} value={plug} />
        ))}
      </datalist>
      <FormCheck
        label="Carries the data contact"
        hint="Through it a smart pack’s memory is read."
        control={form.control}
        name="data"
      />
      <FormCheck label="Out of the cupboard" control={form.control} name="inUse" />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!thing} />
    </form>
  );
}

const SUPPLY_WORDS = { mains: 'the mains', dc: '12 V', 'field-pack': 'a field pack' } as const;

/** What chargers hang on. */
export function SupplyForm({ thing }: Pick<Props, 'thing'>) {
  const facts = thing?.facts.kind === 'supply' ? thing.facts : null;
  const form = useTableForm(
    '/equipment',
    'equipment',
    thing,
    {
      ...named(thing),
      supply: facts?.supply ?? 'dc',
      watts: text(facts?.watts),
      energyWh: text(facts?.energyWh),
      takesBackW: text(facts?.takesBackW),
    },
    ({ name, inUse, supply, watts, energyWh, takesBackW }) => ({
      name,
      inUse,
      facts: {
        kind: 'supply',
        supply,
        watts: figureTyped(watts),
        energyWh: figureTyped(energyWh),
        takesBackW: figureTyped(takesBackW),
      },
    }),
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" error={errors.name?.message} {...form.register('name')} />
      <FormSelect label="It is" control={form.control} name="supply">
        {SUPPLY_KINDS.map((one) => (
          <SelectOption key={one} value={one}>
            {SUPPLY_WORDS[one]}
          </SelectOption>
        ))}
      </FormSelect>
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField
          label="Gives, W"
          hint="Empty: no limit."
          inputMode="decimal"
          error={refusedAt(errors, 'facts.watts')}
          {...form.register('watts')}
        />
        <TextField
          label="Holds, Wh"
          hint="Empty: no end."
          inputMode="decimal"
          error={refusedAt(errors, 'facts.energyWh')}
          {...form.register('energyWh')}
        />
        <TextField
          label="Takes back, W"
          hint="Empty: nothing."
          inputMode="decimal"
          error={refusedAt(errors, 'facts.takesBackW')}
          {...form.register('takesBackW')}
        />
      </div>
      <FormCheck label="Out of the cupboard" control={form.control} name="inUse" />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!thing} />
    </form>
  );
}
