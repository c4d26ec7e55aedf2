import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import type { FlyingAnswer, PackRow, RegisterAnswer } from '../../contract';
import type { PersonId } from '../../core/measure';
import { INCIDENT_WORDS, plural, span, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { useFlying, useIncidents, useRegister } from '../app/queries';
import { packOfTag, tagScanned } from '../app/scan';
import { CameraButton } from '../domain/camera/CameraButton';
import { isOwed } from '../domain/craft';
import { InTwoHands } from '../domain/custody/InTwoHands';
import { RestedCells } from '../domain/custody/RestedCells';
import { dayWants } from '../domain/flyingDays/words';
import { usePerson } from '../domain/Person';
import { OnCharge } from '../domain/today/OnCharge';
import { Unexplained } from '../domain/today/Unexplained';
import { MachineTroubles } from '../domain/today/MachineTroubles';
import { Watches } from '../domain/today/Watches';
import { usePackRows, useToday } from '../domain/waitingRows';
import { ButtonLink } from '../kit/Button';
import { Loading } from '../kit/Message';
import { VerdictShape } from '../kit/VerdictMark';
import { TAG } from '../kit/press';

/** A pilot’s first page: what is out with them, what they still owe, what they may take, what became of what they reported. */
export default function MinePage() {
  const rows = usePackRows();
  const register = useRegister();
  const flying = useFlying();
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isPending || register.isPending) return <Loading what="your packs" />;
  return <Mine rows={rows.data} register={register.data} flying={flying.data} />;
}

function Mine({
  rows,
  register,
  flying,
}: {
  rows: readonly PackRow[];
  register: RegisterAnswer;
  flying: FlyingAnswer | undefined;
}) {
  const me = usePerson();
  const reader = useReader();
  const out = rows.filter((row) => row.holderId === me.id);
  const alsoMine = rows.filter((row) => row.out?.alsoWith?.person === me.id);
  const owed = rows.filter((row) => row.owed?.by === me.id && isOwed(row, reader.now));
  const today = useToday().data;
  const untold = today?.unexplained.filter(({ holderId }) => holderId === me.id) ?? [];
  return (
    <div className="mx-auto max-w-3xl">
      <title>My packs · Malle</title>
      <h1 className="mb-3">
        {me.name}{' '}
        <span className="font-normal text-faint">{whenWords(reader.now, reader).replace('today ', '')}</span>
      </h1>
      <div className="mb-3 grid grid-cols-2 gap-3">
        <ButtonLink
          to="/flying/take-out"
          weight={out.length === 0 ? 'main' : 'plain'}
          className="min-h-14 text-lg"
        >
          Take out
        </ButtonLink>
        <ButtonLink
          to="/flying/return"
          weight={out.length > 0 ? 'main' : 'plain'}
          className="min-h-14 text-lg"
        >
          {out.length > 0 ? `Return ${out.length}` : 'Return'}
        </ButtonLink>
      </div>
      <ScanAny rows={rows} />
      {/* Below the buttons: what arrives later moves nothing that a thumb is about to press. */}
      {today && <MachineTroubles troubles={today.machine} />}
      {today && <Watches watches={today.watches.filter(({ until }) => reader.now < until)} />}
      {today && <OnCharge running={today.onCharge} />}
      <div className="grid gap-7">
        <Part title="Out with you" count={out.length + alsoMine.length} empty="No pack is out with you.">
          {out.map((row) => (
            <OutLine key={row.id} row={row} register={register} />
          ))}
          {alsoMine.map((row) => (
            <li key={row.id} className="ruled py-2">
              <InTwoHands row={row} />
            </li>
          ))}
        </Part>
        {owed.length > 0 && (
          <Part title="You still owe" count={owed.length} empty="">
            {owed.map((row) => (
              <RestedCells key={row.id} row={row} />
            ))}
          </Part>
        )}
        <Unexplained items={untold} />
        <NextDays flying={flying} rows={rows} register={register} />
        <Free rows={rows} register={register} />
        <Reported by={me.id} />
      </div>
    </div>
  );
}

/** A pack in the hand, without its tag being typed: its page. */
function ScanAny({ rows }: { rows: readonly PackRow[] }) {
  const navigate = useNavigate();
  return (
    <p className="mb-6">
      <CameraButton
        once
        className="w-full"
        onScan={(scanned) => {
          const tag = tagScanned(scanned);
          const row = packOfTag(tag, rows);
          void navigate(row ? `/packs/${row.id}` : `/tag/${encodeURIComponent(tag)}`);
        }}
      />
    </p>
  );
}

function Part({
  title,
  count,
  empty,
  children,
}: {
  title: string;
  count: number;
  empty: string;
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <h2 className="border-b-2 border-ink pb-1">
        {title} <span className="font-normal text-faint">{count}</span>
      </h2>
      {count === 0 ? <p className="py-2 text-faint">{empty}</p> : <ul>{children}</ul>}
    </section>
  );
}

function OutLine({ row, register }: { row: PackRow; register: RegisterAnswer }) {
  const reader = useReader();
  const { out } = row;
  const craft = register.craft.find(({ id }) => id === out?.craftId);
  const late = out !== null && out.wantedBackAt < reader.now;
  return (
    <li className="ruled py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <VerdictShape verdict={row.verdict} charged={row.charged} />
        <Link to={`/packs/${row.id}`} className={TAG}>
          {row.tag}
        </Link>
        <span className="min-w-0 flex-1 basis-40 text-sm">
          {craft && <>{craft.name}, </>}
          {out && (
            <span className={late ? 'font-bold text-red' : ''}>
              {late
                ? `due back ${whenWords(out.wantedBackAt, reader)}, ${span(reader.now - out.wantedBackAt)} ago`
                : `back by ${whenWords(out.wantedBackAt, reader)}`}
            </span>
          )}
          {out && out.flights > 0 && (
            <span className="text-faint">, {plural(out.flights, 'flight')} written down</span>
          )}
        </span>
        <ButtonLink to={`/packs/${row.id}`} state={{ entry: 'flight' }}>
          Log a flight
        </ButtonLink>
        <ButtonLink to={`/flying/return?pack=${row.id}`}>Return</ButtonLink>
      </div>
      <InTwoHands row={row} />
    </li>
  );
}

/** The next flying days, and the packs meant for this pilot. */
function NextDays({
  flying,
  rows,
  register,
}: {
  flying: FlyingAnswer | undefined;
  rows: readonly PackRow[];
  register: RegisterAnswer;
}) {
  const me = usePerson().id;
  const reader = useReader();
  const days = (flying?.days ?? []).filter(({ cancelled }) => !cancelled).slice(0, 3);
  return (
    <Part title="Next flying days" count={days.length} empty="None is planned.">
      {days.map((day) => {
        const mine = day.handOut.filter(({ personId }) => personId === me || personId === null);
        const tags = mine.flatMap(({ packId }) => rows.find(({ id }) => id === packId)?.tag ?? []);
        return (
          <li key={day.id} className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
            <span className="min-w-0 flex-1 basis-56">
              <b>{whenWords(day.at, reader)}</b> {day.place}
              {day.personIds.includes(me) && <b className="text-accent"> with you</b>}
              <span className="block text-sm text-faint">{dayWants(day, register)}</span>
              {tags.length > 0 && (
                <span className="block text-sm">
                  To take along: <span className="font-mono">{tags.join(' ')}</span>
                </span>
              )}
            </span>
            {mine.length > 0 && (
              <ButtonLink to={`/flying/take-out?day=${day.id}`}>
                Take {plural(mine.length, 'pack')} out
              </ButtonLink>
            )}
          </li>
        );
      })}
    </Part>
  );
}

/** What may be taken as it is, by type. */
function Free({ rows, register }: { rows: readonly PackRow[]; register: RegisterAnswer }) {
  const types = register.types.flatMap((type) => {
    const ofType = rows.filter(
      ({ typeId, mayFly, holderId, fieldPack }) =>
        typeId === type.id && mayFly === 'yes' && holderId === null && !fieldPack,
    );
    const charged = ofType.filter((row) => row.charged === 'charged');
    return ofType.length === 0 ? [] : [{ type, free: ofType.length, charged }];
  });
  return (
    <Part
      title="Free to take"
      count={types.reduce((sum, { free }) => sum + free, 0)}
      empty="No pack may be taken as it is."
    >
      {types.map(({ type, free, charged }) => (
        <li key={type.id} className="ruled flex flex-wrap items-baseline gap-x-3 py-1.5">
          <Link
            to={`/packs?q=${encodeURIComponent(type.name)}`}
            className="inline-flex min-h-11 items-center font-bold text-accent md:min-h-8"
          >
            {type.name}
          </Link>
          <span className="text-sm">
            {charged.length > 0 ? (
              <>
                <b className="text-leaf">{charged.length} charged</b>:{' '}
                <span className="font-mono">
                  {charged
                    .slice(0, 8)
                    .map(({ tag }) => tag)
                    .join(' ')}
                </span>
                {charged.length > 8 && ` and ${charged.length - 8} more`}
              </>
            ) : (
              <span className="text-faint">{free} to be charged first</span>
            )}
          </span>
        </li>
      ))}
    </Part>
  );
}

/** What this person reported, and what became of it. */
function Reported({ by }: { by: PersonId }) {
  const reader = useReader();
  const incidents = useIncidents();
  const mine = (incidents.data ?? []).filter((one) => one.by === by).slice(0, 5);
  return (
    <Part
      title="You reported"
      count={mine.length}
      empty="Nothing. When something goes wrong, the red button at the top shows what to do first."
    >
      {mine.map(({ id, kind, at, what, packs, closedAt, openTasks }) => (
        <li key={id} className="ruled py-1.5">
          <Link
            to={`/incidents/${id}`}
            className="inline-flex min-h-11 items-center font-bold text-accent md:min-h-8"
          >
            {INCIDENT_WORDS[kind].name}
          </Link>{' '}
          <span className="font-mono">{packs.map(({ tag }) => tag).join(' ')}</span>{' '}
          <span className="text-sm text-faint">{whenWords(at, reader)}</span>
          {what && <span className="block text-sm">{what}</span>}
          <span className="block text-sm">
            {closedAt !== null
              ? `Closed ${whenWords(closedAt, reader)}.`
              : openTasks > 0
                ? `Open, ${plural(openTasks, 'follow-up')} to be done.`
                : 'Open.'}
          </span>
        </li>
      ))}
    </Part>
  );
}
