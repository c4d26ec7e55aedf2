import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import type { DragEndEvent } from '@dnd-kit/core';
import { useState } from 'react';
import { Link } from 'react-router';
import type { PackRow, RegisterAnswer } from '../../contract';
import type { PackId, PlaceId } from '../../core/measure';
import { tagKey } from '../../core/pack';
import { recordRefusalSentence, stowageWarningWords } from '../../core/wording';
import { Failure } from '../app/Failure';
import { useMay } from '../domain/Person';
import { useRegister } from '../app/queries';
import { usePackRows } from '../domain/waitingRows';
import { packOfTag } from '../app/scan';
import { useScanTarget } from '../app/scanTarget';
import { Button, ButtonLink } from '../kit/Button';
import { Empty, Loading } from '../kit/Message';
import { ShelfLinks } from '../kit/ShelfLinks';
import { ArrangeMap } from './ArrangeMap';
import { mayLieIn, objections, stowage } from './placed';
import type { PlacedPack, Stowage, Stowed } from './placed';
import { PackTile } from './PackTile';
import { PlaceBox } from './PlaceBox';
import { useMoving } from './useMoving';
import { SwitchField } from '../kit/fields';

/** The packs as they lie, to stand in front of the cabinet with. */
export default function StowagePage() {
  const rows = usePackRows();
  const register = useRegister();
  for (const query of [rows, register])
    if (query.isLoadingError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  if (!rows.data || !register.data) return <Loading what="the places" />;
  if (register.data.places.length === 0)
    return (
      <Empty title="No place to lay packs yet.">
        <ButtonLink to="/settings/places/new" weight="main">
          Add the first place
        </ButtonLink>
      </Empty>
    );
  return <Shelves rows={rows.data} register={register.data} />;
}

/** A move that would make something wrong, waiting for a yes. */
interface PendingMove {
  readonly pack: PlacedPack;
  readonly to: Stowed;
  readonly slot: number | null;
  readonly why: readonly string[];
}

function Shelves({ rows, register }: { rows: readonly PackRow[]; register: RegisterAnswer }) {
  const placed = stowage(rows, register);
  const mayMove = useMay('record.moved');
  const mayArrange = useMay('place.edit');
  const move = useMoving();
  const [pickedId, setPickedId] = useState<PackId | null>(null);
  const [draggedId, setDraggedId] = useState<PackId | null>(null);
  const [arranging, setArranging] = useState(false);
  const [asked, setAsked] = useState<PendingMove | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const all = [...placed.places.flatMap(({ packs }) => packs), ...placed.inHands, ...placed.nowhere];
  const picked = all.find(({ id }) => id === pickedId) ?? null;
  const dragged = all.find(({ id }) => id === draggedId) ?? null;
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const lay = async (pack: PlacedPack, to: Stowed, slot: number | null, sure = false) => {
    setProblem(null);
    setAsked(null);
    if (!mayLieIn(pack, to.place))
      return setProblem(
        `${pack.row.tag}: ${recordRefusalSentence({ code: 'not-among-sound', field: 'placeId', verdict: pack.verdict })}`,
      );
    const { warnings, takenBy } = objections(to, pack, slot, register.rules.rules);
    const why = [
      ...(takenBy ? [`${takenBy} lies in slot ${slot}.`] : []),
      ...warnings.map(stowageWarningWords),
    ];
    if (why.length > 0 && !sure) return setAsked({ pack, to, slot, why });
    setPickedId(null);
    setProblem(await move(pack.id, pack.row.tag, to.place.id, to.place.name, slot));
  };
  const layById = (packId: PackId, placeId: PlaceId, slot: number | null) => {
    const pack = all.find(({ id }) => id === packId);
    const to = placed.places.find(({ place }) => place.id === placeId);
    if (pack && to && (pack.row.placeId !== placeId || pack.row.slot !== slot || pack.row.holderId !== null))
      void lay(pack, to, slot);
  };

  // Scan a pack, scan a place: moved.
  useScanTarget((scanned) => {
    if (!mayMove) return false;
    const place = register.places.find(({ code }) => code !== null && tagKey(code) === tagKey(scanned));
    if (place) {
      if (pickedId) layById(pickedId, place.id, null);
      else setProblem(`Scan a pack first, then ${place.name}.`);
      return true;
    }
    const pack = packOfTag(scanned, rows);
    if (!pack) return false;
    setProblem(null);
    setPickedId(pack.id);
    return true;
  });

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setDraggedId(null);
    if (!over) return;
    const [placeId, slot] = String(over.id).split('/') as [PlaceId, string | undefined];
    layById(active.id as PackId, placeId, slot === undefined ? null : Number(slot));
  };

  return (
    <>
      <title>Stowage · Malle</title>
      <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-1">
        <h1>Packs</h1>
        <ShelfLinks />
        <span role="status" className="min-w-0 flex-1 text-sm max-md:basis-full">
          {picked ? (
            <>
              <b className="font-mono">{picked.row.tag}</b> picked: choose or scan where it goes.{' '}
              <Link to={`/packs/${picked.id}`} className="inline-block min-h-6 text-accent underline">
                Open it
              </Link>{' '}
              <button
                type="button"
                onClick={() => setPickedId(null)}
                className="min-h-6 text-accent underline"
              >
                leave it
              </button>
            </>
          ) : (
            <span className="text-faint">
              Drag a pack, or pick it and then its place; scanning both does the same.
            </span>
          )}
        </span>
        {mayArrange && (
          <SwitchField
            className="max-md:hidden"
            label="Arrange the map"
            checked={arranging}
            onChange={setArranging}
          />
        )}
      </div>
      {problem && (
        <p role="alert" className="mb-3 border-l-4 border-red bg-wash-red px-3 py-2 font-bold">
          {problem}
        </p>
      )}
      {asked && (
        <div
          role="alert"
          className="mb-3 flex flex-wrap items-center gap-3 border-l-4 border-red bg-wash-red px-3 py-2"
        >
          <span>
            <b>
              {asked.pack.row.tag} in {asked.to.place.name}?
            </b>{' '}
            {asked.why.join(' ')}
          </span>
          <Button onClick={() => void lay(asked.pack, asked.to, asked.slot, true)}>
            Lay it there all the same
          </Button>
          <Button weight="main" onClick={() => setAsked(null)}>
            Leave it where it is
          </Button>
        </div>
      )}
      {arranging ? (
        <ArrangeMap places={placed.places.map(({ place }) => place)} />
      ) : (
        <DndContext
          sensors={sensors}
          onDragStart={({ active }) => setDraggedId(active.id as PackId)}
          onDragCancel={() => setDraggedId(null)}
          onDragEnd={onDragEnd}
        >
          <PlaceMap
            placed={placed}
            picked={picked}
            onPick={mayMove ? (id) => setPickedId(id === pickedId ? null : id) : null}
            onLay={(to, slot) => picked && void lay(picked, to, slot)}
          />
          <DragOverlay>
            {dragged && (
              <span className="border-2 border-accent bg-sheet px-2 py-1 font-mono text-sm font-bold">
                {dragged.row.tag}
              </span>
            )}
          </DragOverlay>
        </DndContext>
      )}
    </>
  );
}

/** The places where the custodian has drawn them, and under them what is drawn nowhere. */
function PlaceMap({
  placed,
  picked,
  onPick,
  onLay,
}: {
  placed: Stowage;
  picked: PlacedPack | null;
  onPick: ((id: PackId) => void) | null;
  onLay: (to: Stowed, slot: number | null) => void;
}) {
  const drawn = placed.places.filter(({ place }) => place.map !== null);
  const undrawn = placed.places.filter(({ place }) => place.map === null);
  const box = (stowed: Stowed) => (
    <PlaceBox stowed={stowed} picked={picked} onPick={onPick} onLay={(slot) => onLay(stowed, slot)} />
  );
  return (
    <>
      <div className="grid gap-2 md:auto-rows-[2.75rem] md:grid-cols-[repeat(24,minmax(0,1fr))]">
        {drawn.map((stowed) => (
          <div
            key={stowed.place.id}
            className="md:[grid-area:var(--area)]"
            style={areaStyle(stowed.place.map!)}
          >
            {box(stowed)}
          </div>
        ))}
      </div>
      <div className="mt-4 grid gap-2 md:grid-cols-3">
        {undrawn.map((stowed) => (
          <div key={stowed.place.id} className="min-h-28">
            {box(stowed)}
          </div>
        ))}
        <Elsewhere title="In somebody’s hands" packs={placed.inHands} picked={picked} onPick={onPick} />
        <Elsewhere title="No place noted" packs={placed.nowhere} picked={picked} onPick={onPick} />
      </div>
    </>
  );
}

function areaStyle({ x, y, w, h }: NonNullable<Stowed['place']['map']>): React.CSSProperties {
  return { '--area': `${y + 1} / ${x + 1} / span ${h} / span ${w}` } as React.CSSProperties;
}

function Elsewhere({
  title,
  packs,
  picked,
  onPick,
}: {
  title: string;
  packs: readonly PlacedPack[];
  picked: PlacedPack | null;
  onPick: ((id: PackId) => void) | null;
}) {
  if (packs.length === 0) return null;
  return (
    <section aria-label={title} className="border border-rule px-2 py-1">
      <h2 className="text-sm text-faint">
        {title} <span className="font-normal">{packs.length}</span>
      </h2>
      <div className="flex flex-wrap gap-1 py-1">
        {packs.map((pack) => (
          <PackTile
            key={pack.id}
            pack={pack}
            picked={picked?.id === pack.id}
            onPick={onPick && (() => onPick(pack.id))}
          />
        ))}
      </div>
    </section>
  );
}
