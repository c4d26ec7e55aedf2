import { flexRender } from '@tanstack/react-table';
import type { Header } from '@tanstack/react-table';
import clsx from 'clsx';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { KeyboardEvent } from 'react';

const STEP_PX = 16;
const SORTED = { asc: 'ascending', desc: 'descending' } as const;

/**
 * The head of a table's column: a press sorts by it, its edge is dragged to make it wider or narrower; Shift with an arrow
 * key does the same.
 */
export function ColumnHeader<Row>({ header }: { header: Header<Row, unknown> }) {
  const { column } = header;
  const sorted = column.getIsSorted();
  const widen = (by: number) =>
    header.getContext().table.setColumnSizing((sizes) => ({
      ...sizes,
      [column.id]: Math.max(column.columnDef.minSize ?? 0, column.getSize() + by),
    }));
  const onKeyDown = (event: KeyboardEvent) => {
    if (!event.shiftKey || !column.getCanResize()) return;
    if (event.key === 'ArrowRight') widen(STEP_PX);
    else if (event.key === 'ArrowLeft') widen(-STEP_PX);
    else return;
    event.preventDefault();
  };
  return (
    <th
      scope="col"
      aria-sort={sorted ? SORTED[sorted] : 'none'}
      style={column.getCanResize() ? { width: column.getSize() } : undefined}
      className="sticky top-0 z-10 border-b border-rule bg-ground px-1.5 text-left first:pl-1"
    >
      <button
        type="button"
        data-printed
        onClick={column.getToggleSortingHandler()}
        onKeyDown={onKeyDown}
        className="inline-flex min-h-9 max-w-full items-center gap-1 font-bold whitespace-nowrap"
      >
        <span className="truncate">{flexRender(column.columnDef.header, header.getContext())}</span>
        <span className="inline-block w-3.5 shrink-0 text-accent print:hidden" aria-hidden="true">
          {sorted === 'asc' && <ArrowUp size={14} strokeWidth={2.6} />}
          {sorted === 'desc' && <ArrowDown size={14} strokeWidth={2.6} />}
        </span>
      </button>
      {column.getCanResize() && (
        <span
          aria-hidden="true"
          onMouseDown={header.getResizeHandler()}
          onTouchStart={header.getResizeHandler()}
          onDoubleClick={() => column.resetSize()}
          className={clsx(
            'absolute inset-y-1 right-0 w-2 cursor-col-resize touch-none border-r-2 hover:border-accent',
            column.getIsResizing() ? 'border-accent' : 'border-transparent',
          )}
        />
      )}
    </th>
  );
}
