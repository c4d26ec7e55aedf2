import { useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import type { EquipmentAnswer } from '../../contract';
import { SETTING_FIELDS, STORAGE_DIRECTIONS, SUPPLY_KINDS } from '../../core/charging';
import type { SettingField, StorageDirection, SupplyKind } from '../../core/charging';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import { CHARGE_MODES } from '../../core/record';
import type { ChargeMode } from '../../core/record';
import { SETTING_WORDS } from '../../core/wording';
import { figureTyped } from '../app/useServerForm';
import { SaveRow } from '../domain/tables/SaveRow';
import { useTableForm } from '../domain/tables/useTableForm';
import { Button } from '../kit/Button';
import { TextArea, TextField } from '../kit/fields';
import { FormCheck, FormSelect } from '../kit/formFields';
import { SelectOption } from '../kit/Select';
import { FormTicks, refusedAt } from './equipmentFields';

interface ChannelValues {
  readonly key: string;
  readonly chargeA: string;
  readonly chargeW: string;
  readonly dischargeA: string;
  readonly dischargeW: string;
  readonly outOfOrder: boolean;
}

interface SharedValues {
  readonly supply: SupplyKind;
  readonly watts: string;
  readonly amps: string;
  readonly split: 'pool' | 'shares';
  readonly aloneW: string;
}

interface ErrorValues {
  readonly text: string;
  readonly means: string;
  readonly next: string;
}

interface ChargerValues {
  readonly name: string;
  readonly inUse: boolean;
  readonly channels: ChannelValues[];
  readonly chemistries: Chemistry[];
  readonly leastCells: string;
  readonly mostCells: string;
  /** Where a chemistry differs from the others: "nimh 1-16" a line. */
  readonly otherCells: string;
  readonly modes: ChargeMode[];
  readonly shared: SharedValues[];
  readonly supplyId: string;
  readonly stepA: string;
  readonly leastA: string;
  readonly balanceA: string;
  readonly floor: string;
  readonly storage: StorageDirection;
  readonly storageA: string;
  readonly connectors: string[];
  readonly connectOrder: string;
  readonly words: Record<SettingField, string>;
  readonly errors: ErrorValues[];
}

const NEW_CHANNEL: ChannelValues = {
  key: '1',
  chargeA: '',
  chargeW: '',
  dischargeA: '',
  dischargeW: '',
  outOfOrder: false,
};

const STORAGE_WORDS: Readonly<Record<StorageDirection, string>> = {
  both: 'up and down',
  raise: 'up only',
  lower: 'down only',
  neither: 'it has none',
};
const SUPPLY_WORDS: Readonly<Record<SupplyKind, string>> = {
  mains: 'mains',
  dc: '12 V',
  'field-pack': 'field pack',
};
const MODE_WORDS: Readonly<Record<ChargeMode, string>> = {
  balance: 'balance',
  fast: 'fast, without balancing',
  storage: 'storage',
  discharge: 'discharge',
};

function text(value: number | null | undefined): string {
  return value === null || value === undefined ? '' : String(value);
}

function valuesOf(thing: EquipmentAnswer | null): ChargerValues {
  const facts = thing?.facts.kind === 'charger' ? thing.facts : null;
  const ranges = Object.entries(facts?.cells ?? {}) as [Chemistry, { least: number; most: number }][];
  const [usual] = ranges.map(([, range]) => range);
  const others = ranges.filter(([, { least, most }]) => least !== usual?.least || most !== usual.most);
  return {
    name: thing?.name ?? '',
    inUse: thing?.inUse ?? true,
    channels: facts?.channels.map(({ key, chargeA, chargeW, dischargeA, dischargeW, outOfOrder }) => ({
      key,
      chargeA: text(chargeA),
      chargeW: text(chargeW),
      dischargeA: text(dischargeA),
      dischargeW: text(dischargeW),
      outOfOrder,
    })) ?? [NEW_CHANNEL],
    chemistries: facts
      ? ranges.map(([chemistry]) => chemistry)
      : ['lipo', 'lihv', 'liion', 'lifepo4', 'nimh'],
    leastCells: text(usual?.least ?? 1),
    mostCells: text(usual?.most ?? 6),
    otherCells: others
      .map(([chemistry, { least, most }]) => `${CHEMISTRY[chemistry].name} ${least}-${most}`)
      .join('\n'),
    modes: [...(facts?.modes ?? CHARGE_MODES)],
    shared:
      facts?.shared.map(({ supply, watts, amps, split, aloneW }) => ({
        supply,
        watts: text(watts),
        amps: text(amps),
        split,
        aloneW: text(aloneW),
      })) ?? [],
    supplyId: facts?.supplyId ?? '',
    stepA: text(facts?.stepA ?? 0.1),
    leastA: text(facts?.leastA ?? 0.1),
    balanceA: facts ? text(facts.balanceA) : '0.3',
    floor: facts ? (facts.floorMv === null ? '' : (facts.floorMv / 1000).toFixed(2)) : '3.00',
    storage: facts?.storage ?? 'both',
    storageA: text(facts?.storageA),
    connectors: [...(facts?.connectors ?? [])],
    connectOrder: facts?.connectOrder.join('\n') ?? '',
    words: Object.fromEntries(SETTING_FIELDS.map((field) => [field, facts?.words[field] ?? ''])) as Record<
      SettingField,
      string
    >,
    errors: facts?.errors.map((one) => ({ ...one })) ?? [],
  };
}

function lines(typed: string): string[] {
  return typed
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
}

/** Ranges that differ, as typed: a line that cannot be read stands as it is, for the server to refuse. */
function cellsOf({ chemistries, leastCells, mostCells, otherCells }: ChargerValues): object {
  const usual = { least: figureTyped(leastCells), most: figureTyped(mostCells) };
  const own = new Map(
    lines(otherCells).flatMap((line) => {
      const match = /^(\S+)\s+(\d+)\s*(?:-|–|to)\s*(\d+)$/i.exec(line);
      const chemistry = CHEMISTRIES.find(
        (one) => CHEMISTRY[one].name.toLowerCase() === match?.[1]?.toLowerCase() || one === match?.[1],
      );
      return match && chemistry
        ? [[chemistry, { least: Number(match[2]), most: Number(match[3]) }] as const]
        : [];
    }),
  );
  return Object.fromEntries(chemistries.map((chemistry) => [chemistry, own.get(chemistry) ?? usual]));
}

function factsOf(values: ChargerValues): object {
  const floor = figureTyped(values.floor);
  return {
    kind: 'charger',
    channels: values.channels.map(({ key, chargeA, chargeW, dischargeA, dischargeW, outOfOrder }) => ({
      key,
      chargeA: figureTyped(chargeA),
      chargeW: figureTyped(chargeW),
      dischargeA: figureTyped(dischargeA),
      dischargeW: figureTyped(dischargeW),
      outOfOrder,
    })),
    cells: cellsOf(values),
    modes: values.modes,
    shared: values.shared.map(({ supply, watts, amps, split, aloneW }) => ({
      supply,
      watts: figureTyped(watts),
      amps: figureTyped(amps),
      split,
      aloneW: figureTyped(aloneW),
    })),
    supplyId: values.supplyId || null,
    stepA: figureTyped(values.stepA),
    leastA: figureTyped(values.leastA),
    balanceA: figureTyped(values.balanceA),
    floorMv: typeof floor === 'number' ? Math.round(floor * 1000) : floor,
    storage: values.storage,
    storageA: figureTyped(values.storageA),
    connectors: values.connectors,
    connectOrder: lines(values.connectOrder),
    words: Object.fromEntries(Object.entries(values.words).filter(([, word]) => word.trim() !== '')),
    errors: values.errors,
  };
}

/** A charger's card. For the usual one, its name and the first channel are enough; the rest begins with common values. */
export function ChargerForm({
  thing,
  equipment,
  plugs,
}: {
  thing: EquipmentAnswer | null;
  equipment: readonly EquipmentAnswer[];
  plugs: readonly string[];
}) {
  const form = useTableForm<ChargerValues>('/equipment', 'equipment', thing, valuesOf(thing), (values) => ({
    name: values.name,
    inUse: values.inUse,
    facts: factsOf(values),
  }));
  const { errors, isSubmitting } = form.formState;
  const { control, register } = form;
  const at = (path: string) => refusedAt(errors, `facts.${path}`);
  const channels = useFieldArray({ control, name: 'channels' });
  const shared = useFieldArray({ control, name: 'shared' });
  const messages = useFieldArray({ control, name: 'errors' });
  const balances = useWatch({ control, name: 'modes' }).includes('balance');
  const supplies = equipment.filter(({ facts }) => facts.kind === 'supply');
  const [more, setMore] = useState(thing !== null);
  const addChannel = () => {
    const last = form.getValues('channels').at(-1) ?? NEW_CHANNEL;
    channels.append({ ...last, key: nextKey(last.key), outOfOrder: false });
  };
  return (
    <form onSubmit={(event) => void form.hand(event)} noValidate className="grid gap-4">
      <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
      <fieldset className="grid gap-3">
        <legend className="mb-1 border-b-2 border-ink pb-0.5 text-base font-bold">Channels</legend>
        {channels.fields.map((field, i) => (
          <div
            key={field.id}
            className="grid grid-cols-2 items-start gap-2 border-b border-rule pb-3 sm:grid-cols-5"
          >
            <TextField label="Called" error={at(`channels.${i}.key`)} {...register(`channels.${i}.key`)} />
            <TextField
              label="Charge, A"
              inputMode="decimal"
              error={at(`channels.${i}.chargeA`)}
              {...register(`channels.${i}.chargeA`)}
            />
            <TextField
              label="Charge, W"
              inputMode="decimal"
              error={at(`channels.${i}.chargeW`)}
              {...register(`channels.${i}.chargeW`)}
            />
            <TextField
              label="Drain, A"
              inputMode="decimal"
              error={at(`channels.${i}.dischargeA`)}
              {...register(`channels.${i}.dischargeA`)}
            />
            <TextField
              label="Drain, W"
              inputMode="decimal"
              error={at(`channels.${i}.dischargeW`)}
              {...register(`channels.${i}.dischargeW`)}
            />
            <div className="col-span-2 flex flex-wrap items-center gap-x-4 sm:col-span-5">
              <FormCheck label="Out of order" control={control} name={`channels.${i}.outOfOrder`} />
              {channels.fields.length > 1 && (
                <Button weight="quiet" onClick={() => channels.remove(i)}>
                  Take this channel away
                </Button>
              )}
            </div>
          </div>
        ))}
        {refusedAt(errors, 'facts.channels.root') && (
          <p className="font-bold text-red">{refusedAt(errors, 'facts.channels.root')}</p>
        )}
        <span>
          <Button onClick={addChannel}>One more channel like it</Button>
        </span>
      </fieldset>
      <FormTicks
        legend="Charges"
        control={control}
        name="chemistries"
        items={CHEMISTRIES}
        words={(one) => CHEMISTRY[one].name}
        error={at('cells')}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Cells, from" inputMode="numeric" {...register('leastCells')} />
        <TextField label="to" inputMode="numeric" {...register('mostCells')} />
      </div>
      <FormTicks
        legend="Its outputs fit"
        control={control}
        name="connectors"
        items={plugs}
        words={(one) => one}
        error={at('connectors')}
      />
      {!more && (
        <Button weight="quiet" className="justify-self-start" onClick={() => setMore(true)}>
          Shared power, storage, balancing, its own words: begun with common values
        </Button>
      )}
      {more && (
        <>
          <fieldset className="grid gap-3">
            <legend className="mb-1 border-b-2 border-ink pb-0.5 text-base font-bold">
              Shared between the channels
            </legend>
            {shared.fields.map((field, i) => (
              <div
                key={field.id}
                className="grid grid-cols-2 items-start gap-2 border-b border-rule pb-3 sm:grid-cols-5"
              >
                <FormSelect
                  label="On"
                  control={control}
                  name={`shared.${i}.supply`}
                  refused={at(`shared.${i}.supply`)}
                >
                  {SUPPLY_KINDS.map((one) => (
                    <SelectOption key={one} value={one}>
                      {SUPPLY_WORDS[one]}
                    </SelectOption>
                  ))}
                </FormSelect>
                <TextField
                  label="Watts in all"
                  inputMode="decimal"
                  error={at(`shared.${i}.watts`)}
                  {...register(`shared.${i}.watts`)}
                />
                <TextField
                  label="Amps in all"
                  inputMode="decimal"
                  error={at(`shared.${i}.amps`)}
                  {...register(`shared.${i}.amps`)}
                />
                <FormSelect label="Given" control={control} name={`shared.${i}.split`}>
                  <SelectOption value="pool">to whoever asks</SelectOption>
                  <SelectOption value="shares">in equal shares</SelectOption>
                </FormSelect>
                <TextField
                  label="One alone, W"
                  inputMode="decimal"
                  error={at(`shared.${i}.aloneW`)}
                  {...register(`shared.${i}.aloneW`)}
                />
                <span className="col-span-2 sm:col-span-5">
                  <Button weight="quiet" onClick={() => shared.remove(i)}>
                    Take this limit away
                  </Button>
                </span>
              </div>
            ))}
            {shared.fields.length < SUPPLY_KINDS.length && (
              <span>
                <Button
                  onClick={() =>
                    shared.append({
                      supply: SUPPLY_KINDS.find(
                        (one) => !form.getValues('shared').some(({ supply }) => supply === one),
                      )!,
                      watts: '',
                      amps: '',
                      split: 'pool',
                      aloneW: '',
                    })
                  }
                >
                  Add a shared limit
                </Button>
              </span>
            )}
          </fieldset>
          <FormSelect
            label="Hangs on"
            control={control}
            name="supplyId"
            refused={at('supplyId')}
            hint="Supplies are things of the bench, too."
          >
            <SelectOption value="">the mains, without a limit of its own</SelectOption>
            {supplies.map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
          </FormSelect>
          <FormTicks
            legend="Modes"
            control={control}
            name="modes"
            items={CHARGE_MODES}
            words={(one) => MODE_WORDS[one]}
            error={at('modes')}
          />
          <div className="grid gap-3 sm:grid-cols-3">
            <TextField label="Step, A" inputMode="decimal" error={at('stepA')} {...register('stepA')} />
            <TextField
              label="Least current, A"
              inputMode="decimal"
              error={at('leastA')}
              {...register('leastA')}
            />
            <TextField
              label="Balances at, A"
              inputMode="decimal"
              disabled={!balances}
              error={at('balanceA')}
              {...register('balanceA')}
            />
            <TextField
              label="Starts from, V a cell"
              inputMode="decimal"
              error={at('floorMv')}
              {...register('floor')}
            />
            <FormSelect
              label="Its storage mode goes"
              control={control}
              name="storage"
              refused={at('storage')}
            >
              {STORAGE_DIRECTIONS.map((one) => (
                <SelectOption key={one} value={one}>
                  {STORAGE_WORDS[one]}
                </SelectOption>
              ))}
            </FormSelect>
            <TextField
              label="At its own current, A"
              inputMode="decimal"
              hint="Empty: as set."
              error={at('storageA')}
              {...register('storageA')}
            />
          </div>
          <TextArea
            label="Chemistries with other cell counts"
            hint="A line each: NiMH 1-16."
            rows={2}
            {...register('otherCells')}
          />
          <TextArea
            label="Connect in this order"
            hint="A line a step, as its maker says."
            error={at('connectOrder')}
            {...register('connectOrder')}
          />
          <fieldset>
            <legend className="mb-1 text-sm font-bold">What its display calls each field</legend>
            <div className="grid gap-2 sm:grid-cols-2">
              {SETTING_FIELDS.map((field) => (
                <TextField
                  key={field}
                  label={SETTING_WORDS[field]}
                  error={at(`words.${field}`)}
                  {...register(`words.${field}`)}
                />
              ))}
            </div>
          </fieldset>
          <fieldset className="grid gap-3">
            <legend className="mb-1 text-sm font-bold">What its messages mean</legend>
            {messages.fields.map((field, i) => (
              <div key={field.id} className="grid gap-2 border-b border-rule pb-3 sm:grid-cols-3">
                <TextField label="It says" error={at(`errors.${i}.text`)} {...register(`errors.${i}.text`)} />
                <TextField
                  label="That means"
                  error={at(`errors.${i}.means`)}
                  {...register(`errors.${i}.means`)}
                />
                <TextField
                  label="Next step"
                  error={at(`errors.${i}.next`)}
                  {...register(`errors.${i}.next`)}
                />
                <span>
                  <Button weight="quiet" onClick={() => messages.remove(i)}>
                    Take it away
                  </Button>
                </span>
              </div>
            ))}
            <span>
              <Button onClick={() => messages.append({ text: '', means: '', next: '' })}>
                Add a message
              </Button>
            </span>
          </fieldset>
        </>
      )}
      <FormCheck label="Out of the cupboard" hint="A plan counts on it." control={control} name="inUse" />
      <SaveRow problem={form.problem} busy={isSubmitting} isNew={!thing} />
    </form>
  );
}

function nextKey(key: string): string {
  if (/^\d+$/.test(key)) return String(Number(key) + 1);
  return /^[A-Ya-y]$/.test(key) ? String.fromCharCode(key.charCodeAt(0) + 1) : `${key}2`;
}
