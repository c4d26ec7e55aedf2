import { useState } from 'react';
import type { CraftAnswer, PackTypeAnswer } from '../../contract';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { CUT_OFF_MODES } from '../../core/flying';
import type { CutOff } from '../../core/flying';
import { dayWords, plural, volts } from '../../core/wording';
import { request } from '../app/api';
import { useReader } from '../app/clock';
import { localMinute, minuteAt } from '../app/days';
import { say } from '../app/notices';
import { KEYS, queryClient } from '../app/queries';
import { figureTyped, useServerForm } from '../app/useServerForm';
import { FormMoment } from '../domain/moments/MomentField';
import { useMay } from '../domain/Person';
import { NamedTable } from '../domain/tables/NamedTable';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { Notice } from '../kit/Message';
import { SelectOption } from '../kit/Select';
import { FormTicks, refusedAt } from './equipmentFields';

/** What packs are flown on. */
export function CraftTable({
  craft,
  types,
}: {
  craft: readonly CraftAnswer[];
  types: readonly PackTypeAnswer[];
}) {
  const plugs = [...new Set(types.flatMap(({ connector }) => connector ?? []))];
  return (
    <NamedTable
      path="craft"
      one="craft"
      things={craft}
      action="craft.edit"
      describe={describe}
      form={(one) => (
        <div className="grid gap-8">
          <CraftForm craft={one} plugs={plugs} />
          {one && <Changes craft={one} />}
        </div>
      )}
    />
  );
}

function describe({ inUse, facts }: CraftAnswer): string {
  const { cells, chemistries, cutOff } = facts;
  const count = cells.least === cells.most ? `${cells.least}S` : `${cells.least}–${cells.most}S`;
  const parts = [
    chemistries.map((chemistry) => CHEMISTRY[chemistry].name).join(', '),
    count,
    cutOff.mode === 'lithium'
      ? `cut-off ${cutOff.cells} × ${volts(cutOff.cellMv)} V`
      : CUT_OFF_WORDS[cutOff.mode],
    inUse ? '' : 'no longer flown',
  ];
  return parts.filter(Boolean).join(', ');
}

const CUT_OFF_WORDS: Readonly<Record<Exclude<CutOff['mode'], 'lithium'>, string>> = {
  nickel: 'cut-off for nickel',
  none: 'no cut-off',
  unknown: 'cut-off not looked at',
};

const FIGURES = [
  { path: 'cells.least', label: 'Fewest cells' },
  { path: 'cells.most', label: 'Most cells' },
  { path: 'capacityMah.least', label: 'Least mAh' },
  { path: 'capacityMah.most', label: 'Most mAh' },
  { path: 'massG.least', label: 'Least mass, g' },
  { path: 'massG.most', label: 'Most mass, g' },
  { path: 'sustainedA', label: 'Sustained, A' },
  { path: 'burstA', label: 'Burst, A' },
  { path: 'usualMinutes', label: 'Usual minutes' },
  { path: 'usualMah', label: 'Usual mAh' },
] as const;

/** How a figure is called within the form: a dot would be read as a path. */
type FigureKey = `f${number}`;

interface CraftValues extends Record<FigureKey, string> {
  name: string;
  inUse: boolean;
  chemistries: Chemistry[];
  connector: string;
  cutOffMode: CutOff['mode'];
  cutOffCells: string;
  cutOffVolts: string;
  trainer: boolean;
  costly: boolean;
  overWater: boolean;
  overPeople: boolean;
}

function CraftForm({ craft, plugs }: { craft: CraftAnswer | null; plugs: readonly string[] }) {
  const form = useTableForm<CraftValues>('/craft', 'craft', craft, valuesOf(craft), bodyOf);
  const { errors, isSubmitting } = form.formState;
  const mode = form.watch('cutOffMode');
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...form.register('name')} />
      <FormTicks
        legend="Takes"
        control={form.control}
        name="chemistries"
        items={CHEMISTRIES}
        words={(one) => CHEMISTRY[one].name}
        error={refusedAt(errors, 'facts.chemistries')}
      />
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
        {FIGURES.map(({ path, label }, i) => (
          <TextField
            key={path}
            label={label}
            inputMode="decimal"
            error={refusedAt(errors, `facts.${path}`)}
            {...form.register(`f${i}`)}
          />
        ))}
        <TextField
          label="Connector"
          list="plugs"
          error={refusedAt(errors, 'facts.connector')}
          {...form.register('connector')}
        />
        <datalist id="plugs">
          {plugs.map((plug) => (
            <option key={plug} value={plug} />
          ))}
        </datalist>
      </div>
      <fieldset className="grid grid-cols-2 items-start gap-4 sm:grid-cols-4">
        <legend className="mb-1 font-bold">Low-voltage cut-off, as it is set</legend>
        <div className="col-span-2">
          <FormSelect
            label="Mode"
            control={form.control}
            name="cutOffMode"
            refused={refusedAt(errors, 'facts.cutOff.mode')}
          >
            {CUT_OFF_MODES.map((one) => (
              <SelectOption key={one} value={one}>
                {one === 'lithium' ? 'volts a cell' : CUT_OFF_WORDS[one]}
              </SelectOption>
            ))}
          </FormSelect>
        </div>
        {mode === 'lithium' && (
          <>
            <TextField
              label="Set for cells"
              inputMode="numeric"
              error={refusedAt(errors, 'facts.cutOff.cells')}
              {...form.register('cutOffCells')}
            />
            <TextField
              label="Volts a cell"
              inputMode="decimal"
              error={refusedAt(errors, 'facts.cutOff.cellMv')}
              {...form.register('cutOffVolts')}
            />
          </>
        )}
      </fieldset>
      <fieldset className="grid gap-x-6 sm:grid-cols-2">
        <legend className="font-bold">What it risks</legend>
        <FormCheck
          label="A trainer"
          hint="Packs on caution are offered to it."
          control={form.control}
          name="trainer"
        />
        <FormCheck label="Costly" hint="Packs on caution stay off it." control={form.control} name="costly" />
        <FormCheck label="Flies over water" control={form.control} name="overWater" />
        <FormCheck label="Flies over people" control={form.control} name="overPeople" />
        <FormCheck
          label="Still flown here"
          hint="Off: sold or broken up; its flights keep its name."
          control={form.control}
          name="inUse"
        />
      </fieldset>
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!craft} />
    </form>
  );
}

function valuesOf(craft: CraftAnswer | null): CraftValues {
  const facts = craft?.facts;
  const cutOff = facts?.cutOff ?? { mode: 'unknown' as const };
  const text = (value: number | null | undefined) => (value == null ? '' : String(value));
  const figures = Object.fromEntries(
    FIGURES.map(({ path }, i) => {
      const [field, end] = path.split('.') as [keyof NonNullable<typeof facts>, 'least' | 'most' | undefined];
      const value = facts?.[field] as number | Readonly<Record<string, number | null>> | null | undefined;
      return [
        `f${i}`,
        text(
          end
            ? (value as Readonly<Record<string, number | null>> | undefined)?.[end]
            : (value as number | null),
        ),
      ];
    }),
  ) as Record<FigureKey, string>;
  return {
    ...figures,
    name: craft?.name ?? '',
    inUse: craft?.inUse ?? true,
    chemistries: [...(facts?.chemistries ?? [])],
    connector: facts?.connector ?? '',
    cutOffMode: cutOff.mode,
    cutOffCells: cutOff.mode === 'lithium' ? text(cutOff.cells) : '',
    cutOffVolts: cutOff.mode === 'lithium' ? volts(cutOff.cellMv) : '',
    trainer: facts?.trainer ?? false,
    costly: facts?.costly ?? false,
    overWater: facts?.overWater ?? false,
    overPeople: facts?.overPeople ?? false,
  };
}

function bodyOf(values: CraftValues): object {
  const figures: Record<string, unknown> = {};
  FIGURES.forEach(({ path }, i) => {
    const [field, end] = path.split('.') as [string, string | undefined];
    const value = figureTyped(values[`f${i}`]);
    if (end) figures[field] = { ...(figures[field] as object | undefined), [end]: value };
    else figures[field] = value;
  });
  const { name, inUse, chemistries, connector, cutOffMode, cutOffCells, cutOffVolts } = values;
  const { trainer, costly, overWater, overPeople } = values;
  const cellV = figureTyped(cutOffVolts);
  const cutOff =
    cutOffMode === 'lithium'
      ? {
          mode: cutOffMode,
          cells: figureTyped(cutOffCells),
          cellMv: typeof cellV === 'number' ? Math.round(cellV * 1000) : cellV,
        }
      : { mode: cutOffMode };
  return {
    name,
    inUse,
    facts: { ...figures, chemistries, connector, cutOff, trainer, costly, overWater, overPeople },
  };
}

/** The work done on it, and room for what is done next. */
function Changes({ craft }: { craft: CraftAnswer }) {
  const reader = useReader();
  const names = useNames();
  const mayEdit = useMay('craft.edit');
  const [adding, setAdding] = useState(false);
  return (
    <section aria-label="Work done on it">
      <h2 className="border-b-2 border-ink pb-1">
        Work done on it <span className="font-normal text-faint">{craft.changes.length}</span>
      </h2>
      <ul>
        {[...craft.changes].reverse().map(({ at, by, what, newBaseline }) => (
          <li key={`${at} ${what}`} className="ruled py-1.5">
            <b>{dayWords(at, reader)}</b> {what}
            {newBaseline && <b className="text-amber"> New baseline: flights before it are not compared.</b>}
            <span className="block text-sm text-faint">{names.person(by)}</span>
          </li>
        ))}
      </ul>
      {craft.changes.length === 0 && (
        <p className="py-2 text-faint">
          Nothing yet. Other propellers or another weight begin a new baseline.
        </p>
      )}
      {adding ? (
        <ChangeForm craft={craft} onDone={() => setAdding(false)} />
      ) : (
        mayEdit && (
          <Button className="mt-3" onClick={() => setAdding(true)}>
            Write something down
          </Button>
        )
      )}
      {craft.changes.length > 0 && (
        <p className="mt-2 text-sm text-faint">
          {plural(craft.changes.filter(({ newBaseline }) => newBaseline).length + 1, 'set-up')} so far.
        </p>
      )}
    </section>
  );
}

function ChangeForm({ craft, onDone }: { craft: CraftAnswer; onDone: () => void }) {
  const reader = useReader();
  const form = useServerForm<{ at: string; what: string; newBaseline: boolean }>(
    `craft-change.${craft.id}`,
    { at: localMinute(reader.now), what: '', newBaseline: false },
    async ({ at, what, newBaseline }) => {
      await request('POST', `/craft/${craft.id}/changes`, { at: minuteAt(at), what, newBaseline });
      await queryClient.invalidateQueries({ queryKey: KEYS.register });
      say('Written down.');
      onDone();
    },
  );
  const { errors, isSubmitting } = form.formState;
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="mt-3 grid gap-3">
      <FormMoment label="When" wanted="minute" lean="past" control={form.control} name="at" />
      <TextField label="What was done" autoFocus error={errors.what?.message} {...form.register('what')} />
      <FormCheck
        label="A new baseline"
        hint="Tick it for other propellers, motors or weight: flights after it are not compared with those before."
        control={form.control}
        name="newBaseline"
      />
      {form.problem && <Notice title={form.problem} />}
      <div className="flex gap-3">
        <Button type="submit" weight="main" disabled={isSubmitting}>
          Write it down
        </Button>
        <Button weight="quiet" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
