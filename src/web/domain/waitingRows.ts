import { useEffect, useMemo, useState } from 'react';
import type { LaterRow, PackDetails, PackRow, RegisterAnswer, TodayAnswer, TodayItem } from '../../contract';
import { VERDICTS } from '../../core/assess';
import { HOUR_MS } from '../../core/measure';
import type { Instant, PackId } from '../../core/measure';
import { currentTime, useReader } from '../app/clock';
import { useLive } from '../app/live';
import { readOfflinePack } from '../app/offlinePacks';
import { useOwnItems } from '../app/outbox';
import type { Outgoing } from '../app/outbox';
import { KEYS, queryClient, useLaterRows, useRegister, useStoredRows, useStoredToday } from '../app/queries';
import { onceAnswered } from '../app/settled';
import type { judgedHere, Said } from './judgedHere';
import { draftsFor } from './waitingDrafts';

/**
 * What lists show while something waits on this device to be sent: what was seen here outranks every answer of the register until it
 * has arrived there. A pack whose ledger is here is judged with what waits; of another one it is only certain that it is held.
 */
export function rowsWithWaiting<Row extends PackRow>(
  rows: readonly Row[],
  outgoing: readonly Outgoing[],
  ledgers: Ledgers,
  now: Instant,
): readonly Row[] {
  const waiting = outgoing.filter(({ state }) => state === 'waiting');
  if (waiting.length === 0) return rows;
  const named = new Set(waiting.flatMap(packsOf));
  return rows.map((row) => (named.has(row.id) ? { ...row, ...saidHere(row, waiting, ledgers, now) } : row));
}

/** What this device knows to judge by. */
export interface Ledgers {
  readonly pack: (id: PackId) => PackDetails | undefined;
  readonly register: RegisterAnswer | undefined;
  /** Judges with them. It is fetched when something waits: most pages that list packs judge none. Null until it is here. */
  readonly judge: typeof judgedHere | null;
}

function saidHere(
  row: PackRow,
  waiting: readonly Outgoing[],
  { pack: ledgerOf, register, judge }: Ledgers,
  now: Instant,
): Partial<Said> {
  const pack = ledgerOf(row.id);
  const type = register?.types.find(({ id }) => id === row.typeId);
  // A ledger looked at earlier may be older than the row: judged by it, a pack held since would seem fit.
  if (!pack || pack.records.length < row.seq || !type || !register || !judge)
    return { ...holdsOf(row, waiting), ...custodyOf(row, waiting, register) };
  return judge(pack, type, register, waiting, now);
}

/** Who has it by what waits here, of a pack whose ledger is not on this device. */
function custodyOf(
  row: PackRow,
  waiting: readonly Outgoing[],
  register: RegisterAnswer | undefined,
): Partial<Said> {
  const outHours = register?.rules.rules.flight.outHours ?? 24;
  let said: Partial<Said> = {};
  for (const item of waiting)
    for (const draft of draftsFor(item, row.id)) {
      if (draft.kind === 'returned')
        said = {
          holderId: null,
          out: null,
          placeId: draft.payload.placeId,
          slot: draft.payload.slot ?? null,
        };
      if (draft.kind !== 'taken-out') continue;
      const { craftId, dueBackAt } = draft.payload;
      const holder = draft.payload.holderId ?? item.by;
      said = {
        ...{ holderId: holder, placeId: null, slot: null },
        out: {
          ...{ holder, since: draft.at, recordId: draft.id, dueBackAt, craftId, flights: 0, alsoWith: null },
          wantedBackAt: dueBackAt ?? draft.at + outHours * HOUR_MS,
        },
      };
    }
  return said;
}

/** Held for what waits, whatever its ledger says: an incident, a fault found, a hold by hand. */
function holdsOf(row: PackRow, waiting: readonly Outgoing[]): Partial<Said> {
  const holds = waiting
    .flatMap((item) => draftsFor(item, row.id))
    .some(
      (draft) =>
        (draft.kind === 'incident' && draft.payload.holds) ||
        (draft.kind === 'decision' && draft.payload.what.to !== 'release') ||
        (draft.kind === 'inspection' &&
          draft.payload.items.some(({ answer, failMeans }) => answer === 'fail' && failMeans === 'hold')),
    );
  if (!holds || VERDICTS.indexOf(row.verdict) >= VERDICTS.indexOf('hold')) return {};
  return { verdict: 'hold', mayFly: 'no', next: null };
}

function packsOf({ packId, incident }: Outgoing): readonly PackId[] {
  return packId ? [packId] : (incident?.packRecords.map((named) => named.packId) ?? []);
}

/** What is on the page already; without a network, the packs that something waits for as well, as they are kept on this device. */
function useLedgers(outgoing: readonly Outgoing[]): Ledgers {
  const register = useRegister().data;
  const isLost = useLive(({ state }) => state === 'lost');
  const [unpacked, setUnpacked] = useState(0);
  useEffect(() => {
    if (!isLost) return undefined;
    let isShown = true;
    const waiting = outgoing.filter(({ state }) => state === 'waiting').flatMap(packsOf);
    void Promise.all([...new Set(waiting)].map(putKeptPack)).then((put) => {
      if (isShown && put.some(Boolean)) setUnpacked((times) => times + 1);
    });
    return () => {
      isShown = false;
    };
  }, [isLost, outgoing]);
  const judge = useJudge(outgoing);
  return useMemo(
    () => ({ register, judge, pack: (id) => queryClient.getQueryData<PackDetails>(KEYS.pack(id)) }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what was unpacked lies in the query client, which does not tell of it
    [register, judge, unpacked],
  );
}

let judgeHere: typeof judgedHere | null = null;

/** Fetches what judges packs here, so that it is at hand when the network is gone. */
export async function fetchJudge(): Promise<void> {
  judgeHere ??= (await import('./judgedHere')).judgedHere;
}

function useJudge(outgoing: readonly Outgoing[]): typeof judgedHere | null {
  const [judge, setJudge] = useState(() => judgeHere);
  const isWanted = judge === null && outgoing.some(({ state }) => state === 'waiting');
  useEffect(() => {
    // Without it what waits holds its pack all the same.
    if (isWanted)
      void fetchJudge().then(
        () => setJudge(() => judgeHere),
        () => undefined,
      );
  }, [isWanted]);
  return judge ?? judgeHere;
}

/** Puts a pack that this page does not know where it looks for it. Answers whether there was one. */
async function putKeptPack(id: PackId): Promise<boolean> {
  const queryKey = KEYS.pack(id);
  if (queryClient.getQueryData(queryKey)) return false;
  const kept = await readOfflinePack(id).catch(() => null);
  if (!kept) return false;
  queryClient.setQueryData<PackDetails>(queryKey, (known) => known ?? kept);
  // It may have gone on elsewhere since: a page about it asks anew.
  await queryClient.invalidateQueries({ queryKey, refetchType: 'none' });
  return true;
}

/**
 * The rows with what time alone has made of them since the register told them. Rows of a pack that was written to since, or had its
 * facts changed, stay as told.
 */
export function rowsAt(rows: readonly PackRow[], passed: readonly LaterRow[]): readonly PackRow[] {
  if (passed.length === 0) return rows;
  const now = new Map(passed.map(({ row }) => [row.id, row]));
  return rows.map((row) => {
    const later = now.get(row.id);
    return later?.seq === row.seq && later.version === row.version ? later : row;
  });
}

/** What has come to pass of what was told ahead. */
function usePassed(): readonly LaterRow[] {
  const { data } = useLaterRows();
  const { now } = useReader();
  const ahead = useMemo(() => [...(data ?? [])].sort((a, b) => a.from - b.from), [data]);
  const count = ahead.filter(({ from }) => from <= now).length;
  return useMemo(() => ahead.slice(0, count), [ahead, count]);
}

/**
 * All packs as lists show them at this moment, with what waits on this device.
 * @param isPatient the page shows something without them: they are asked for, or read from the device, after that
 */
export function usePackRows({ isPatient = false } = {}) {
  const [isAnswered, setAnswered] = useState(false);
  useEffect(() => onceAnswered(() => setAnswered(true)), []);
  const rows = useStoredRows({ isPatient, isPutOff: isPatient && !isAnswered });
  const outgoing = useOwnItems();
  const ledgers = useLedgers(outgoing);
  const passed = usePassed();
  const told = rows.data;
  const data = useMemo(
    () => told && rowsWithWaiting(rowsAt(told, passed), outgoing, ledgers, currentTime()),
    [told, passed, outgoing, ledgers],
  );
  return { ...rows, data } as typeof rows;
}

/** Today, with what waits on this device. */
export function useToday() {
  const today = useStoredToday();
  const outgoing = useOwnItems();
  const ledgers = useLedgers(outgoing);
  const told = today.data;
  const data = useMemo((): TodayAnswer | undefined => {
    if (!told) return told;
    const seen = (items: readonly TodayItem[]) => rowsWithWaiting(items, outgoing, ledgers, currentTime());
    return {
      ...told,
      outOfBand: seen(told.outOfBand),
      held: seen(told.held),
      toMeasure: seen(told.toMeasure),
      leaving: seen(told.leaving),
    };
  }, [told, outgoing, ledgers]);
  return { ...today, data } as typeof today;
}
