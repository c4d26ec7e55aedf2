import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { FlyingDayAnswer, PackRow } from '../../contract';
import { handOut, notHandedOut } from '../../core/flying';
import type { HandOut } from '../../core/flying';
import { DAY_MS } from '../../core/measure';
import type { CraftId, PackId, PersonId } from '../../core/measure';
import { notHandedOutSentence, plural, whenWords } from '../../core/wording';
import { FailedRequest, ask } from '../app/api';
import { useReader } from '../app/clock';
import { useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { KEYS, putData, queryClient, useFlying, useRegister } from '../app/queries';
import { packFits } from '../domain/craft';
import { dayWants } from '../domain/flyingDays/words';
import { PackPicker } from '../domain/PackPicker';
import { useMay } from '../domain/Person';
import { useNames } from '../domain/useNames';
import { usePackRows } from '../domain/waitingRows';
import { Button, ButtonLink } from '../kit/Button';
import { Empty, Loading, Notice } from '../kit/Message';
import { Select, SelectOption } from '../kit/Select';
import { VerdictShape } from '../kit/VerdictMark';
import type { Shown } from './shown';
import { TAG } from '../kit/press';

type Line = FlyingDayAnswer['handOut'][number];

/** What is taken along on one flying day: proposed with its reasons, changed by hand, settled. */
export default function HandOutPage() {
  const { id } = useParams();
  const flying = useFlying();
  const register = useRegister();
  const rows = usePackRows();
  if (flying.isLoadingError) return <Failure error={flying.error} retry={() => void flying.refetch()} />;
  if (register.isLoadingError)
    return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (rows.isLoadingError) return <Failure error={rows.error} retry={() => void rows.refetch()} />;
  if (flying.isPending || register.isPending || rows.isPending) return <Loading what="the flying day" />;
  const day = flying.data.days.find((one) => one.id === id);
  if (!day)
    return (
      <Empty title="There is no such flying day.">It may be over. The days to come are under Flying.</Empty>
    );
  return <Day key={day.version} day={day} flying={flying.data} register={register.data} rows={rows.data} />;
}

function Day({ day, register, rows }: Shown & { day: FlyingDayAnswer }) {
  const reader = useReader();
  const names = useNames();
  const maySettle = useMay('flying-day.hand-out');
  const mayTake = useMay('record.taken-out');
  const proposed = propose(day, { register, rows }, reader.now);
  const kept = day.handOut.length > 0 ? day.handOut : null;
  const [lines, setLines, clear] = useDraft<readonly Line[]>(
    `hand-out.${day.id}.${day.version}`,
    kept ?? proposed.lines,
  );
  const [problems, setProblems] = useState<readonly string[]>([]);
  const change = (next: readonly Line[]) => {
    setProblems([]);
    setLines(next);
  };
  const changeLine = (packId: PackId, part: Partial<Line>) =>
    change(lines.map((line) => (line.packId === packId ? { ...line, ...part } : line)));
  const settle = async () => {
    try {
      const body = { version: day.version, lines };
      const settled = await ask('PUT /flying-days/:id/hand-out', { params: { id: day.id }, body });
      clear();
      putData<Shown['flying']>(KEYS.flying, (known) => ({
        ...known,
        days: known.days.map((one) => (one.id === settled.id ? settled : one)),
      }));
      void queryClient.invalidateQueries({ queryKey: KEYS.charging });
      say('Settled. The plan of the evening charges these packs.');
    } catch (error) {
      if (!(error instanceof FailedRequest)) throw error;
      setProblems(error.fields.length > 0 ? error.fields.map(({ message }) => message) : [error.says]);
      if (error.code === 'changed-meanwhile') void queryClient.invalidateQueries({ queryKey: KEYS.flying });
    }
  };
  const isChanged = JSON.stringify(lines) !== JSON.stringify(kept ?? []);
  return (
    <>
      <title>Hand-out · Malle</title>
      <Link
        to="/flying/days"
        className="inline-flex min-h-11 items-center text-accent underline md:min-h-8 print:hidden"
      >
        All flying days
      </Link>
      <h1>
        {whenWords(day.at, reader)} <span className="font-normal">{day.place}</span>
      </h1>
      <p className="text-faint">{dayWants(day, register)}</p>
      {day.personIds.length > 0 && <p>{day.personIds.map((id) => names.person(id)).join(', ')}</p>}
      {day.cancelled && <Notice title="This day is cancelled. No storage clock begins anew by it." />}
      <p className="my-3 max-w-prose print:hidden">
        {kept
          ? 'Settled. What is changed here counts once it is settled again.'
          : 'Proposed: the least worn and longest rested first, charged ones before others, packs on caution to the trainer only, a spare for each line.'}
      </p>
      {proposed.short.map(({ want, missing }) => (
        <p key={`${want.typeId} ${want.craftId}`} className="font-bold text-amber">
          {plural(missing, 'pack')} of {register.types.find(({ id }) => id === want.typeId)?.name} missing.
        </p>
      ))}
      <ul className="mt-3 border-t-2 border-ink" aria-label="Packs to take along">
        {lines.map((line) => (
          <LineRow
            key={line.packId}
            line={line}
            row={rows.find(({ id }) => id === line.packId)}
            shown={{ register, rows }}
            people={day.personIds}
            change={(part) => changeLine(line.packId, part)}
            drop={() => change(lines.filter(({ packId }) => packId !== line.packId))}
            mayChange={maySettle && !day.cancelled}
          />
        ))}
      </ul>
      {lines.length === 0 && <p className="py-2 text-faint">No pack yet.</p>}
      {maySettle && !day.cancelled && (
        <div className="mt-4 grid max-w-xl gap-3 print:hidden">
          <PackPicker
            label="Add a pack by hand"
            listed={false}
            ids={lines.map(({ packId }) => packId)}
            onChange={(ids) => change(withAdded(lines, ids, day, rows))}
          />
          {problems.length > 0 && (
            <Notice title="This cannot be settled.">
              {problems.map((problem) => (
                <p key={problem}>{problem}</p>
              ))}
            </Notice>
          )}
          <div className="flex flex-wrap gap-3">
            <Button weight="main" disabled={!isChanged} onClick={() => void settle()}>
              Settle it
            </Button>
            <Button onClick={() => change(proposed.lines)}>Propose anew</Button>
          </div>
        </div>
      )}
      <div className="mt-4 flex flex-wrap gap-3 print:hidden">
        {mayTake && kept && !day.cancelled && (
          <ButtonLink to={`/flying/take-out?day=${day.id}`}>Take them out</ButtonLink>
        )}
        {lines.length > 0 && <Button onClick={() => window.print()}>Print the list</Button>}
      </div>
    </>
  );
}

function propose(
  day: FlyingDayAnswer,
  { register, rows }: Pick<Shown, 'register' | 'rows'>,
  now: number,
): { lines: readonly Line[]; short: HandOut['short'] } {
  const wants = day.wants.map(({ typeId, packs, craftId }) => ({ typeId, packs, craftId: craftId ?? null }));
  const craftOf = (craftId: CraftId) => register.craft.find(({ id }) => id === craftId);
  const fitOf = (pack: { readonly id: PackId }, craftId: CraftId) => {
    const row = rows.find(({ id }) => id === pack.id);
    const craft = craftOf(craftId);
    return row && craft ? packFits(row, craft, register) : [];
  };
  const { lines, short } = handOut(wants, rows, fitOf, (id) => craftOf(id)?.facts.trainer ?? false, now);
  return { lines: lines.map((line) => ({ ...line, personId: null, byHand: false })), short };
}

/** Packs added by hand, on the craft that the day flies packs of their type on. */
function withAdded(
  lines: readonly Line[],
  ids: readonly PackId[],
  day: FlyingDayAnswer,
  rows: readonly PackRow[],
): readonly Line[] {
  const added = ids.filter((id) => !lines.some(({ packId }) => packId === id));
  return [
    ...lines,
    ...added.map((packId) => {
      const typeId = rows.find(({ id }) => id === packId)?.typeId;
      const craftId = day.wants.find((want) => want.typeId === typeId)?.craftId ?? null;
      return { packId, craftId, personId: null, spare: false, byHand: true };
    }),
  ];
}

function LineRow({
  line,
  row,
  shown: { register },
  people,
  change,
  drop,
  mayChange,
}: {
  line: Line;
  row: PackRow | undefined;
  shown: Pick<Shown, 'register' | 'rows'>;
  people: readonly PersonId[];
  change: (part: Partial<Line>) => void;
  drop: () => void;
  mayChange: boolean;
}) {
  const reader = useReader();
  const names = useNames();
  if (!row) return null;
  const craft = register.craft.find(({ id }) => id === line.craftId);
  const against = notHandedOut(row, craft ? packFits(row, craft, register) : [], line.personId);
  const rested = row.usedAt === null ? null : Math.floor((reader.now - row.usedAt) / DAY_MS);
  return (
    <li className="ruled flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5" aria-label={row.tag}>
      <VerdictShape verdict={row.verdict} charged={row.charged} />
      <Link to={`/packs/${row.id}`} className={`w-16 ${TAG}`}>
        {row.tag}
      </Link>
      <span className="min-w-0 flex-1 basis-72 text-sm">
        {craft && <b>{craft.name}</b>} {line.spare && <b className="text-faint">spare</b>}{' '}
        {Math.round(row.cycles)} cycles
        {rested !== null && (rested === 0 ? ', used today' : `, rested ${plural(rested, 'day')}`)},{' '}
        {row.charged === 'charged' ? <b className="text-leaf">charged</b> : 'to be charged'}
        {line.byHand && <span className="text-faint">, chosen by hand</span>}
        {against.map((why) => (
          <span key={why.why} className="block font-bold text-red">
            {notHandedOutSentence(why, names.person)}
          </span>
        ))}
      </span>
      {mayChange && people.length > 0 && (
        <span className="w-44 print:hidden">
          <Select
            aria-label={`Who takes ${row.tag}`}
            value={line.personId ?? ''}
            onChange={(personId) => change({ personId: (personId || null) as PersonId | null })}
          >
            <SelectOption value="">whoever needs it</SelectOption>
            {people.map((id) => (
              <SelectOption key={id} value={id}>
                {names.person(id)}
              </SelectOption>
            ))}
          </Select>
        </span>
      )}
      {line.personId && (
        <span className={`text-sm ${mayChange ? 'hidden print:inline' : ''}`}>
          {names.person(line.personId)}
        </span>
      )}
      {mayChange && (
        <Button weight="quiet" onClick={drop} className="print:hidden">
          Leave it here
        </Button>
      )}
    </li>
  );
}
