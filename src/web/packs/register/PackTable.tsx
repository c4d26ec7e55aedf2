import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import type { HouseRules } from '../../../core/rules';
import { COLUMNS } from './listing';
import type { ColumnKey, ListedPack, SortOrder } from './listing';
import { PackCell, PackLine } from './PackCells';

const ROW_PX = 36;
const LINE_PX = 76;

interface TableProps {
  readonly packs: readonly ListedPack[];
  readonly columns: readonly ColumnKey[];
  readonly order: SortOrder;
  readonly rules: HouseRules;
  readonly onSort: (sort: string) => void;
}

/** The packs as a table, on a phone as lines. Only the rows in view are in the page, so thousands scroll like sixty. */
export function PackTable({ packs, columns, order, rules, onSort }: TableProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const narrow = useNarrow();
  const rowPx = narrow ? LINE_PX : ROW_PX;
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions change with every scroll; nothing here memoizes them
  const virtual = useVirtualizer({
    count: packs.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: 12,
  });
  useEffect(() => virtual.measure(), [virtual, rowPx]);
  const items = virtual.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);

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
            <li key={packs[index]!.row.id} className="ruled px-3" style={{ height: rowPx }}>
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
      <table className="w-full border-separate border-spacing-0 text-sm" aria-rowcount={packs.length + 1}>
        <thead>
          <tr>
            {columns.map((column) => (
              <HeaderCell key={column} column={column} order={order} onSort={onSort} />
            ))}
          </tr>
        </thead>
        <tbody>
          <Spacer px={above} columns={columns.length} />
          {items.map(({ index }) => (
            <tr
              key={packs[index]!.row.id}
              aria-rowindex={index + 2}
              className="hover:bg-press"
              style={{ height: rowPx }}
            >
              {columns.map((column) => (
                <td key={column} className="border-b border-line px-2 whitespace-nowrap first:pl-1">
                  <PackCell pack={packs[index]!} column={column} rules={rules} />
                </td>
              ))}
            </tr>
          ))}
          <Spacer px={below} columns={columns.length} />
        </tbody>
      </table>
    </div>
  );
}

function Spacer({ px, columns }: { px: number; columns: number }) {
  if (px <= 0) return null;
  return (
    <tr aria-hidden="true">
      <td colSpan={columns} style={{ height: px }} />
    </tr>
  );
}

function HeaderCell({
  column,
  order,
  onSort,
}: {
  column: ColumnKey;
  order: SortOrder;
  onSort: (sort: string) => void;
}) {
  const active = order.column === column;
  const name = COLUMNS.find(({ key }) => key === column)?.name ?? column;
  return (
    <th
      scope="col"
      aria-sort={active ? (order.descending ? 'descending' : 'ascending') : 'none'}
      className="sticky top-0 z-10 border-b border-rule bg-ground px-2 text-left first:pl-1"
    >
      <button
        type="button"
        onClick={() => onSort(active && !order.descending ? `-${column}` : column)}
        className="min-h-9 font-bold whitespace-nowrap"
      >
        {name}
        <span className="ml-1 inline-block w-3 text-accent" aria-hidden="true">
          {active ? (order.descending ? '↓' : '↑') : ''}
        </span>
      </button>
    </th>
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
