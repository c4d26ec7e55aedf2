import { X } from 'lucide-react';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { CraftAnswer, FlyingAnswer, PackRow, RegisterAnswer } from '../../contract';
import { worstOutcome } from '../../core/flying';
import type { Instant, PackId, PersonId } from '../../core/measure';
import { parseCelsius } from '../../core/reading';
import { fitSentence, hoverStepSentence, notHandedOutSentence, plural, volts } from '../../core/wording';
import { currentTime } from '../app/clock';
import { minuteAt } from '../app/days';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { useFlying, useRegister } from '../app/queries';
import { cardFor, stepOf } from '../domain/craft';
import { handInTogether, takenOut } from '../domain/custody/custodyRecords';
import { OwnCounterFields } from '../domain/custody/OwnCounterFields';
import { countersTyped } from '../domain/custody/ownCounters';
import { MayFlyMark } from '../domain/MayFlyMark';
import { MomentField } from '../domain/moments/MomentField';
import { PackPicker } from '../domain/PackPicker';
import { usePerson } from '../domain/Person';
import { useNames } from '../domain/useNames';
import { usePackRows } from '../domain/waitingRows';
import { Button, ButtonLink } from '../kit/Button';
import { TextField, Tick } from '../kit/fields';
import { Loading } from '../kit/Message';
import { SelectField, SelectOption } from '../kit/Select';
import { STICKS, TAG } from '../kit/press';
import { NOTHING_TAKEN, takeOutLines, withChanged, withoutPack, withPack } from './takeOut';
import type { PackTaken, TakeOutDraft, TakeOutLine } from './takeOut';

/** Packs taken to fly: scanned one after the other, each answered at once, then taken together. */
export default function TakeOutPage() {
  const register = useRegister();
  const rows = usePackRows();
  const flying = useFlying();
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (register.isPending || rows.isPending) return <Loading what="the packs" />;
  return <TakeOut register={register.data} rows={rows.data} flying={flying.data} />;
}

function TakeOut({
  register,
  rows,
  flying,
}: {
  register: RegisterAnswer;
  rows: readonly PackRow[];
  flying: FlyingAnswer | undefined;
}) {
  const me = usePerson();
  const [stored, setDraft, clear] = useDraft<TakeOutDraft>('take-out', NOTHING_TAKEN);
  const draft = { ...NOTHING_TAKEN, ...stored };
  const [refusals, setRefusals] = useState<ReadonlyMap<PackId, string>>(new Map());
  const [busy, setBusy] = useState(false);
  useBegun(draft, setDraft, flying);
  const holder = (draft.holderId || me.id) as PersonId;
  const craft = register.craft.find(({ id }) => id === draft.craftId) ?? null;
  const lines = takeOutLines(draft, rows, craft, register, holder);
  const ready = lines.filter(({ isReady }) => isReady);
  const dueBackAt = minuteAt(draft.dueBack);

  const take = async () => {
    setBusy(true);
    const refused = new Map<PackId, string>();
    const at = currentTime();
    let left = draft;
    for (const line of ready) {
      const body = takenOut(takingOf(line, draft, craft, dueBackAt));
      const why = await handInTogether(line.row.id, me.id, [body], at);
      if (why === null) left = withoutPack(left, line.row.id);
      else refused.set(line.row.id, why);
    }
    setBusy(false);
    setRefusals(refused);
    const taken = draft.packs.length - left.packs.length;
    if (left.packs.length === 0) clear();
    else setDraft(left);
    if (taken > 0) say(`${plural(taken, 'pack')} taken out.`);
  };

  return (
    <div className="mx-auto max-w-3xl">
      <title>Take out · Malle</title>
      <h1 className="mb-3">Take out</h1>
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="For which craft"
          value={draft.craftId}
          onChange={(craftId) => setDraft({ ...draft, craftId })}
        >
          <SelectOption value="">not said: no fit is checked</SelectOption>
          {register.craft
            .filter(({ inUse }) => inUse)
            .map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
        </SelectField>
        <MomentField
          label="Back by"
          hint={
            draft.dueBack === ''
              ? `Empty: wanted back after ${register.rules.rules.flight.outHours} h.`
              : undefined
          }
          wanted="minute"
          lean="ahead"
          value={draft.dueBack}
          onChange={(dueBack) => setDraft({ ...draft, dueBack })}
        />
        <SelectField
          label="Who takes them"
          value={draft.holderId}
          onChange={(holderId) => setDraft({ ...draft, holderId })}
        >
          <SelectOption value="">me</SelectOption>
          {register.people
            .filter(({ id }) => id !== me.id)
            .map(({ id, name }) => (
              <SelectOption key={id} value={id}>
                {name}
              </SelectOption>
            ))}
        </SelectField>
        <TextField
          label="Outside, °C"
          inputMode="decimal"
          hint="For the timer and the volts in the cold."
          value={draft.ambient}
          onChange={({ target }) => setDraft({ ...draft, ambient: target.value })}
        />
      </div>
      <div className="mt-4">
        <PackPicker
          label="Scan or type a tag, one after the other"
          listed={false}
          ids={draft.packs.map(({ id }) => id)}
          onChange={(ids) => setDraft(ids.reduce(withPack, draft))}
        />
      </div>
      <ul className="mt-3 border-t-2 border-ink" aria-label="Packs to take out">
        {lines.map((line) => (
          <Line
            key={line.row.id}
            line={line}
            craft={craft}
            holder={holder}
            register={register}
            flying={flying}
            ambientC={celsius(draft.ambient)}
            refused={refusals.get(line.row.id) ?? null}
            change={(part) => setDraft(withChanged(draft, line.row.id, part))}
            drop={() => setDraft(withoutPack(draft, line.row.id))}
          />
        ))}
      </ul>
      {lines.length === 0 && (
        <p className="py-3 text-faint">No pack yet. Every pack scanned here is answered at once.</p>
      )}
      <div className={`${STICKS} mt-3 flex flex-wrap items-center gap-x-4`}>
        <Button
          weight="main"
          disabled={busy || ready.length === 0 || Number.isNaN(dueBackAt)}
          onClick={() => void take()}
        >
          {ready.length === 0 ? 'Take out' : `Take out ${plural(ready.length, 'pack')}`}
        </Button>
        {lines.length > ready.length && (
          <span className="text-sm text-faint">
            {plural(lines.length - ready.length, 'pack')} cannot go yet.
          </span>
        )}
      </div>
      {craft && (
        <p className="mt-3 text-sm text-faint">
          {craft.name}: {hoverStepSentence(stepOf(flying, craft.id))}
        </p>
      )}
      <Reminders />
    </div>
  );
}

/** A page that leads here may name packs, or a flying day whose packs are this person's. */
function useBegun(
  draft: TakeOutDraft,
  setDraft: (draft: TakeOutDraft) => void,
  flying: FlyingAnswer | undefined,
): void {
  const [query, setQuery] = useSearchParams();
  const me = usePerson().id;
  const packs = query.get('pack');
  const dayId = query.get('day');
  const begin = useEffectEvent(() => {
    if (packs === null && dayId === null) return;
    const day = flying?.days.find(({ id }) => id === dayId);
    if (dayId !== null && flying === undefined) return;
    const mine = day?.handOut.filter(({ personId }) => personId === null || personId === me) ?? [];
    const ids = [...(packs?.split(',') ?? []), ...mine.map(({ packId }) => packId)] as PackId[];
    const begun = ids.reduce(withPack, draft);
    const [one] = mine;
    setDraft({ ...begun, dayId: day?.id ?? begun.dayId, craftId: begun.craftId || (one?.craftId ?? '') });
    setQuery({}, { replace: true });
  });
  useEffect(() => begin(), [packs, dayId, flying]);
}

function takingOf(
  { row, taken, asksCharge }: TakeOutLine,
  draft: TakeOutDraft,
  craft: CraftAnswer | null,
  dueBackAt: Instant | null,
) {
  return {
    holderId: (draft.holderId || null) as PersonId | null,
    fromId: taken.handedOver ? row.holderId : null,
    craftId: craft?.id ?? null,
    dayId: draft.dayId,
    dueBackAt,
    shortFlight: asksCharge && taken.short,
    counters: countersTyped(taken).counters,
  };
}

function celsius(text: string): number | null {
  const typed = parseCelsius(text);
  return typed.outcome === 'figure' ? typed.value : null;
}

function Line({
  line,
  craft,
  holder,
  register,
  flying,
  ambientC,
  refused,
  change,
  drop,
}: {
  line: TakeOutLine;
  craft: CraftAnswer | null;
  /** Who takes it. */
  holder: PersonId;
  register: RegisterAnswer;
  flying: FlyingAnswer | undefined;
  ambientC: number | null;
  refused: string | null;
  change: (part: Partial<PackTaken>) => void;
  drop: () => void;
}) {
  const { row, taken, checks, against, asksCharge, isReady } = line;
  const names = useNames();
  const me = usePerson().id;
  const type = register.types.find(({ id }) => id === row.typeId);
  const others = against.filter(({ why }) => why !== 'in-other-hands');
  const inHands = against.find(({ why }) => why === 'in-other-hands');
  const cautions = checks.filter(({ outcome }) => outcome === 'caution');
  return (
    <li className="ruled py-2" aria-label={row.tag}>
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <div className="flex flex-wrap items-baseline gap-x-3">
            <Link to={`/packs/${row.id}`} className={TAG}>
              {row.tag}
            </Link>
            <MayFlyMark mayFly={row.mayFly} charged={row.charged} percent={row.socPercent} />
            {craft && checks.length > 0 && <FitMark checks={checks} />}
          </div>
          {others.map((why) => (
            <p key={why.why} className="font-bold text-red">
              {notHandedOutSentence(why, names.person)}
            </p>
          ))}
          {cautions.map((check) => (
            <p key={check.check} className="text-sm text-amber">
              {fitSentence(check)}
            </p>
          ))}
          {inHands && (
            <p className="flex flex-wrap items-center gap-x-3 text-amber">
              <b>{notHandedOutSentence(inHands, names.person)}</b>
              <Button onClick={() => change({ handedOver: true })}>
                {holder === me ? 'They give it to me' : `It goes to ${names.person(holder)}`}
              </Button>
            </p>
          )}
          {taken.handedOver && row.holderId && (
            <p className="text-sm">Handed over by {names.person(row.holderId)}.</p>
          )}
          {against.length === 0 && asksCharge && (
            <Tick
              plain
              label={
                row.charged === 'unknown'
                  ? 'Nobody knows its charge: a short flight is meant'
                  : 'Charge it first, or tick: a short flight is meant'
              }
              checked={taken.short}
              onChange={(short) => change({ short })}
            />
          )}
          {isReady && craft && type && (
            <CardLine
              card={cardFor(row, type, craft, stepOf(flying, craft.id), register.rules.rules, ambientC)}
            />
          )}
          {against.length === 0 && row.smart && <OwnCounterFields typed={taken} onChange={change} />}
          {refused && (
            <p role="alert" className="font-bold text-red">
              {refused}
            </p>
          )}
          {others.some(({ why }) => why === 'measure-first' || why === 'look-first') && (
            <ButtonLink to={`/packs/${row.id}`} className="mt-1">
              Do that now
            </ButtonLink>
          )}
        </div>
        <button
          type="button"
          onClick={drop}
          aria-label={`Leave ${row.tag} here`}
          className="inline-flex size-11 shrink-0 items-center justify-center text-faint hover:text-ink"
        >
          <X size={20} aria-hidden="true" />
        </button>
      </div>
    </li>
  );
}

const FIT_LOOK = { ok: 'text-leaf', caution: 'text-amber', refused: 'text-red' } as const;
const FIT_WORDS = { ok: 'fits', caution: 'fits, with care', refused: 'does not fit' } as const;

function FitMark({ checks }: { checks: TakeOutLine['checks'] }) {
  const worst = worstOutcome(checks);
  return <b className={FIT_LOOK[worst]}>{FIT_WORDS[worst]}</b>;
}

/** When the timer rings and where to land, told both ways. */
function CardLine({ card }: { card: ReturnType<typeof cardFor> }) {
  const { timerMinutes, land, cold } = card;
  return (
    <p className="mt-0.5">
      {timerMinutes !== null && (
        <>
          Timer <b className="font-mono">{timerMinutes} min</b>,{' '}
        </>
      )}
      land at <b className="font-mono">{volts(land.loadedMv)} V</b> a cell in the air
      {land.restedMv !== null && (
        <>
          , <b className="font-mono">{volts(toHundredth(land.restedMv))} V</b> rested
        </>
      )}
      .{cold && <b className="text-amber"> It is cold: warm the pack; timer and volts are set for it.</b>}
    </p>
  );
}

/** What hands do at this moment, short. */
function Reminders() {
  return (
    <ul className="mt-4 list-disc pl-5 text-sm text-faint">
      <li>Push the plug home until every contact meets. Strap on.</li>
      <li>The lowest cell decides, not the pack’s volts. Gently when low.</li>
      <li>After landing unplug at once: hold the plug, not the wires.</li>
    </ul>
  );
}

/** A learned step is not known to the millivolt. */
function toHundredth(mv: number): number {
  return Math.round(mv / 10) * 10;
}
