import { useDraggable } from '@dnd-kit/core';
import { CHARGED_WORDS, VERDICT_WORDS } from '../../core/wording';
import { VerdictShape } from '../kit/VerdictMark';
import type { PlacedPack } from './placed';

/** A pack as it lies: its tag, its verdict by shape, and how full it is by the line under it. */
export function PackTile({
  pack,
  picked,
  onPick,
}: {
  pack: PlacedPack;
  picked: boolean;
  onPick: (() => void) | null;
}) {
  const { row } = pack;
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: row.id, disabled: onPick === null });
  const charged =
    row.socPercent === null ? '' : `, ${Math.round(row.socPercent)} %, ${CHARGED_WORDS[row.charged]}`;
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      onClick={() => onPick?.()}
      aria-pressed={picked}
      aria-label={`${row.tag}, ${VERDICT_WORDS[row.verdict]}${charged}`}
      className={`relative flex min-h-11 touch-manipulation items-center gap-1.5 border-[1.5px] border-rule bg-sheet px-2 font-mono text-sm font-bold aria-pressed:border-accent aria-pressed:bg-press aria-pressed:outline-3 aria-pressed:outline-accent md:min-h-7 ${isDragging ? 'opacity-40' : ''}`}
    >
      <VerdictShape verdict={row.verdict} charged={row.charged} size={9} />
      {row.tag}
      {row.socPercent !== null && (
        <span aria-hidden="true" className="absolute inset-x-0 bottom-0 h-[3px] bg-line">
          <span
            className={`block h-full ${row.storage === 'high' ? 'bg-amber' : 'bg-leaf'}`}
            style={{ width: `${Math.min(100, row.socPercent)}%` }}
          />
        </span>
      )}
    </button>
  );
}
