import { useEffect, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { PackDetails, PackTypeAnswer } from '../../contract';
import { CHEMISTRIES, CHEMISTRY } from '../../core/chemistry';
import type { Chemistry } from '../../core/chemistry';
import type { PackId } from '../../core/measure';
import { fold } from '../../core/record';
import type { HouseRules } from '../../core/rules';
import { minuteAt } from '../app/days';
import { useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { factsOf } from '../domain/packFacts';
import { usePack, useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { packOfTag } from '../app/scan';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { SelectOption, SelectField } from '../kit/Select';
import { Loading } from '../kit/Message';
import { benchFor, emptyBench, measuredNote } from './prefill';
import {
  benchFigures,
  boardSum,
  chargeTimeSum,
  currentSum,
  effectiveSum,
  giveBackSum,
  hoverOffSum,
  lastDischargeSum,
  loadSum,
  refillSum,
  rotationSum,
  sagSum,
  storageSum,
  supplySum,
  timerSum,
} from './sums';
import type { BenchDraft, BenchField, Sum } from './sums';
import { MomentField } from '../domain/moments/MomentField';

/** The arithmetic of the bench, live: every result with its formula filled in, laid out for a pack when one is in hand. */
export default function BenchPage() {
  const register = useRegister();
  const [params] = useSearchParams();
  const id = params.get('pack') as PackId | null;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the rules’ figures" />;
  const { rules, types } = register.data;
  return (
    <>
      <title>Calculators · Malle</title>
      <Bench rules={rules.rules} types={types} packId={id} />
    </>
  );
}

function Bench({
  rules,
  types,
  packId,
}: {
  rules: HouseRules;
  types: readonly PackTypeAnswer[];
  packId: PackId | null;
}) {
  const [kept, setDraft] = useDraft<Partial<BenchDraft>>('bench', {});
  // What was typed before a calculator came lacks its fields.
  const draft: BenchDraft = { ...emptyBench(rules), ...kept };
  const [note, setNote] = useState<string | null>(null);
  const change = (part: Partial<BenchDraft>) => setDraft({ ...draft, ...part });
  const figures = benchFigures(draft);
  const reader = useReader();
  const flies = minuteAt(draft.flies);
  const fliesAt = Number.isNaN(flies) ? null : flies;
  const lay = (pack: PackDetails) => {
    const type = types.find(({ id }) => id === pack.typeId);
    if (!type) return;
    const laid = benchFor(
      type,
      fold(factsOf(pack, type, { placeTemperatures: [] }), pack.records),
      rules,
      draft,
    );
    setDraft(laid);
    setNote(measuredNote(pack, type, laid));
  };
  const field = (name: BenchField, label: string, unit = '') => (
    <TextField
      label={unit ? `${label}, ${unit}` : label}
      inputMode="decimal"
      value={draft[name]}
      onChange={(event) => change({ [name]: event.target.value })}
      error={figures.errors[name]}
      className="font-mono"
    />
  );
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <h1>Calculators</h1>
        <PackPicker onPack={lay} packId={packId} />
      </div>
      <p role="status" className="mt-1 min-h-6 text-faint">
        {note ?? 'Type figures, or lay the bench out for a pack by its tag.'}
      </p>
      <section aria-label="The pack" className="mt-2 border-y-2 border-ink py-3">
        <div className="grid grid-cols-2 gap-3 md:grid-cols-[9rem_6rem_8rem_minmax(0,1fr)_8rem]">
          <SelectField
            label="Chemistry"
            value={draft.chemistry}
            onChange={(value) => {
              const chemistry = value as Chemistry;
              change({ chemistry, topV: emptyBench(rules, chemistry).topV });
            }}
          >
            {CHEMISTRIES.map((chemistry) => (
              <SelectOption key={chemistry} value={chemistry}>
                {CHEMISTRY[chemistry].name}
              </SelectOption>
            ))}
          </SelectField>
          {field('series', 'Cells', 'S')}
          {field('capacity', 'Capacity', 'mAh')}
          <div className="max-md:col-span-2">
            {field('cells', 'Rested volts now, one for all or each cell')}
          </div>
          {field('milliohm', 'Resistance', 'mΩ')}
        </div>
      </section>
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
        <SumBlock title="Charging current" sum={currentSum(figures)}>
          {field('houseC', 'Rate', 'C')}
          {field('labelC', 'Label at most', 'C')}
          {field('channelA', 'Channel', 'A')}
          {field('channelW', 'Channel', 'W')}
        </SumBlock>
        <SumBlock title="Charging time" sum={chargeTimeSum(figures)}>
          {field('topV', 'Top, a cell', 'V')}
          {field('balanceA', 'Balancing', 'A')}
          {field('stepA', 'Charger’s step', 'A')}
        </SumBlock>
        <SumBlock title="To storage" sum={storageSum(figures, rules, fliesAt, reader)}>
          {field('dischargeA', 'Load', 'A')}
          {field('dischargeW', 'Load at most', 'W')}
          <div className="col-span-2">
            <MomentField
              label="Flies next"
              wanted="minute"
              lean="ahead"
              value={draft.flies}
              onChange={(flies) => change({ flies })}
            />
          </div>
        </SumBlock>
        <SumBlock title="Parallel board" sum={boardSum(figures)}>
          {field('boardPacks', 'Packs')}
          {field('apartMv', 'Apart, a cell', 'mV')}
        </SumBlock>
        <SumBlock title="Two on one supply" sum={supplySum(figures)}>
          {field('supplyW', 'Supply', 'W')}
        </SumBlock>
        <SumBlock title="Given back to a field pack" sum={giveBackSum(figures, rules)}>
          {field('fieldWh', 'Room in it', 'Wh')}
        </SumBlock>
        <SumBlock title="Timer and landing" sum={timerSum(figures)}>
          {field('averageA', 'Average', 'A')}
          {field('deepest', 'Take out at most', '%')}
          {field('dropMv', 'Hover to rest', 'mV')}
        </SumBlock>
        <SumBlock title="Load" sum={loadSum(figures)}>
          {field('continuousC', 'Rated', 'C')}
          {field('sustainedA', 'Sustained', 'A')}
        </SumBlock>
        <SumBlock title="Sag and punch" sum={sagSum(figures, rules)}>
          {field('punchA', 'Punch', 'A')}
        </SumBlock>
        <SumBlock title="Hover it off" sum={hoverOffSum(figures, rules)}>
          {field('hoverA', 'Hover', 'A')}
        </SumBlock>
        <SumBlock title="What is left of its rating" sum={effectiveSum(figures)}>
          {field('baseline', 'When new', 'mΩ')}
        </SumBlock>
        <SumBlock title="Its last discharge" sum={lastDischargeSum(figures)}>
          {field('lampV', 'Lamp', 'V')}
          {field('loadOhm', 'or resistor', 'Ω')}
          {field('loadW', 'Load', 'W')}
        </SumBlock>
        <SumBlock title="Packs that keep a craft flying" sum={rotationSum(figures)}>
          {field('flightMin', 'A flight', 'min')}
          {field('coolMin', 'Cooling', 'min')}
          {field('chargeMin', 'Charging', 'min')}
          {field('handlingMin', 'Handling', 'min')}
          {field('benchChannels', 'Channels')}
          {field('dayHours', 'The day', 'h')}
        </SumBlock>
        <SumBlock title="A field pack, or more packs" sum={refillSum(figures)}>
          {field('fieldPackWh', 'It holds', 'Wh')}
          {field('usablePercent', 'Usable', '%')}
          {field('refillWh', 'A flight', 'Wh')}
          {field('fieldPrice', 'Its price')}
          {field('packPrice', 'A pack’s price')}
        </SumBlock>
      </div>
    </>
  );
}

function SumBlock({ title, sum, children }: { title: string; sum: Sum; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="border-b-2 border-ink pb-0.5">{title}</h2>
      <div className="my-2 grid grid-cols-2 gap-3 sm:grid-cols-4">{children}</div>
      <div role="status" aria-label={`${title}: result`}>
        {sum.state === 'open' ? (
          <p className="text-faint">Wants {sum.wants}.</p>
        ) : (
          <>
            <p className={`text-lg font-bold ${sum.refused ? 'text-red' : ''}`}>{sum.result}</p>
            <p className="font-mono text-sm text-faint">{sum.formula}</p>
            {sum.also && <p className="text-sm">{sum.also}</p>}
          </>
        )}
      </div>
    </section>
  );
}

/** Takes a tag; a page opened from a pack is laid out for it at once. */
function PackPicker({ onPack, packId }: { onPack: (pack: PackDetails) => void; packId: PackId | null }) {
  const rows = usePackRows().data;
  const [tag, setTag] = useState('');
  const [wanted, setWanted] = useState<string | null>(null);
  // A fast hand is there before the packs are: what it asked for is laid out when they come.
  const row = wanted === null || !rows ? null : packOfTag(wanted, rows);
  const isUnknown = wanted !== null && rows !== undefined && row === null;
  const asked = row?.id ?? packId;
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        setWanted(tag);
      }}
      className="flex items-end gap-2"
    >
      <TextField
        label="Fill in from the pack"
        placeholder="HX-07"
        value={tag}
        onChange={(event) => setTag(event.target.value)}
        error={isUnknown ? `No pack carries the tag ${wanted}.` : undefined}
        className="w-36 font-mono"
      />
      <Button type="submit">Fill in</Button>
      {asked && <LaidOut key={asked} id={asked} onPack={onPack} />}
    </form>
  );
}

/** Fetches the pack asked for and lays the bench out once. */
function LaidOut({ id, onPack }: { id: PackId; onPack: (pack: PackDetails) => void }) {
  const { data } = usePack(id);
  const laid = useRef(false);
  useEffect(() => {
    if (!data || laid.current) return;
    laid.current = true;
    onPack(data);
  }, [data, onPack]);
  if (!data) return null;
  return (
    <Link
      to={`/packs/${id}`}
      className="flex min-h-11 items-center font-bold text-accent underline md:min-h-8"
    >
      {data.tag}’s page
    </Link>
  );
}
