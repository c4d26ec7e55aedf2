import { useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import type { PackId } from '../../core/measure';
import { stowageWarningWords } from '../../core/wording';
import { mayLieIn } from './placed';
import type { PlacedPack, Stowed } from './placed';
import { PackTile } from './PackTile';

interface Props {
  readonly stowed: Stowed;
  readonly picked: PlacedPack | null;
  readonly onPick: ((id: PackId) => void) | null;
  /** Lays the picked pack here, in a slot or loose. */
  readonly onLay: (slot: number | null) => void;
}

/** One container or shelf with what lies in it, its slots, and what is wrong there. */
export function PlaceBox({ stowed: { place, packs, warnings }, picked, onPick, onLay }: Props) {
  const { setNodeRef, isOver } = useDroppable({ id: place.id });
  const slots = Array.from({ length: place.slots }, (_, i) => i + 1);
  const loose = packs.filter(({ row }) => row.slot === null || row.slot > place.slots);
  const offered = picked && mayLieIn(picked, place) ? picked : null;
  const grave = warnings.some(({ code }) => code === 'held-among-sound' || code === 'charged-in-the-warm');
  const tile = (pack: PlacedPack) => (
    <PackTile
      key={pack.id}
      pack={pack}
      picked={picked?.id === pack.id}
      onPick={onPick && (() => onPick(pack.id))}
    />
  );
  return (
    <section
      ref={setNodeRef}
      aria-label={place.name}
      className={`flex h-full flex-col border-2 bg-ground ${isOver ? 'border-accent bg-press' : grave ? 'border-red' : 'border-ink'} ${place.fireResistant ? '' : 'border-dashed'}`}
    >
      <h2 className="flex flex-wrap items-baseline gap-x-3 border-b border-line px-2 py-1 text-sm">
        {place.name}
        {place.code && <span className="font-mono text-xs font-normal text-faint">{place.code}</span>}
        <span className="ml-auto font-mono text-xs font-normal text-faint">
          {packs.length}
          {place.capacity !== null && ` of ${place.capacity}`}
          {place.celsius !== null && ` · ${place.celsius} °C`}
        </span>
      </h2>
      {warnings.map((why) => (
        <p key={why.code} className="px-2 py-0.5 text-xs font-bold text-red">
          {stowageWarningWords(why)}
        </p>
      ))}
      <div className="flex min-h-0 flex-1 flex-wrap content-start gap-1 overflow-y-auto p-1.5">
        {slots.map((slot) => {
          const here = packs.filter(({ row }) => row.slot === slot);
          return (
            <Slot
              key={slot}
              id={`${place.id}/${slot}`}
              slot={slot}
              onLay={offered ? () => onLay(slot) : null}
            >
              {here.map(tile)}
            </Slot>
          );
        })}
        {loose.map(tile)}
        {offered && offered.row.placeId !== place.id && (
          <button
            type="button"
            onClick={() => onLay(null)}
            className="min-h-11 border-[1.5px] border-dashed border-accent px-2 text-sm font-bold text-accent md:min-h-7"
          >
            Lay {offered.row.tag} here
          </button>
        )}
      </div>
    </section>
  );
}

function Slot({
  id,
  slot,
  onLay,
  children,
}: {
  id: string;
  slot: number;
  onLay: (() => void) | null;
  children: readonly ReactNode[];
}) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <div
      ref={setNodeRef}
      className={`flex min-h-11 min-w-20 items-center gap-1 border border-line px-1 md:min-h-8 ${isOver ? 'border-accent bg-press' : ''}`}
    >
      {children.length > 0 || !onLay ? (
        <span className="w-4 text-right font-mono text-xs text-faint">{slot}</span>
      ) : (
        <button
          type="button"
          onClick={onLay}
          className="min-h-6 w-full font-mono text-xs text-accent"
          aria-label={`Lay it in slot ${slot}`}
        >
          {slot}
        </button>
      )}
      {children}
    </div>
  );
}
