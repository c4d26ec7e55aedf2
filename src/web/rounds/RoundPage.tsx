import { useCallback, useEffect, useMemo, useRef, useState, useId } from 'react';
import { Link } from 'react-router';
import type { PackRow, PlaceAnswer, RoundDetails } from '../../contract';
import { isOutOfUse } from '../../core/assess';
import type { PackId } from '../../core/measure';
import { ROUND_OCCASION, stopsLooking } from '../../core/rounds';
import { tagKey } from '../../core/pack';
import { plural, ROUND_WORDS } from '../../core/wording';
import { currentTime, useReader } from '../app/clock';
import { readDraft, saveDraft, useDraft } from '../app/drafts';
import { Failure } from '../app/Failure';
import { say } from '../app/notices';
import { refreshHistories, useRoundHistories } from '../domain/histories';
import { useMay, usePerson } from '../domain/Person';
import { useOwnItems } from '../app/outbox';
import { packOfTag } from '../app/scan';
import { useScanTarget } from '../app/scanTarget';
import { Button, ButtonLink } from '../kit/Button';
import { Empty, Loading } from '../kit/Message';
import { ProgressBar } from '../kit/ProgressBar';
import { judgeRow } from './judge';
import { BenchTemperature, LoadFields } from './LoadFields';
import { neighbour, nextOpen, NOTHING_TYPED, putAway, roundDraftAfter, rowOf, usualInto } from './roundDraft';
import type { PutInto, RoundAction, RoundDraft } from './roundDraft';
import { RoundGate } from './RoundGate';
import type { OpenRound } from './RoundGate';
import { RoundRowLine } from './RoundRowLine';
import { seenBodies } from './rowDraft';
import type { RowDraft } from './rowDraft';
import { RowEntry } from './RowEntry';
import { SeasonEntry } from './SeasonEntry';
import { useRowViews } from './useRound';
import { useLastInstrument } from './useJudging';
import { useRowKeeping } from './useRowKeeping';
import { savedWithMeter } from '../domain/meter/useMeter';
import { Select, SelectOption } from '../kit/Select';

/** A round: packs through the hands one after the other, whoever holds the meter. */
export default function RoundPage() {
  return <RoundGate>{(open) => <WorkedRound key={open.round.id} {...open} />}</RoundGate>;
}

/** What a scan led to that is no row. */
interface Scanned {
  readonly tag: string;
  /** Null for a tag nobody carries. */
  readonly packId: PackId | null;
  readonly added: boolean;
}

function WorkedRound({ round, packs, register }: OpenRound) {
  const key = `round.${round.id}`;
  const [draft] = useDraft<RoundDraft>(key, NOTHING_TYPED);
  const rows = useRowViews(round, packs, register, draft.scannedIn);
  const histories = useRoundHistories(
    round.id,
    useMemo(
      () => [...round.rows.map(({ packId }) => packId), ...draft.scannedIn],
      [round.rows, draft.scannedIn],
    ),
  );
  const keep = useRowKeeping(round);
  const instrument = useLastInstrument();
  const { rules } = register.rules;
  const occasion = round.checklist ? ROUND_OCCASION[round.kind] : null;
  const into = draft.into ?? usualInto(round);
  const mayMove = useMay('record.moved');
  const person = usePerson();
  const outgoing = useOwnItems();
  const mayWork = useMay('round.work') && round.closedAt === null;
  const [problems, setProblems] = useState<Readonly<Record<PackId, string>>>({});
  const [scanned, setScanned] = useState<Scanned | null>(null);
  const beforeScan = useRef<{ packId: PackId; row: RowDraft | null } | null>(null);

  const typing = () => readDraft<RoundDraft>(key) ?? NOTHING_TYPED;
  const dispatch = (action: RoundAction) => saveDraft(key, roundDraftAfter(typing(), action));
  const secureLast = useRef<() => void>(() => undefined);
  const goTo = useCallback(
    (packId: PackId) => {
      secureLast.current();
      const now = readDraft<RoundDraft>(key) ?? NOTHING_TYPED;
      saveDraft(key, roundDraftAfter(now, { type: 'went to', packId }));
    },
    [key],
  );
  const wanted = rows.find(({ packId }) => packId === draft.current) ?? null;
  const current = wanted?.packId ?? nextOpen(rows, null);

  useRecordsOf(current, round.id, histories.data);

  // Come back to, a row that was ended meanwhile is not the one to go on with.
  useEffect(() => {
    const { current: at, rows: typed } = typing();
    const row = rows.find(({ packId }) => packId === at);
    if (row?.outcome && !typed[row.packId]) dispatch({ type: 'went to', packId: null });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the round is opened
  }, []);

  const keepRow = async (
    packId: PackId,
    ...row: [Parameters<typeof keep>[1], Parameters<typeof keep>[2], string | null]
  ) => {
    setProblems(({ [packId]: _solved, ...rest }) => rest);
    // Handed in, it is safe in the outbox; the row is free for what comes next, and gets its typing back if refused.
    const taken = rowOf(typing(), packId);
    const pack = packs.find(({ id }) => id === packId);
    const [bodies, outcome, reason] = row;
    const known = histories.data?.get(packId);
    const verdict = known
      ? judgeRow(packId, known, outgoing, bodies, person.id, rules, currentTime()).assessment.verdict
      : (pack?.verdict ?? 'hold');
    const moved = pack && outcome === 'done' && mayMove ? putAway(into, pack, verdict) : [];
    dispatch({ type: 'handed in', packId });
    if (pack && taken.text.trim() !== '') savedWithMeter(pack.tag);
    const problem = await keep(packId, [...bodies, ...moved], outcome, reason);
    if (problem === null) return;
    dispatch({ type: 'given back', packId, row: taken });
    setProblems((others) => ({ ...others, [packId]: problem }));
  };

  /** A hand that leaves a row in which it found what holds the pack has said so: that is kept, whether Enter was pressed or not. */
  const secure = () => {
    const row = rows.find(({ packId }) => packId === current);
    if (!row?.type || !occasion || !mayWork) return;
    const typed = rowOf(typing(), row.packId);
    if (!stopsLooking(rules.checklists[occasion], typed.marks)) return;
    const bodies = seenBodies(round, typed, rules.checklists, row.type, instrument);
    if (bodies.length > 0) void keepRow(row.packId, bodies, 'stopped', null);
  };
  useEffect(() => {
    secureLast.current = secure;
  });
  useEffect(() => () => secureLast.current(), []);

  const onScan = (text: string): boolean => {
    if (!mayWork) return false;
    // The letters of a tag were taken for answers before its Enter told that they were a scan.
    const before = beforeScan.current;
    if (before) dispatch({ type: 'scanned over', ...before });
    const pack = packOfTag(text, packs);
    const place = pack
      ? undefined
      : register.places.find(({ code }) => code && tagKey(code) === tagKey(text));
    if (place) {
      dispatch({ type: 'puts into', into: place.id });
      setScanned(null);
      say(`Packs go into ${place.name} from now on.`);
      return true;
    }
    if (!pack) {
      setScanned({ tag: text, packId: null, added: false });
      return true;
    }
    if (pack.id !== current) secure();
    const known = rows.some(({ packId }) => packId === pack.id);
    setScanned({ tag: pack.tag, packId: pack.id, added: !known });
    dispatch({ type: known ? 'went to' : 'scanned in', packId: pack.id });
    return true;
  };
  const scanMayBegin = () => {
    beforeScan.current = current && { packId: current, row: typing().rows[current] ?? null };
  };
  useScanTarget(onScan, scanMayBegin);
  // One may be under way since before this page was here.
  useEffect(() => {
    scanMayBegin();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the round is opened
  }, []);

  const leave = (packId: PackId) => {
    setScanned(null);
    dispatch({ type: 'went to', packId: nextOpen(rows, packId) ?? packId });
  };
  const worked = rows.filter(({ outcome }) => outcome !== null).length;
  const waiting = rows.filter(({ outgoing }) => outgoing?.state === 'waiting').length;
  return (
    <>
      <title>{`${round.title} · Malle`}</title>
      <RoundHead round={round} worked={worked} total={rows.length} waiting={waiting} />
      {mayWork && mayMove && (round.kind === 'put-away' || draft.into) && (
        <PutIntoField
          places={register.places}
          into={into}
          onChange={(chosen) => dispatch({ type: 'puts into', into: chosen })}
        />
      )}
      {scanned && (
        <ScanNotice
          scanned={scanned}
          pack={packs.find(({ id }) => id === scanned.packId) ?? null}
          onDone={() => setScanned(null)}
        />
      )}
      {rows.length === 0 && (
        <Empty title="No pack in this round yet.">Scan one: it comes in as a row, and its field opens.</Empty>
      )}
      <ol className="border-t-2 border-ink">
        {rows.map((row) => {
          const isCurrent = row.packId === current && mayWork;
          const known = histories.data?.get(row.packId);
          const problem = problems[row.packId] ?? null;
          if (!isCurrent || !row.pack || !row.type)
            return (
              <RoundRowLine
                key={row.packId}
                row={row}
                problem={problem}
                typed={draft.rows[row.packId] !== undefined}
                onOpen={mayWork ? goTo : null}
              />
            );
          if (!known)
            return (
              <li key={row.packId} className="ruled py-2">
                {histories.isLoadingError ? (
                  <Failure error={histories.error} retry={() => void histories.refetch()} />
                ) : (
                  <Loading what={`the records of ${row.pack.tag}`} />
                )}
              </li>
            );
          const Entry = round.kind === 'season-start' && round.checklist ? SeasonEntry : RowEntry;
          return (
            <Entry
              key={row.packId}
              round={round}
              row={row}
              pack={row.pack}
              type={row.type}
              known={known}
              draft={rowOf(draft, row.packId)}
              problem={problem}
              dispatch={dispatch}
              onMove={(by) => {
                secure();
                dispatch({ type: 'went to', packId: neighbour(rows, row.packId, by) });
              }}
              onKeep={(bodies, outcome, reason) => {
                void keepRow(row.packId, bodies, outcome, reason);
                leave(row.packId);
              }}
              onStay={(bodies) => void keepRow(row.packId, bodies, null, null)}
            />
          );
        })}
      </ol>
      {worked === rows.length && rows.length > 0 && (
        <p className="mt-4 border-y-2 border-ink py-3">
          <b className="text-lg">Every row is worked.</b>{' '}
          <ButtonLink to="summary" weight="main" className="ml-3">
            To the summary
          </ButtonLink>
        </p>
      )}
    </>
  );
}

function RoundHead({
  round,
  worked,
  total,
  waiting,
}: {
  round: RoundDetails;
  worked: number;
  total: number;
  waiting: number;
}) {
  const reader = useReader();
  const flies = round.fliesAt !== null && round.fliesAt > reader.now;
  return (
    <div className="mb-3 grid gap-x-8 gap-y-1 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div>
        <p className="text-sm text-faint">
          <Link to="/rounds" className="inline-block min-h-6 text-accent underline">
            Rounds
          </Link>
          {' · '}
          {ROUND_WORDS[round.kind].name}
          {round.checklist ? ', inspected and read' : ', read'}
          {round.closedAt !== null && ' · closed'}
        </p>
        <h1>{round.title}</h1>
        {flies && <p className="text-sm">Packs that fly within their allowance stay charged.</p>}
      </div>
      <div>
        <ProgressBar label="Worked" done={worked} of={total} unit="packs" />
        <p className="flex flex-wrap items-center justify-between gap-x-3 text-sm">
          <span role="status" className={waiting > 0 ? 'font-bold text-amber' : 'text-faint'}>
            {waiting > 0 ? `${plural(waiting, 'row')} waiting to be sent` : 'all sent'}
          </span>
          <span className="flex gap-2">
            <ButtonLink to="sheet" weight="quiet">
              Bench sheet
            </ButtonLink>
            <ButtonLink to="summary">Summary</ButtonLink>
          </span>
        </p>
      </div>
      {round.kind === 'receipt' && <BenchTemperature />}
      {round.kind === 'put-away' && (
        <div className="max-md:hidden">
          <LoadFields />
        </div>
      )}
    </div>
  );
}

/** Where a hand puts the packs it has worked. Scanning a place chooses it. */
function PutIntoField({
  places,
  into,
  onChange,
}: {
  places: readonly PlaceAnswer[];
  into: PutInto;
  onChange: (into: PutInto) => void;
}) {
  const id = useId();
  return (
    <p className="mb-2 flex flex-wrap items-center gap-2 text-sm text-faint">
      <label htmlFor={id}>A pack that is done goes</label>
      <span className="w-72 max-w-full">
        <Select id={id} value={into} onChange={(value) => onChange(value as PutInto)}>
          <SelectOption value="home">where it belongs</SelectOption>
          {places.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              into {name}
            </SelectOption>
          ))}
          <SelectOption value="stays">nowhere: it stays where it is</SelectOption>
        </Select>
      </span>
    </p>
  );
}

/** What a scan led to, where that needs saying. It follows what becomes of the pack while it is shown. */
function ScanNotice({
  scanned: { tag, added },
  pack,
  onDone,
}: {
  scanned: Scanned;
  pack: PackRow | null;
  onDone: () => void;
}) {
  const mayReceive = useMay('pack.create');
  if (pack && !isOutOfUse(pack.verdict))
    return added ? (
      <p role="status" className="my-2 bg-wash-amber px-3 py-1.5">
        <b>{tag}</b> was not in this round; it is now.
      </p>
    ) : null;
  return (
    <div
      role="alert"
      className="my-2 flex flex-wrap items-center gap-3 border-l-4 border-red bg-wash-red px-3 py-2"
    >
      {pack ? (
        <span className="text-lg font-bold">
          {tag} is out of use. Do not charge it, do not fly it, set it apart.
        </span>
      ) : (
        <>
          <span>
            <b>No pack carries the tag {tag}.</b> Scan again if a character may be wrong.
          </span>
          {mayReceive && (
            <ButtonLink to="/packs/receive" state={{ tag }}>
              Receive {tag}
            </ButtonLink>
          )}
        </>
      )}
      <Button weight="quiet" onClick={onDone}>
        Go on
      </Button>
    </div>
  );
}

/** So often a pack's records are asked for while they are not here. */
const ASK_AGAIN_MS = 3_000;

/** Fetches the records of a row whose pack joined the round after it was opened here, as soon as that can be. */
function useRecordsOf(
  packId: PackId | null,
  roundId: RoundDetails['id'],
  known: ReadonlyMap<PackId, unknown> | undefined,
): void {
  const missing = packId !== null && known !== undefined && !known.has(packId);
  useEffect(() => {
    if (!missing) return undefined;
    const fetchThem = () => void refreshHistories([packId], roundId).catch(() => undefined);
    fetchThem();
    const again = setInterval(fetchThem, ASK_AGAIN_MS);
    return () => clearInterval(again);
  }, [missing, packId, roundId]);
}
