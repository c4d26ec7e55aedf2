import clsx from 'clsx';
import { useMemo } from 'react';
import { Link } from 'react-router';
import type { PackRow, RegisterAnswer } from '../../contract';
import { joinedOrders, MONTH_DAYS, reserveAMonth } from '../../core/fleet';
import { DAY_MS } from '../../core/measure';
import type { Instant, PackTypeId } from '../../core/measure';
import { parseFigure } from '../../core/reading';
import { monthWords, plural } from '../../core/wording';
import { currentTime } from '../app/clock';
import { useDraft } from '../app/drafts';
import { useFlying } from '../app/queries';
import { saveText } from '../app/saveText';
import { Button } from '../kit/Button';
import { Choice } from '../kit/fields';
import { Notice } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { Scroll } from '../kit/Scroll';
import { SliderField } from '../kit/SliderField';
import type { FleetBasis, FleetMessage } from '../workers/fleet.worker';
import { purchaseCsv, purchaseLines, rangeWords } from './purchaseTable';
import type { PurchaseLine } from './purchaseTable';
import { useFleet } from './useFleet';

const QUARTERS = 8;

/** What was typed and slid: figures by type as text, so that a slip stays where it was typed. */
interface Assumed {
  readonly wanted: Readonly<Record<PackTypeId, string>>;
  readonly prices: Readonly<Record<PackTypeId, string>>;
  readonly flying: number;
  /** Percent of the time packs lie full; null for as today. */
  readonly full: number | null;
  readonly orderEvery: number;
}

const AS_TODAY: Assumed = { wanted: {}, prices: {}, flying: 1, full: null, orderEvery: 2 };

/** What is to be bought in the next two years, from how every pack of the register wears. */
export function BuyPage({ register, rows }: { register: RegisterAnswer; rows: readonly PackRow[] }) {
  const [assumed, setAssumed, reset] = useDraft<Assumed>('fleet.buy', AS_TODAY);
  const change = (part: Partial<Assumed>) => setAssumed({ ...assumed, ...part });
  const { rules } = register.rules;
  const seen = rows.map(({ id, typeId, seq }) => `${id} ${typeId} ${seq}`).join();
  const basis = useMemo(
    (): FleetBasis => ({
      rules,
      now: currentTime(),
      typeOf: Object.fromEntries(rows.map(({ id, typeId }) => [id, typeId])),
    }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the rows as far as this asks: who is there, and their newest record
    [rules, seen],
  );
  const typed = figuresOf(assumed, register);
  const forecast = useFleet(basis, {
    wanted: typed.wanted,
    prices: typed.prices,
    flying: assumed.flying,
    full: assumed.full === null ? null : assumed.full / 100,
    quarters: QUARTERS,
  });
  const { last, state, progress } = forecast;
  const flyingDays = useFlying().data?.days ?? [];
  const lines = last
    ? purchaseLines(last, (typeId) => {
        const now = last.types.find((one) => one.typeId === typeId)!;
        const wants = flyingDays.flatMap((day) =>
          day.cancelled
            ? []
            : [day.wants.reduce((sum, want) => sum + (want.typeId === typeId ? want.packs : 0), 0)],
        );
        return {
          name: register.types.find(({ id }) => id === typeId)?.name ?? 'a type that is gone',
          wanted: typed.wanted[typeId] ?? now.inService,
          price: typed.prices[typeId] ?? null,
          flyingDays: Math.max(0, ...wants) || null,
        };
      })
    : [];
  const quarterNames = quarterEnds(basis.now).map(monthWords);
  return (
    <div className="grid gap-6">
      {state === 'failed' && (
        <Notice title="This could not be worked out.">
          <Button onClick={forecast.again}>Try again</Button>
        </Notice>
      )}
      {last && <Headline last={last} until={quarterNames.at(-1)!} lines={lines} />}
      <div className="grid gap-x-10 gap-y-3 print:hidden md:grid-cols-3">
        <SliderField
          label="If we fly"
          value={assumed.flying}
          words={assumed.flying === 1 ? 'as much as now' : `${assumed.flying.toFixed(1)} × as much`}
          min={0.5}
          max={3}
          step={0.1}
          onChange={(flying) => change({ flying })}
        />
        <SliderField
          label="If packs lie full"
          value={assumed.full ?? fullToday(last)}
          words={`${assumed.full ?? fullToday(last)} % of the time${assumed.full === null ? ', as now' : ''}`}
          min={0}
          max={100}
          step={1}
          onChange={(full) => change({ full })}
        />
        <Choice
          label="Order together"
          options={ORDERS}
          value={String(assumed.orderEvery)}
          onChange={(every) => change({ orderEvery: Number(every) })}
        />
      </div>
      {/* What is being worked out has its place beside the buttons, so that nothing moves under a hand when that ends. */}
      <div className="-my-2 flex min-h-11 flex-wrap items-center gap-x-4 gap-y-2 print:hidden">
        <div className="flex min-h-11 min-w-60 flex-1 items-center gap-4">
          {state === 'running' && (
            <>
              <div className="flex-1">
                {progress && (
                  <ProgressBar
                    label={STAGE_WORDS[progress.stage]}
                    done={progress.done}
                    of={progress.of}
                    unit={progress.stage === 'drawing' ? 'futures' : 'packs'}
                  />
                )}
              </div>
              <Button weight="quiet" onClick={forecast.cancel}>
                Cancel
              </Button>
            </>
          )}
          {state === 'cancelled' && (
            <>
              <p role="status">Cancelled.{last && ' What stands here is from before.'}</p>
              <Button onClick={forecast.again}>Work it out</Button>
            </>
          )}
        </div>
        {assumed !== AS_TODAY && (
          <Button weight="quiet" onClick={reset}>
            All as today
          </Button>
        )}
        {last && (
          <>
            <Button onClick={() => saveText(purchaseCsv(lines, quarterNames), 'what-to-buy.csv')}>
              Save as CSV
            </Button>
            <Button onClick={() => window.print()}>Print on one page</Button>
          </>
        )}
      </div>
      {last && (
        <>
          <Lines
            lines={lines}
            quarterNames={quarterNames}
            assumed={assumed}
            errors={typed.errors}
            onChange={change}
          />
          <div className="grid gap-x-10 gap-y-6 md:grid-cols-2">
            <Orders last={last} every={assumed.orderEvery} lines={lines} now={basis.now} />
            <RestsOn last={last} />
          </div>
        </>
      )}
    </div>
  );
}

const STAGE_WORDS = {
  reading: 'Reading every pack’s records',
  following: 'Following how each pack wears',
  drawing: 'Drawing what may come',
} as const;

const ORDERS = [
  { value: '1', label: 'each quarter' },
  { value: '2', label: 'each half-year' },
  { value: '4', label: 'each year' },
] as const;

/** The last instants of the next quarters, counted from today. */
function quarterEnds(now: Instant): readonly Instant[] {
  return Array.from({ length: QUARTERS }, (_, i) => now + (i + 1) * 3 * MONTH_DAYS * DAY_MS);
}

/** Today's share of full, percent, over all packs in service. */
function fullToday(last: Done | null): number {
  if (!last) return 0;
  const packs = last.types.reduce((sum, { inService }) => sum + inService, 0);
  const full = last.types.reduce((sum, { inService, fullShare }) => sum + inService * fullShare, 0);
  return packs === 0 ? 0 : Math.round((100 * full) / packs);
}

type Done = Extract<FleetMessage, { kind: 'done' }>;

interface TypedFigures {
  readonly wanted: Readonly<Record<PackTypeId, number>>;
  readonly prices: Readonly<Record<PackTypeId, number | null>>;
  readonly errors: Readonly<Record<string, string>>;
}

const MOST_PACKS = 2_000;
const MOST_MONEY = 1_000_000;

/** The figures as typed over those of the register; what is none is told at its field, and the register's counts. */
function figuresOf({ wanted, prices }: Assumed, register: RegisterAnswer): TypedFigures {
  const errors: Record<string, string> = {};
  const read = (key: string, text: string, most: number, isWhole: boolean): number | null => {
    const figure = parseFigure(text);
    if (figure.outcome === 'empty') return null;
    const fits =
      figure.outcome === 'figure' &&
      figure.value >= 0 &&
      figure.value <= most &&
      (!isWhole || Number.isInteger(figure.value));
    if (fits) return figure.value;
    errors[key] = isWhole ? 'A whole number.' : 'A price, like 89.';
    return null;
  };
  const wantedFigures: Record<PackTypeId, number> = {};
  for (const [typeId, text] of entriesOf(wanted)) {
    const count = read(`wanted.${typeId}`, text, MOST_PACKS, true);
    if (count !== null) wantedFigures[typeId] = count;
  }
  const priceFigures: Record<PackTypeId, number | null> = {};
  for (const { id, price } of register.types) {
    const text = prices[id];
    priceFigures[id] = text === undefined ? price : read(`price.${id}`, text, MOST_MONEY, false);
  }
  return { wanted: wantedFigures, prices: priceFigures, errors };
}

function entriesOf(record: Readonly<Record<PackTypeId, string>>) {
  return Object.entries(record) as [PackTypeId, string][];
}

/** The whole answer in three figures: packs, money, and what to put aside. */
function Headline({ last, until, lines }: { last: Done; until: string; lines: readonly PurchaseLine[] }) {
  const packs = last.purchase.packs.at(-1)!;
  const money = last.purchase.money.at(-1)!;
  const unpriced = lines.filter(({ price, total: { high } }) => price === null && high > 0);
  return (
    <section aria-label="In short">
      <p className="text-xl">
        Until {until} about <b>{plural(packs.middle, 'pack')}</b> are to be bought, {rangeWords(packs)} four
        times in five
        {money.middle > 0 && (
          <>
            . That costs about <b>{moneyWords(money.middle)}</b>
          </>
        )}
        .
      </p>
      {money.high > 0 && (
        <p>
          Between {moneyWords(money.low)} and {moneyWords(money.high)} four times in five. Put{' '}
          <b>{moneyWords(reserveAMonth(last.purchase.money))} a month</b> aside, and nine times in ten there
          is enough at the end of every quarter.
        </p>
      )}
      {unpriced.length > 0 && (
        <p className="bg-wash-amber px-2 py-1">
          No price is known for {unpriced.map(({ name }) => name).join(', ')}: the sums are without{' '}
          {unpriced.length === 1 ? 'it' : 'them'}. Type one below, or under{' '}
          <Link to="/settings/types" className="text-accent underline">
            Settings, Pack types
          </Link>
          .
        </p>
      )}
    </section>
  );
}

/** Money is counted in whole units of whatever the club's prices are in. */
function moneyWords(value: number): string {
  return Math.round(value).toLocaleString('en-GB');
}

function Lines({
  lines,
  quarterNames,
  assumed,
  errors,
  onChange,
}: {
  lines: readonly PurchaseLine[];
  quarterNames: readonly string[];
  assumed: Assumed;
  errors: TypedFigures['errors'];
  onChange: (part: Partial<Assumed>) => void;
}) {
  return (
    <Scroll label="What to buy, by type" className="w-full">
      <table className="w-full min-w-[64rem] text-sm print:min-w-0 print:text-xs">
        <thead>
          <tr className="border-b-2 border-ink text-left align-bottom">
            <th className="w-56 py-1 pr-3">Type</th>
            <th className="px-2 text-right">In service</th>
            <th className="px-2 text-right">Keep</th>
            <th className="px-2 text-right">Price</th>
            <th className="px-2 text-right">Most for a flying day</th>
            <th className="px-2 text-right">Cycles a pack and year</th>
            {quarterNames.map((name) => (
              <th key={name} className="px-2 text-right font-normal">
                to {name}
              </th>
            ))}
            <th className="pl-2 text-right">In all</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.typeId} className="ruled">
              <td className="py-1 pr-3">
                <b>{line.name}</b>
                {line.over > 0 && (
                  <span className="block text-amber">{plural(line.over, 'pack')} to be retired now</span>
                )}
              </td>
              <td className="px-2 text-right font-mono">{line.inService}</td>
              <td className="px-2 text-right">
                <TypedCell
                  label={`Packs of ${line.name} to keep`}
                  value={assumed.wanted[line.typeId] ?? String(line.inService)}
                  printed={String(line.wanted)}
                  error={errors[`wanted.${line.typeId}`]}
                  isShort={line.flyingDays !== null && line.flyingDays > line.wanted}
                  onChange={(text) => onChange({ wanted: { ...assumed.wanted, [line.typeId]: text } })}
                />
              </td>
              <td className="px-2 text-right">
                <TypedCell
                  label={`Price of a ${line.name}`}
                  value={assumed.prices[line.typeId] ?? (line.price === null ? '' : String(line.price))}
                  printed={line.price === null ? '?' : String(line.price)}
                  error={errors[`price.${line.typeId}`]}
                  onChange={(text) => onChange({ prices: { ...assumed.prices, [line.typeId]: text } })}
                />
              </td>
              <td className="px-2 text-right font-mono">{line.flyingDays ?? ''}</td>
              <td className="px-2 text-right font-mono">
                {((line.cyclesAYear * assumed.flying * line.inService) / Math.max(1, line.wanted)).toFixed(0)}
              </td>
              {line.quarters.map((range, i) => (
                <td
                  key={quarterNames[i]}
                  className={clsx('px-2 text-right font-mono', range.low > 0 ? 'font-bold' : 'text-faint')}
                >
                  {rangeWords(range)}
                </td>
              ))}
              <td className="pl-2 text-right font-mono whitespace-nowrap">
                <b className="text-base">{line.total.middle}</b>
                <span className="block text-faint">{rangeWords(line.total)}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}

function TypedCell({
  label,
  value,
  printed,
  error,
  isShort = false,
  onChange,
}: {
  label: string;
  value: string;
  printed: string;
  error: string | undefined;
  isShort?: boolean;
  onChange: (text: string) => void;
}) {
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={error !== undefined}
        inputMode="decimal"
        autoComplete="off"
        value={value}
        onChange={({ target }) => onChange(target.value)}
        className="min-h-11 w-20 rounded-sm border-[1.5px] border-rule bg-sheet px-2 text-right font-mono aria-invalid:border-red md:min-h-8 print:hidden"
      />
      <span className="hidden print:inline">{printed}</span>
      {error && (
        <span role="alert" className="block font-bold text-red">
          {error}
        </span>
      )}
      {isShort && <span className="block text-amber">fewer than a flying day wants</span>}
    </>
  );
}

/** What is ordered together, and when. */
function Orders({
  last,
  every,
  lines,
  now,
}: {
  last: Done;
  every: number;
  lines: readonly PurchaseLine[];
  now: Instant;
}) {
  const orders = joinedOrders(last.purchase, every);
  const lineOf = (typeId: PackTypeId) => lines.find((line) => line.typeId === typeId);
  const ends = quarterEnds(now);
  return (
    <section aria-label="Orders">
      <h2 className="border-b-2 border-ink pb-1">Orders</h2>
      {orders.length === 0 && <p className="py-2">Nothing is likely to be ordered.</p>}
      <ul>
        {orders.map(({ quarter, lines: ordered }) => {
          const sum = ordered.reduce((total, { id, packs }) => total + packs * (lineOf(id)?.price ?? 0), 0);
          return (
            <li key={quarter} className="ruled flex flex-wrap gap-x-4 py-1.5">
              <b className="w-24">{quarter === 0 ? 'now' : monthWords(ends[quarter - 1]!)}</b>
              <span className="min-w-0 flex-1 basis-52">
                {ordered.map(({ id, packs }) => `${packs} × ${lineOf(id)?.name ?? ''}`).join(', ')}
              </span>
              {sum > 0 && <span className="font-mono">{moneyWords(sum)}</span>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** What the figures rest on, so that a committee can weigh them. */
function RestsOn({ last: { types, lost, packYears } }: { last: Done }) {
  const learnt = types.reduce((sum, { learntFrom }) => sum + learntFrom, 0);
  const packs = types.reduce((sum, { inService }) => sum + inService, 0);
  return (
    <section aria-label="What this rests on" className="text-sm">
      <h2 className="border-b-2 border-ink pb-1">What this rests on</h2>
      <ul className="mt-2 grid list-disc gap-1 pl-5">
        <li>
          How {plural(packs, 'pack')} wear by their own measurements, and what {plural(learnt, 'pack')} told
          of their types. A pack nobody measured is taken to last as its type does.
        </li>
        <li>
          Losses that are no wear: {plural(lost, 'pack')} in {Math.round(packYears)} pack-years here, joined
          with one in twenty a year, which is usual.
        </li>
        <li>Packs that are bought wear as well and are replaced in their turn.</li>
        <li>
          Seven parts in ten of wear are taken to come with flying, three with time; a day full ages by time
          as five at storage do.
        </li>
        <li>
          Ranges hold four times in five: checked on simulated clubs that wear in other ways than these.
        </li>
      </ul>
    </section>
  );
}
