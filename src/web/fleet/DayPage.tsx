import { useEffect, useState } from 'react';
import type { ChargingAnswer, FlyingAnswer, PackRow, RegisterAnswer } from '../../contract';
import { rotationByFormula } from '../../core/fleet';
import type { BenchDayAnswer, FlownDay } from '../../core/fleet';
import { isLithium } from '../../core/chemistry';
import { median } from '../../core/health';
import type { PackTypeId } from '../../core/measure';
import { parseFigure } from '../../core/reading';
import { plural } from '../../core/wording';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { useCharging, useFlying } from '../app/queries';
import { Choice, TextField } from '../kit/fields';
import { Loading } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';
import type { DayQuestion } from '../workers/day.worker';

/** How many packs of a type a flying day takes, on the bench as it stands. */
export function DayPage({ register, rows }: { register: RegisterAnswer; rows: readonly PackRow[] }) {
  const charging = useCharging();
  const flying = useFlying();
  if (charging.isLoadingError)
    return <Failure error={charging.error} retry={() => void charging.refetch()} />;
  if (flying.isLoadingError) return <Failure error={flying.error} retry={() => void flying.refetch()} />;
  if (charging.isPending || flying.isPending) return <Loading what="the bench" />;
  return <Day register={register} rows={rows} charging={charging.data} flying={flying.data} />;
}

/** As typed; what is left empty is as the register knows it. */
interface Asked {
  readonly type: string;
  readonly flight: string;
  readonly cool: string;
  readonly handling: string;
  readonly hours: string;
  readonly rate: 'home' | 'field';
}

const NOT_ASKED: Asked = { type: '', flight: '', cool: '', handling: '', hours: '', rate: 'field' };
const HANDLING_MIN = 5;
const DAY_HOURS = 4;
/** A day of one craft has no more flights than this. */
const MOST_FLIGHTS = 120;
/** The landings that are told reach so far back. */
const TOLD_DAYS = 120;

function Day({
  register,
  rows,
  charging,
  flying,
}: {
  register: RegisterAnswer;
  rows: readonly PackRow[];
  charging: ChargingAnswer;
  flying: FlyingAnswer;
}) {
  const [asked, setAsked] = useDraft<Asked>('fleet.day', NOT_ASKED);
  const change = (part: Partial<Asked>) => setAsked({ ...asked, ...part });
  const { rules } = register.rules;
  const landings = (id: PackTypeId) => flying.landings.filter(({ typeId }) => typeId === id).length;
  // The type that flies most stands first.
  const types = register.types
    .filter(
      ({ id, chemistry }) =>
        isLithium(chemistry) && rows.some(({ typeId, fieldPack }) => typeId === id && !fieldPack),
    )
    .sort((a, b) => landings(b.id) - landings(a.id));
  const type = types.find(({ id }) => id === asked.type) ?? types[0] ?? null;
  const known = type && usualOf(flying, type.id);
  const usual = {
    flight: known?.minutes ?? null,
    cool: rules.heat.coolMinutes,
    handling: HANDLING_MIN,
    hours: DAY_HOURS,
  };
  const typed = dayOf(asked, usual);
  const { equipment } = register;
  const { lastSettings } = charging;
  const question =
    type && typed.day
      ? JSON.stringify({
          day: typed.day,
          type: {
            id: type.id,
            chemistry: type.chemistry,
            series: type.series,
            capacityMah: type.capacityMah,
            chargeC: type.chargeC,
            connector: type.connector,
          },
          bench: {
            equipment: equipment.filter(({ inUse }) => inUse),
            lastSettings,
            rules:
              asked.rate === 'field'
                ? { ...rules, charge: { ...rules.charge, homeC: rules.charge.fieldC } }
                : rules,
          },
        } satisfies DayQuestion)
      : null;
  const answer = usePlannedDay(question);
  if (!type) return <p>No pack that flies is in the register yet.</p>;
  const inService = rows.filter(({ typeId, life }) => typeId === type.id && life === 'in-service').length;
  return (
    <div className="grid gap-6">
      <div className="grid max-w-3xl grid-cols-2 items-start gap-3 sm:grid-cols-5">
        <div className="col-span-2 sm:col-span-3">
          <SelectField label="Packs of" value={type.id} onChange={(id) => change({ type: id, flight: '' })}>
            {types.map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
          </SelectField>
        </div>
        <div className="col-span-2">
          <Choice
            label="Charged at"
            options={[
              { value: 'field', label: `field rate, ${rules.charge.fieldC}C` },
              { value: 'home', label: `home rate, ${rules.charge.homeC}C` },
            ]}
            value={asked.rate}
            onChange={(rate) => change({ rate })}
          />
        </div>
        {FIELDS.map(({ field, label }) => (
          <TextField
            key={field}
            label={label}
            inputMode="decimal"
            value={asked[field]}
            placeholder={usual[field] === null ? '' : String(usual[field])}
            error={typed.errors[field]}
            onChange={({ target }) => change({ [field]: target.value })}
          />
        ))}
      </div>
      {typed.day && answer === null && <p role="status">The day is being planned on the bench.</p>}
      {typed.day && answer && (
        <Result
          answer={answer}
          day={typed.day}
          name={type.name}
          inService={inService}
          cyclesADay={known?.cyclesADay(type.capacityMah) ?? null}
        />
      )}
    </div>
  );
}

const FIELDS = [
  { field: 'flight', label: 'A flight, min' },
  { field: 'cool', label: 'Cooling, min' },
  { field: 'handling', label: 'Handling, min' },
  { field: 'hours', label: 'The day, h' },
] as const;
type Field = (typeof FIELDS)[number]['field'];

/** The day as typed over what is usual; what is no figure, or no day, is told at its field. */
function dayOf(
  asked: Asked,
  usual: Readonly<Record<Field, number | null>>,
): { readonly day: FlownDay | null; readonly errors: Partial<Record<Field, string>> } {
  const errors: Partial<Record<Field, string>> = {};
  const read = (field: Field, most: number): number => {
    const figure = parseFigure(asked[field]);
    const value =
      figure.outcome === 'empty' ? usual[field] : figure.outcome === 'figure' ? figure.value : null;
    if (value === null)
      errors[field] = figure.outcome === 'empty' ? 'No flight was timed: type it.' : 'A figure, like 12.';
    else if (value <= 0 || value > most) errors[field] = `More than 0, at most ${most}.`;
    return value ?? 0;
  };
  const day = {
    flightMin: read('flight', 600),
    coolMin: read('cool', 600),
    handlingMin: read('handling', 600),
    dayMin: read('hours', 24) * 60,
  };
  if (Object.keys(errors).length === 0 && day.dayMin / day.flightMin > MOST_FLIGHTS)
    errors.hours = `At most ${MOST_FLIGHTS} flights a day.`;
  return { day: Object.keys(errors).length > 0 ? null : day, errors };
}

/** What flights of a type are like: how long, and what they use up of a pack together. */
function usualOf({ landings }: FlyingAnswer, typeId: PackTypeId) {
  const flown = landings.filter((one) => one.typeId === typeId);
  const minutes = flown.flatMap((one) => one.minutes ?? []);
  const used = flown.flatMap(({ usedMah }) => usedMah ?? []);
  if (minutes.length === 0) return null;
  return {
    minutes: Math.round(median(minutes)),
    /** Full cycles of all packs of the type together, a day of the year. */
    cyclesADay: (capacityMah: number) =>
      used.length === 0 ? null : (flown.length * median(used)) / capacityMah / TOLD_DAYS,
  };
}

/** Plans the day in a worker of its own, which ends when another day is asked for. */
function usePlannedDay(question: string | null): BenchDayAnswer | null {
  const [said, setSaid] = useState<{ readonly to: string; readonly answer: BenchDayAnswer } | null>(null);
  useEffect(() => {
    if (question === null) return;
    const worker = new Worker(new URL('../workers/day.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<BenchDayAnswer>) => setSaid({ to: question, answer: data });
    const timer = setTimeout(() => worker.postMessage(JSON.parse(question) as DayQuestion), SETTLE_MS);
    return () => {
      clearTimeout(timer);
      worker.terminate();
    };
  }, [question]);
  return said?.to === question ? said.answer : null;
}

const SETTLE_MS = 200;

function Result({
  answer: { packs, flights, chargeMin, channels },
  day,
  name,
  inService,
  cyclesADay,
}: {
  answer: BenchDayAnswer;
  day: FlownDay;
  name: string;
  inService: number;
  cyclesADay: number | null;
}) {
  const byFormula =
    chargeMin === null ? null : rotationByFormula({ ...day, chargeMin, channels }, day.dayMin).packs;
  return (
    <section aria-label="Packs for the day" className="grid gap-4">
      <div>
        <p className="text-xl">
          <b>{plural(packs, 'pack')}</b> and one spare for {plural(flights, 'flight')} with {name}.
        </p>
        <p>
          {chargeMin === null
            ? 'No pack comes back in time to fly again: every flight takes a pack of its own.'
            : `Every charge of the day was planned on the bench as it stands: ${plural(channels, 'output')}, ${chargeMin} min a charge. By the formula it is ${byFormula}.`}
        </p>
        <p className={inService < packs + 1 ? 'font-bold text-amber' : 'text-faint'}>
          {plural(inService, 'pack')} of this type {inService === 1 ? 'is' : 'are'} in service
          {inService < packs + 1 ? `: ${plural(packs + 1 - inService, 'pack')} short.` : '.'}
        </p>
      </div>
      {cyclesADay !== null && (
        <div>
          <h2 className="text-base">Cycles a pack and year, as much as you fly now</h2>
          <ul className="flex flex-wrap gap-x-6 font-mono">
            {Array.from({ length: 6 }, (_, i) => Math.max(1, packs - 1) + i).map((count) => (
              <li key={count} className={count === inService ? 'font-bold' : ''}>
                {plural(count, 'pack')}: {Math.round((cyclesADay * 365) / count)}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
