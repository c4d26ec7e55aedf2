import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ColumnSizingState } from '@tanstack/react-table';
import { Popover } from 'radix-ui';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import type { HouseRules } from '../../../core/rules';
import { plural } from '../../../core/wording';
import { useClock } from '../../app/clock';
import { Failure } from '../../app/Failure';
import { useMay } from '../../domain/Person';
import { useRegister } from '../../app/queries';
import { useTableLayout } from '../../app/tableLayouts';
import { usePackRows } from '../../domain/waitingRows';
import { Button, ButtonLink } from '../../kit/Button';
import { Empty, Loading } from '../../kit/Message';
import { COLUMNS, columnsFrom, filtered, listedPacks, sorted, sortFrom } from './listing';
import type { ColumnKey, ListedPack } from './listing';
import { PackTable } from './PackTable';
import { ShelfLinks } from '../../kit/ShelfLinks';
import { Select, SelectOption } from '../../kit/Select';
import { Tick, withOrWithout } from '../../kit/fields';

/** The register: every pack a row. What is typed and how it is sorted stand in the address, the columns are the person's own. */
export default function PacksPage() {
  const rows = usePackRows();
  const register = useRegister();
  const mayReceive = useMay('pack.create');
  const packs = useMemo(
    () => (rows.data && register.data ? listedPacks(rows.data, register.data) : []),
    [rows.data, register.data],
  );
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isPending || register.isPending) return <Loading what="the packs" />;
  if (packs.length === 0) {
    return (
      <Empty title="No packs yet.">
        {mayReceive ? (
          <ButtonLink to="/packs/receive" weight="main">
            Receive the first pack
          </ButtonLink>
        ) : (
          'A custodian or deputy receives packs.'
        )}
      </Empty>
    );
  }
  return <PackList packs={packs} rules={register.data.rules.rules} mayReceive={mayReceive} />;
}

function PackList({
  packs,
  rules,
  mayReceive,
}: {
  packs: readonly ListedPack[];
  rules: HouseRules;
  mayReceive: boolean;
}) {
  const [address, setAddress] = useSearchParams();
  const [typed, setTyped] = useState(address.get('q') ?? '');
  const location = useLocation();
  const [followed, setFollowed] = useState(location.key);
  const minute = useClock((clock) => Math.floor(clock.now / 60_000) * 60_000);
  // An address that was handed on may say how its sender saw the table; else the table is as this person left it.
  const [layout, setLayout] = useTableLayout('packs');
  const sort = address.get('sort') ?? layout.sort;
  const order = useMemo(() => sortFrom(sort), [sort]);
  const named = address.get('cols');
  const columns = useMemo(() => columnsFrom(named?.split(',') ?? layout.columns), [named, layout.columns]);
  const wanted = useDeferredValue(typed);
  const inAddress = address.get('q') ?? '';

  const set = useCallback(
    (name: string, value: string | null) =>
      setAddress(
        (now) => {
          if (value) now.set(name, value);
          else now.delete(name);
          return now;
        },
        { replace: true, state: OWN_WRITE },
      ),
    [setAddress],
  );
  // A link to a filtered list, followed while the list is open, must show that filter; our own typing must not, because
  // the address trails behind a fast hand.
  if (!isOwnWrite(location.state) && followed !== location.key) {
    setFollowed(location.key);
    setTyped(inAddress);
  }

  const inAddressSoon = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** The address follows when the hand rests: each change of it draws the whole page. */
  const type = (next: string) => {
    setTyped(next);
    clearTimeout(inAddressSoon.current);
    inAddressSoon.current = setTimeout(() => set('q', next), ADDRESS_AFTER_MS);
  };
  useEffect(() => () => clearTimeout(inAddressSoon.current), []);

  // Sorted first: a key only leaves some out.
  const inOrder = useMemo(() => sorted(packs, order), [packs, order]);
  const visible = useMemo(() => filtered(inOrder, wanted, minute), [inOrder, wanted, minute]);
  const sortBy = useCallback(
    (next: string) => {
      setLayout({ sort: next });
      set('sort', next);
    },
    [setLayout, set],
  );
  const resize = useCallback((widths: ColumnSizingState) => setLayout({ widths }), [setLayout]);

  return (
    <>
      <title>Packs · Malle</title>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1>Packs</h1>
        <ShelfLinks />
        <input
          type="search"
          aria-label="Filter the packs"
          placeholder="Filter: a tag, hold, overdue, LiPo, a place …"
          value={typed}
          onChange={(event) => type(event.target.value)}
          onBlur={() => inAddress !== typed && set('q', typed)}
          className="min-h-11 min-w-0 flex-1 basis-64 rounded-sm border-[1.5px] border-rule bg-sheet px-3 md:max-w-md md:min-h-9"
        />
        <span className="w-44">
          <Select
            aria-label="Saved filters"
            value={READY_FILTERS.some(([value]) => value === typed) ? typed : ''}
            onChange={(value) => {
              setTyped(value);
              set('q', value);
            }}
          >
            <SelectOption value="">saved filters …</SelectOption>
            {READY_FILTERS.map(([value, label]) => (
              <SelectOption key={value} value={value}>
                {label}
              </SelectOption>
            ))}
          </Select>
        </span>
        <span role="status" className="text-faint">
          {visible.length === packs.length
            ? plural(packs.length, 'pack')
            : `${visible.length} of ${packs.length}`}
        </span>
        <span className="ml-auto flex gap-2">
          <ColumnChooser
            columns={columns}
            onChange={(next) => {
              setLayout(next === null ? { columns: null, widths: {} } : { columns: next });
              set('cols', null);
            }}
          />
          <ButtonLink
            to={`/packs/labels?q=${encodeURIComponent(typed)}`}
            weight="quiet"
            className="max-md:hidden"
          >
            Labels
          </ButtonLink>
          {mayReceive && (
            <>
              <ButtonLink to="/packs/deliver" className="max-md:hidden">
                Delivery
              </ButtonLink>
              <ButtonLink to="/packs/receive" weight="main">
                Receive
              </ButtonLink>
            </>
          )}
        </span>
      </div>
      {visible.length === 0 ? (
        <Empty title="No pack matches.">
          <Button
            weight="quiet"
            onClick={() => {
              setTyped('');
              set('q', null);
            }}
          >
            Show all {packs.length}
          </Button>
        </Empty>
      ) : (
        <PackTable
          packs={visible}
          columns={columns}
          widths={layout.widths}
          order={order}
          rules={rules}
          onSort={sortBy}
          onWidths={resize}
        />
      )}
    </>
  );
}

/** What is looked for most, offered where one types. */
const READY_FILTERS = [
  ['overdue', 'storage overdue'],
  ['out-of-band', 'outside their storage band'],
  ['hold', 'out of use'],
  ['retired', 'retired, on their way out'],
  ['recycled', 'recycled'],
  ['due:any', 'whatever the calendar asks within a week'],
  ['due:inspect', 'inspection due'],
  ['due:inspect-season', 'season start due'],
  ['due:re-read', 'idle, to be measured again'],
  ['due:top-up', 'nickel to be topped up'],
  ['due:complete-baseline', 'baseline not complete'],
] as const;

const ADDRESS_AFTER_MS = 250;
const OWN_WRITE = { ownWrite: true };

function isOwnWrite(state: unknown): boolean {
  return typeof state === 'object' && state !== null && 'ownWrite' in state;
}

function ColumnChooser({
  columns,
  onChange,
}: {
  columns: readonly ColumnKey[];
  /** Null: as at first. */
  onChange: (columns: readonly ColumnKey[] | null) => void;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button className="max-md:hidden">Columns</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Columns to show"
          className="z-30 border-2 border-ink bg-sheet p-3"
        >
          <ColumnChoices columns={columns} onChange={onChange} />
          <p className="mt-2 max-w-56 border-t border-line pt-2 text-sm text-faint">
            Drag the edge of a heading to make its column wider or narrower, or press Shift and an arrow key
            on it.
          </p>
          <Button weight="quiet" onClick={() => onChange(null)} className="-ml-3">
            As at first
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Those shown, in their order, then the others. */
function ColumnChoices({
  columns,
  onChange,
}: {
  columns: readonly ColumnKey[];
  onChange: (columns: readonly ColumnKey[]) => void;
}) {
  const chosen = columns.filter((key) => !COLUMNS.find((column) => column.key === key)?.always);
  const others = COLUMNS.filter(({ key, always }) => !always && !columns.includes(key)).map(({ key }) => key);
  const move = (key: ColumnKey, by: 1 | -1) => {
    const at = chosen.indexOf(key);
    onChange(chosen.with(at, chosen[at + by]!).with(at + by, key));
  };
  return [...chosen, ...others].map((key) => {
    const name = COLUMNS.find((column) => column.key === key)!.name;
    const at = chosen.indexOf(key);
    return (
      <div key={key} className="flex items-center gap-3">
        <span className="flex-1">
          <Tick
            plain
            label={name}
            checked={at !== -1}
            onChange={(shown) => onChange(withOrWithout(chosen, key, shown))}
          />
        </span>
        {at !== -1 && (
          <>
            <Mover label={`${name} to the left`} disabled={at === 0} onPress={() => move(key, -1)}>
              <ArrowUp size={16} aria-hidden="true" />
            </Mover>
            <Mover
              label={`${name} to the right`}
              disabled={at === chosen.length - 1}
              onPress={() => move(key, 1)}
            >
              <ArrowDown size={16} aria-hidden="true" />
            </Mover>
          </>
        )}
      </div>
    );
  });
}

function Mover({
  label,
  disabled,
  onPress,
  children,
}: {
  label: string;
  disabled: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={disabled}
      onClick={onPress}
      className="inline-flex size-8 items-center justify-center text-accent hover:bg-press disabled:opacity-40"
    >
      {children}
    </button>
  );
}
