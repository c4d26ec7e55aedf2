import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState } from 'react';
import { Choice } from '../kit/fields';
import { VerdictMark } from '../kit/VerdictMark';
import type { ShownLine } from '../workers/import.worker';

const ROW = 30;
type Shown = 'all' | ShownLine['outcome'];

/** Every line of a file and what becomes of it; a hundred thousand as smooth as ten. */
export function ImportLines({ lines }: { lines: readonly ShownLine[] }) {
  const [shown, setShown] = useState<Shown>(() =>
    lines.some(({ outcome }) => outcome === 'refused') ? 'refused' : 'all',
  );
  const rows = shown === 'all' ? lines : lines.filter(({ outcome }) => outcome === shown);
  const list = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions change with every scroll; nothing here memoizes them
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  return (
    <div>
      <Choice
        label="Show"
        options={[
          { value: 'all', label: `all ${lines.length}` },
          { value: 'good', label: 'those that come in' },
          { value: 'known', label: 'those there already' },
          { value: 'refused', label: 'those that cannot' },
        ]}
        value={shown}
        onChange={setShown}
      />
      <div
        ref={list}
        className="mt-2 max-h-[60vh] overflow-auto border-t-2 border-ink"
        role="region"
        aria-label="Lines"
        tabIndex={0}
      >
        {rows.length === 0 && <p className="py-2 text-faint">None.</p>}
        <ul className="relative min-w-2xl" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const { line, tag, outcome, says, verdict } = rows[index]!;
            return (
              <li
                key={line}
                style={{ transform: `translateY(${start}px)`, height: ROW }}
                className="absolute inset-x-0 flex items-center gap-3 border-b border-line text-sm whitespace-nowrap"
              >
                <span className="w-14 shrink-0 text-right font-mono text-faint">{line}</span>
                <b className="w-24 shrink-0 truncate font-mono">{tag || '–'}</b>
                <span className="w-40 shrink-0">
                  {verdict && <VerdictMark verdict={verdict} charged="unknown" />}
                </span>
                <span
                  title={says}
                  className={`truncate ${outcome === 'refused' ? 'font-bold text-red' : outcome === 'known' ? 'text-faint' : ''}`}
                >
                  {says}
                </span>
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}
