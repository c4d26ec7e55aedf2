import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { FormEvent, KeyboardEvent } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { CraftAnswer, FlyingAnswer, PackRow, PackTypeAnswer, RegisterAnswer } from '../../contract';
import { alikeGroups } from '../../core/flying';
import { MINUTE_MS } from '../../core/measure';
import type { Instant, PackId, PlaceId } from '../../core/measure';
import { FELT } from '../../core/reading';
import type { Felt } from '../../core/reading';
import type { RecordBody } from '../../core/record';
import { FELT_WORDS, plural, volts, whenWords } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { dropDraft, readDraft, saveDraft, useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { useFlying, useRegister } from '../app/queries';
import { isOwed, stepOf } from '../domain/craft';
import { flown, handInTogether, returned } from '../domain/custody/custodyRecords';
import { OwnCounterFields } from '../domain/custody/OwnCounterFields';
import { NO_COUNTERS, countersTyped } from '../domain/custody/ownCounters';
import type { TypedCounters } from '../domain/custody/ownCounters';
import { InTwoHands } from '../domain/custody/InTwoHands';
import { RestedCells } from '../domain/custody/RestedCells';
import { NO_FLIGHT, flightTyped } from '../domain/entry/typedFlight';
import { STICKS, TAG } from '../kit/press';
import { PackPicker } from '../domain/PackPicker';
import { usePerson } from '../domain/Person';
import { useNames } from '../domain/useNames';
import { usePackRows } from '../domain/waitingRows';
import { Button } from '../kit/Button';
import { Choice, TextField } from '../kit/fields';
import { Loading } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';

/** Packs that come back: what is out with whoever is here, and whatever else is scanned. */
export default function ReturnPage() {
  const register = useRegister();
  const rows = usePackRows();
  const flying = useFlying().data;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isPending || rows.isPending) return <Loading what="the packs" />;
  return <Return register={register.data} rows={rows.data} flying={flying} />;
}

/** What was typed of one pack’s return. */
interface ReturnDraft extends TypedCounters {
  readonly use: 'flown' | 'unused';
  readonly minutes: string;
  readonly landing: string;
  readonly used: string;
  readonly felt: Felt | '';
  readonly remarks: string;
}

const UNTYPED: ReturnDraft = {
  ...{ use: 'flown', minutes: '', landing: '', used: '', felt: '', remarks: '' },
  ...NO_COUNTERS,
};

/** Scanned besides one’s own, where packs are put back, how warm it is outside, and which are back by now. */
interface Session {
  readonly more: readonly PackId[];
  readonly placeId: string;
  readonly ambient: string;
  /** Written down as back, and when: nobody waits for the register to say so. */
  readonly back: readonly { readonly id: PackId; readonly at: Instant }[];
  /** The one being written down; null for the first. */
  readonly open: PackId | null;
}

/** The choice under which each pack goes where it belongs. */
const HOME = 'home';
const FRESH: Session = { more: [], placeId: HOME, ambient: '', back: [], open: null };

function Return({
  register,
  rows,
  flying,
}: {
  register: RegisterAnswer;
  rows: readonly PackRow[];
  flying: FlyingAnswer | undefined;
}) {
  const me = usePerson();
  const reader = useReader();
  const [stored, setSession] = useDraft<Session>('return', FRESH);
  const session = { ...FRESH, ...stored };
  const [query, setQuery] = useSearchParams();
  const [refusals, setRefusals] = useState<ReadonlyMap<PackId, string>>(new Map());
  const named = query.get('pack');
  const begin = useEffectEvent(() => {
    if (named === null) return;
    const ids = named.split(',') as PackId[];
    const back = session.back.filter(({ id }) => !ids.includes(id));
    setSession({ ...session, back, more: [...new Set([...session.more, ...ids])], open: ids[0] ?? null });
    setQuery({}, { replace: true });
  });
  useEffect(() => begin(), [named]);

  const isBack = (row: PackRow) =>
    session.back.some(({ id, at }) => id === row.id && (row.out?.since ?? 0) <= at);
  const more = session.more.flatMap((id) => rows.find((row) => row.id === id) ?? []);
  const here = [
    ...rows.filter((row) => row.holderId === me.id),
    ...more.filter((row) => row.holderId !== me.id),
  ].filter((row) => !isBack(row));
  const current = here.find(({ id }) => id === session.open) ?? here[0];
  const back = session.back.flatMap(({ id }) => rows.find((row) => row.id === id) ?? []);
  const owed = rows.filter((row) => row.owed?.by === me.id && isOwed(row, reader.now));
  const scanned = (ids: readonly PackId[]) => {
    const id = ids.at(-1);
    if (!id) return;
    setSession({
      ...session,
      more: [...new Set([...session.more, id])],
      back: session.back.filter((one) => one.id !== id),
      open: id,
    });
  };
  /** It leaves the list at once and the next one opens; refused, it stands there again with what was typed. */
  const goesBack = (id: PackId, refused: boolean) => {
    const now = { ...FRESH, ...readDraft<Session>('return') };
    const next = here[here.findIndex((row) => row.id === id) + 1] ?? here.find((row) => row.id !== id);
    setSession({
      ...now,
      open: refused ? id : (next?.id ?? null),
      more: refused ? now.more : now.more.filter((one) => one !== id),
      back: [
        ...now.back.filter((one) => one.id !== id && one.at > currentTime() - LATELY_MS),
        ...(refused ? [] : [{ id, at: currentTime() }]),
      ],
    });
  };

  const send = async (id: PackId, bodies: readonly RecordBody[]) => {
    const typed = readDraft(`return.${id}`);
    dropDraft(`return.${id}`);
    goesBack(id, false);
    const why = await handInTogether(id, me.id, bodies, currentTime());
    setRefusals(
      (known) => new Map([...known].filter(([one]) => one !== id).concat(why === null ? [] : [[id, why]])),
    );
    if (why === null) return;
    if (typed !== undefined) saveDraft(`return.${id}`, typed);
    goesBack(id, true);
  };
  return (
    <div className="mx-auto max-w-3xl">
      <title>Return · Malle</title>
      <h1 className="mb-3">Return</h1>
      <PackPicker
        label="Scan or type a tag"
        hint="Also one that nobody took, or that is not yours."
        listed={false}
        ids={here.map(({ id }) => id)}
        onChange={scanned}
      />
      <ul className="mt-3 border-t-2 border-ink" aria-label="Packs that come back">
        {here.map((row) => (
          <PackBack
            key={row.id}
            row={row}
            register={register}
            flying={flying}
            session={session}
            isOpen={row.id === current?.id}
            onOpen={() => setSession({ ...session, open: row.id })}
            refusal={refusals.get(row.id) ?? null}
            send={(bodies) => void send(row.id, bodies)}
          />
        ))}
      </ul>
      {here.length === 0 && (
        <p className="py-3 text-faint">
          {back.length > 0
            ? 'Everything of yours is back.'
            : 'Nothing is out with you. Scan a pack that comes back all the same.'}
        </p>
      )}
      <div className="mt-4 grid gap-3 sm:grid-cols-2">
        <SelectField
          label="They are put back"
          value={session.placeId}
          onChange={(placeId) => setSession({ ...session, placeId })}
        >
          <SelectOption value={HOME}>each where it belongs</SelectOption>
          <SelectOption value="">no fixed place yet</SelectOption>
          {register.places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
        <TextField
          label="Outside, °C"
          inputMode="decimal"
          value={session.ambient}
          onChange={({ target }) => setSession({ ...session, ambient: target.value })}
        />
      </div>
      {owed.length > 0 && (
        <section className="mt-6" aria-label="Still to be read">
          <h2 className="border-b-2 border-ink pb-1">
            Still to be read <span className="font-normal text-faint">{owed.length}</span>
          </h2>
          <ul>
            {owed.map((row) => (
              <RestedCells key={row.id} row={row} />
            ))}
          </ul>
        </section>
      )}
      <Alike flying={flying} rows={back} register={register} />
    </div>
  );
}

function PackBack({
  row,
  register,
  flying,
  session,
  isOpen,
  onOpen,
  refusal,
  send,
}: {
  row: PackRow;
  register: RegisterAnswer;
  flying: FlyingAnswer | undefined;
  session: Session;
  isOpen: boolean;
  onOpen: () => void;
  refusal: string | null;
  send: (bodies: readonly RecordBody[]) => void;
}) {
  const names = useNames();
  const reader = useReader();
  const type = register.types.find(({ id }) => id === row.typeId);
  const craft = register.craft.find(({ id }) => id === row.out?.craftId) ?? null;
  const me = usePerson();
  const { out } = row;
  return (
    <li className="ruled py-2" aria-label={row.tag}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        {isOpen ? (
          <Link to={`/packs/${row.id}`} className={TAG}>
            {row.tag}
          </Link>
        ) : (
          <button
            type="button"
            onClick={onOpen}
            className="min-h-11 font-mono text-lg font-bold text-accent underline underline-offset-3 md:min-h-8"
          >
            {row.tag}
          </button>
        )}
        <span className="text-sm">
          {type?.name}
          {out && `, out since ${whenWords(out.since, reader)}`}
          {out && out.holder !== me.id && ` with ${names.person(out.holder)}`}
          {!out && ', nobody took it out'}
          {craft && `, for ${craft.name}`}
        </span>
        {out && out.wantedBackAt < reader.now && (
          <b className="text-sm text-red">due back {whenWords(out.wantedBackAt, reader)}</b>
        )}
      </div>
      <InTwoHands row={row} />
      {isOpen && type && (
        <ReturnForm
          row={row}
          type={type}
          craft={craft}
          register={register}
          flying={flying}
          session={session}
          refused={refusal}
          send={send}
        />
      )}
    </li>
  );
}

/** More minutes than these in one flight, of those the craft commonly flies, are asked about once. */
const MANY_FLIGHTS = 3;
const LONG_FLIGHT_MINUTES = 120;

function ReturnForm({
  row,
  type,
  craft,
  register,
  flying,
  session,
  refused,
  send,
}: {
  row: PackRow;
  type: PackTypeAnswer;
  craft: CraftAnswer | null;
  register: RegisterAnswer;
  flying: FlyingAnswer | undefined;
  session: Session;
  refused: string | null;
  send: (bodies: readonly RecordBody[]) => void;
}) {
  const me = usePerson();
  const reader = useReader();
  const initial: ReturnDraft = { ...UNTYPED, use: (row.out?.flights ?? 0) > 0 ? 'unused' : 'flown' };
  const [stored, setDraft] = useDraft<ReturnDraft>(`return.${row.id}`, initial);
  const draft = { ...initial, ...stored };
  const [asked, setAsked] = useState(false);
  const [believed, setBelieved] = useState(false);
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus({ preventScroll: true }), []);
  const change = (part: Partial<ReturnDraft>) => {
    setBelieved(false);
    setDraft({ ...draft, ...part });
  };

  const flight = flightTyped(
    {
      ...NO_FLIGHT,
      ...{ minutes: draft.minutes, landing: draft.landing, used: draft.used, felt: draft.felt },
      ...{ remarks: draft.remarks, ambient: session.ambient, craftId: craft?.id ?? '' },
      // Whoever has it flew it, whoever writes it down.
      pilotId: row.out && row.out.holder !== me.id ? row.out.holder : '',
    },
    type,
    register.craft,
    reader.now,
  );
  const errors = asked ? flight.errors : null;
  const tooLong = Math.max(LONG_FLIGHT_MINUTES, MANY_FLIGHTS * (craft?.facts.usualMinutes ?? 0));
  const isLong = draft.use === 'flown' && (flight.payload?.minutes ?? 0) > tooLong;

  const save = (unplugged: boolean) => {
    setAsked(true);
    if (draft.use === 'flown' && flight.payload === null) return;
    const { counters, errors: wrong } = countersTyped(draft);
    if (Object.keys(wrong).length > 0) return;
    if (isLong && !believed) return setBelieved(true);
    const placeId = (session.placeId === HOME ? row.homePlaceId : session.placeId || null) as PlaceId | null;
    send([
      ...(draft.use === 'flown' && flight.payload ? [flown(flight.payload)] : []),
      returned({
        ...{ placeId, unplugged, counters },
        used: draft.use === 'flown' || (row.out?.flights ?? 0) > 0,
      }),
    ]);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save(true);
  };
  const text = (field: 'minutes' | 'landing' | 'used' | 'remarks') => ({
    value: draft[field],
    onChange: ({ target }: { target: { value: string } }) => change({ [field]: target.value }),
    error: errors?.[field],
  });
  const step = stepOf(flying, craft?.id ?? null);
  const landed = flight.payload?.landing?.volts;
  const landedMv = landed
    ? landed.of === 'cells'
      ? Math.min(...landed.cellsMv)
      : landed.packMv / type.series
    : null;
  const lineMv = register.rules.rules.flight.landAtMv[type.chemistry];

  return (
    <form onSubmit={submit} noValidate onKeyDown={nextField} className="mt-2 grid gap-3">
      <Choice
        label="It was"
        options={[
          { value: 'flown', label: 'flown' },
          {
            value: 'unused',
            label: (row.out?.flights ?? 0) > 0 ? `written down already (${row.out!.flights})` : 'not used',
          },
        ]}
        value={draft.use}
        onChange={(use) => change({ use })}
      />
      {draft.use === 'flown' && (
        <>
          <div className="grid grid-cols-3 gap-3">
            <TextField
              ref={first}
              label="Minutes"
              inputMode="decimal"
              enterKeyHint="next"
              {...text('minutes')}
            />
            <TextField
              label="Landed, V"
              inputMode="decimal"
              enterKeyHint="next"
              placeholder={type.series === 1 ? '3.52' : 'cell, pack'}
              className="font-mono placeholder:text-sm"
              {...text('landing')}
            />
            <TextField label="mAh used" inputMode="decimal" enterKeyHint="done" {...text('used')} />
          </div>
          {landedMv !== null && landedMv < lineMv && (
            <p className="font-bold text-amber">
              Below the {volts(lineMv)} V a cell to land at. Put it to storage soon.
            </p>
          )}
          {landedMv !== null && step && (
            <p className="text-sm text-faint">
              On this craft that rests at about {volts(Math.round((landedMv + step.stepMv) / 10) * 10)} V.
            </p>
          )}
          {isLong && believed && (
            <p role="alert" className="font-bold text-amber">
              {Math.round(flight.payload!.minutes!)} minutes in one flight? Save again if that is right.
            </p>
          )}
          <Choice
            label="It feels"
            options={FELT.map((value) => ({ value, label: FELT_WORDS[value] }))}
            value={draft.felt as Felt}
            onChange={(felt) => change({ felt })}
          />
          <div className="flex flex-wrap gap-2">
            {['weak punch', 'early warning'].map((sign) => (
              <Button
                key={sign}
                aria-pressed={draft.remarks.includes(sign)}
                className="aria-pressed:bg-press"
                onClick={() => change({ remarks: withSign(draft.remarks, sign) })}
              >
                {sign}
              </Button>
            ))}
            <div className="min-w-full flex-1 md:min-w-60">
              <TextField label="Remarks" {...text('remarks')} />
            </div>
          </div>
        </>
      )}
      {row.smart && <OwnCounterFields typed={draft} onChange={change} />}
      <p>
        <Link
          to={`/incidents/new?pack=${row.id}`}
          className="inline-flex min-h-11 items-center font-bold text-red underline md:min-h-8"
        >
          Something went wrong
        </Link>
      </p>
      {refused && (
        <p role="alert" className="font-bold text-red">
          {refused}
        </p>
      )}
      <div className={`${STICKS} flex flex-wrap gap-x-3`}>
        <Button type="submit" weight="main">
          Unplugged, it is back
        </Button>
        <Button weight="quiet" onClick={() => save(false)}>
          Still plugged in
        </Button>
      </div>
    </form>
  );
}

/** Enter goes through the three figures and saves after the last, as a phone’s own key does. */
function nextField(event: KeyboardEvent<HTMLFormElement>): void {
  if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
  const fields = [...event.currentTarget.querySelectorAll<HTMLInputElement>('input[inputmode="decimal"]')];
  const next = fields[fields.indexOf(event.target) + 1];
  if (!next || !fields.includes(event.target)) return;
  event.preventDefault();
  next.focus();
}

/** A sign is said once; pressed again it is taken back. */
function withSign(remarks: string, sign: string): string {
  const parts = remarks.split(', ').filter(Boolean);
  return (parts.includes(sign) ? parts.filter((part) => part !== sign) : [...parts, sign]).join(', ');
}

/** Landed this lately packs are still as they landed. */
const LATELY_MS = 12 * 60 * MINUTE_MS;

/** Packs that came back alike: one parallel load, if there is a board for them. */
function Alike({
  flying,
  rows,
  register,
}: {
  flying: FlyingAnswer | undefined;
  rows: readonly PackRow[];
  register: RegisterAnswer;
}) {
  const reader = useReader();
  const hasBoard = register.equipment.some(
    ({ inUse, facts }) => inUse && facts.kind === 'board' && facts.wiring === 'parallel',
  );
  const landed = rows.flatMap(({ id, tag, typeId }) => {
    const landing = flying?.landings.find((one) => one.packId === id && reader.now - one.at < LATELY_MS);
    const mv = landing?.restedMv ?? landing?.loadedMv;
    return mv ? [{ id, tag, typeId, mv }] : [];
  });
  const groups = hasBoard ? alikeGroups(landed) : [];
  if (groups.length === 0) return null;
  return (
    <section className="mt-6" aria-label="Landed alike">
      <h2 className="border-b-2 border-ink pb-1">Landed alike</h2>
      {groups.map((group) => (
        <p key={group[0]!.id} className="ruled py-1.5">
          <b className="font-mono">{group.map(({ tag }) => tag).join(' ')}</b>: {plural(group.length, 'pack')}{' '}
          of {register.types.find(({ id }) => id === group[0]!.typeId)?.name} within 0.05 V a cell. They can
          be charged together on the parallel board.
        </p>
      ))}
    </section>
  );
}
