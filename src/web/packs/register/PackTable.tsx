import { getCoreRowModel, useReactTable } from '@tanstack/react-table';
import type { ColumnDef, ColumnSizingState, SortingState, Updater } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useRef, useState } from 'react';
import type { HouseRules } from '../../../core/rules';
import { COLUMNS, sortValue } from './listing';
import type { ColumnKey, ListedPack, SortOrder } from './listing';
import { ColumnHeader } from '../../kit/ColumnHeader';
import { PackCell, PackLine } from './PackCells';

const ROW_PX = 36;
const LINE_PX = 76;
/** As many as most screens have rows in view. */
const SLOTS = 64;

const DEFINITIONS: ColumnDef<ListedPack>[] = COLUMNS.map(({ key, name, px }) => ({
  id: key,
  accessorFn: (pack) => sortValue(pack, key),
  header: name,
  size: px,
  minSize: 48,
}));

interface TableProps {
  /** Those that show, as they are sorted. */
  readonly packs: readonly ListedPack[];
  readonly columns: readonly ColumnKey[];
  readonly widths: ColumnSizingState;
  readonly order: SortOrder;
  readonly rules: HouseRules;
  readonly onSort: (sort: string) => void;
  readonly onWidths: (widths: ColumnSizingState) => void;
}

/** The packs as a table, on a phone as lines. Only the rows in view are in the page, so thousands scroll like sixty. */
export const PackTable = memo(function PackTable({
  packs,
  columns,
  widths,
  order,
  rules,
  onSort,
  onWidths,
}: TableProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  const rowPx = narrow ? LINE_PX : ROW_PX;
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions change with every scroll; nothing here memoizes them
  const virtual = useVirtualizer({
    count: packs.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: 6,
  });
  useEffect(() => virtual.measure(), [virtual, rowPx]);
  const items = virtual.getVirtualItems();
  // A row that leaves lends its elements to one that comes, by scrolling or by another filter: text is changed sooner than a row is made.
  const slots = Math.ceil(items.length / SLOTS) * SLOTS;
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);

  const sorting: SortingState = [{ id: order.column, desc: order.descending }];
  const table = useReactTable({
    data: packs as ListedPack[],
    columns: DEFINITIONS,
    getCoreRowModel: getCoreRowModel(),
    getRowId: ({ row }) => row.id,
    manualSorting: true,
    enableSortingRemoval: false,
    sortDescFirst: false,
    columnResizeMode: 'onChange',
    state: {
      sorting,
      columnOrder: [...columns],
      columnVisibility: Object.fromEntries(COLUMNS.map(({ key }) => [key, columns.includes(key)])),
      columnSizing: widths,
    },
    onSortingChange: (update) => {
      const [first] = updated(update, sorting);
      if (first) onSort(first.desc ? `-${first.id}` : first.id);
    },
    onColumnSizingChange: (update) => onWidths(updated(update, widths)),
  });

  if (narrow) {
    return (
      <div
        ref={scroller}
        className="-mx-3 h-[calc(100dvh-17rem)] overflow-y-auto border-t-2 border-ink"
        tabIndex={0}
        role="region"
        aria-label="Packs"
      >
        <ul style={{ paddingTop: above, paddingBottom: below }}>
          {items.map(({ index }) => (
            <li key={index % slots} className="ruled px-3" style={{ height: rowPx }}>
              <PackLine pack={packs[index]!} rules={rules} />
            </li>
          ))}
        </ul>
      </div>
    );
  }
  return (
    <div
      ref={scroller}
      className="h-[calc(100dvh-10.5rem)] min-h-80 overflow-auto border-t-2 border-ink"
      tabIndex={0}
      role="region"
      aria-label="Table of packs"
    >
      <table
        className="w-full table-fixed border-separate border-spacing-0 text-sm"
        style={{ minWidth: table.getTotalSize() }}
        aria-rowcount={packs.length + 1}
      >
        <thead>
          <tr>
            {table.getFlatHeaders().map((header) => (
              <ColumnHeader key={header.id} header={header} />
            ))}
          </tr>
        </thead>
        <tbody>
          <Spacer px={above} columns={columns.length} />
          {items.map(({ index }) => (
            <tr
              key={index % slots}
              aria-rowindex={index + 2}
              className="hover:bg-press"
              style={{ height: rowPx }}
            >
              {table.getVisibleLeafColumns().map(({ id }) => (
                <td key={id} className="truncate border-b border-line px-1.5 first:pl-1">
                  <PackCell pack={packs[index]!} column={id as ColumnKey} rules={rules} />
                </td>
              ))}
            </tr>
          ))}
          <Spacer px={below} columns={columns.length} />
        </tbody>
      </table>
    </div>
  );
});

function updated<State>(update: Updater<State>, now: State): State {
  return typeof update === 'function' ? (update as (old: State) => State)(now) : update;
}

function Spacer({ px, columns }: { px: number; columns: number }) {
  if (px <= 0) return null;
  return (
    <tr aria-hidden="true">
      <td colSpan={columns} style={{ height: px }} />
    </tr>
  );
}

/** Whether the page is as narrow as a phone held upright. */
function useNarrow(): boolean {
  const [narrow, setNarrow] = useState(() => matchMedia(NARROW).matches);
  useEffect(() => {
    const query = matchMedia(NARROW);
    const update = () => setNarrow(query.matches);
    query.addEventListener('change', update);
    return () => query.removeEventListener('change', update);
  }, []);
  return narrow;
}

const NARROW = '(max-width: 767px)';
