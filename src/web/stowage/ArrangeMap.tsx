import { useRef, useState } from 'react';
import type { KeyboardEvent, PointerEvent } from 'react';
import type { MapArea, PlaceAnswer } from '../../contract';
import type { PlaceId } from '../../core/measure';
import { FailedRequest, ask } from '../app/api';
import { KEYS, queryClient } from '../app/queries';
import { Button } from '../kit/Button';
import { firstArea, MAP_COLUMNS, shifted } from './placed';

/** A row of the grid and the gap under it. */
const ROW_PX = 44 + 8;

/** The map of shelves being drawn: places are dragged, or moved with the arrow keys and resized with Shift. */
export function ArrangeMap({ places }: { places: readonly PlaceAnswer[] }) {
  const [areas, setAreas] = useState<Readonly<Record<PlaceId, MapArea | null>>>(
    Object.fromEntries(places.map(({ id, map }) => [id, map])),
  );
  const [problem, setProblem] = useState<string | null>(null);

  const set = (id: PlaceId, area: MapArea | null) => setAreas((now) => ({ ...now, [id]: area }));
  // One after the other: an earlier place must not arrive after a later one.
  const sending = useRef(Promise.resolve());
  const keep = (id: PlaceId, area: MapArea | null) => {
    set(id, area);
    setProblem(null);
    sending.current = sending.current.then(() => send(id, area));
  };
  const send = async (id: PlaceId, area: MapArea | null): Promise<void> => {
    try {
      await ask('PUT /map', { body: { places: [{ id, map: area }] } });
      await queryClient.invalidateQueries({ queryKey: KEYS.register });
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblem(error.message);
    }
  };

  const now = places.map((place) => ({ ...place, map: areas[place.id] ?? null }));
  return (
    <>
      <p className="mb-2 text-sm text-faint">
        Drag a place, or its corner to resize it. With the keyboard: arrows move, Shift and arrows resize.
      </p>
      {problem && (
        <p role="alert" className="mb-2 font-bold text-red">
          {problem}
        </p>
      )}
      <div className="grid auto-rows-[2.75rem] grid-cols-[repeat(24,minmax(0,1fr))] gap-2 bg-[linear-gradient(var(--line)_1px,transparent_1px)] bg-[length:100%_52px]">
        {now.map(
          ({ id, name, map }) =>
            map && (
              <DrawnPlace
                key={id}
                name={name}
                area={map}
                onDraw={(area) => set(id, area)}
                onKeep={(area) => keep(id, area)}
              />
            ),
        )}
      </div>
      <p className="mt-4 flex flex-wrap gap-2">
        {now
          .filter(({ map }) => map === null)
          .map(({ id, name }) => (
            <Button key={id} onClick={() => keep(id, firstArea(now))}>
              Put {name} on the map
            </Button>
          ))}
      </p>
    </>
  );
}

/** One place on the map, following the pointer that has it until it is let go. */
function DrawnPlace({
  name,
  area,
  onDraw,
  onKeep,
}: {
  name: string;
  area: MapArea;
  onDraw: (area: MapArea) => void;
  onKeep: (area: MapArea | null) => void;
}) {
  const held = useRef<{ from: MapArea; x: number; y: number; resize: boolean; columnPx: number } | null>(
    null,
  );
  const hold = (event: PointerEvent, resize: boolean) => {
    const place = event.currentTarget.closest('[data-place]');
    event.currentTarget.setPointerCapture(event.pointerId);
    event.stopPropagation();
    const columnPx = (place?.parentElement?.clientWidth ?? 0) / MAP_COLUMNS;
    held.current = { from: area, x: event.clientX, y: event.clientY, resize, columnPx };
  };
  const at = (event: PointerEvent): MapArea | null => {
    if (!held.current) return null;
    const { from, x, y, resize, columnPx } = held.current;
    const by = { x: (event.clientX - x) / columnPx, y: (event.clientY - y) / ROW_PX };
    return shifted(from, resize ? { w: by.x, h: by.y } : by);
  };
  const follow = (event: PointerEvent) => {
    const next = at(event);
    if (next) onDraw(next);
  };
  const drop = (event: PointerEvent) => {
    const next = at(event);
    held.current = null;
    if (next) onKeep(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = ARROWS[event.key];
    if (!step) return;
    event.preventDefault();
    onKeep(shifted(area, event.shiftKey ? { w: step.x, h: step.y } : step));
  };
  return (
    <div
      data-place
      role="group"
      tabIndex={0}
      aria-label={`${name}, column ${area.x + 1}, row ${area.y + 1}, ${area.w} wide, ${area.h} high`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => hold(event, false)}
      onPointerMove={follow}
      onPointerUp={drop}
      className="relative cursor-move touch-none border-2 border-accent bg-sheet px-2 py-1 font-bold select-none"
      style={{ gridArea: `${area.y + 1} / ${area.x + 1} / span ${area.h} / span ${area.w}` }}
    >
      {name}
      <button
        type="button"
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => onKeep(null)}
        className="absolute top-1 right-1 min-h-6 px-1 text-sm font-normal text-accent underline"
      >
        take off
      </button>
      <span
        aria-hidden="true"
        onPointerDown={(event) => hold(event, true)}
        onPointerMove={follow}
        onPointerUp={drop}
        className="absolute right-0 bottom-0 size-5 cursor-nwse-resize border-t-2 border-l-2 border-accent bg-press"
      />
    </div>
  );
}

const ARROWS: Readonly<Record<string, { readonly x: number; readonly y: number }>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};
