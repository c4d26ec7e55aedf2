import { QueryClient, queryOptions, useQuery } from '@tanstack/react-query';
import type { QueryKey } from '@tanstack/react-query';
import type { PackDetails, PackRow, SessionAnswer } from '../../contract';
import type { ConsignmentId, IncidentId, JobId, PackId, RoundId } from '../../core/measure';
import { FailedRequest, ask, noAnswer, onSignedOut } from './api';
import { setClock } from './clock';
import { keepOfflineCopy, readOfflineCopy, useMayAsk } from './offlineCopy';
import { readOfflinePack } from './offlinePacks';
import { heardEpoch } from './epoch';
import { setOwner } from './owner';
import { endLeftSession } from './signOut';

/** Live messages say when something changed, so nothing is asked for again just because time passed. */
export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: Infinity,
      refetchOnWindowFocus: false,
      networkMode: 'always',
      retry: (failures, error) =>
        failures < 3 && error instanceof FailedRequest && error.mayPass && error.code !== 'signed-out',
    },
  },
});

export const KEYS = {
  session: ['session'] as const,
  register: ['register'] as const,
  packs: ['packs'] as const,
  pack: (id: PackId) => ['pack', id] as const,
  anyPack: ['pack'] as const,
  today: ['today'] as const,
  people: ['people'] as const,
  signIns: ['sign-ins'] as const,
  factors: ['factors'] as const,
  benchPass: ['bench-pass'] as const,
  sharedBenches: ['shared-benches'] as const,
  log: ['log'] as const,
  evidence: ['evidence'] as const,
  rules: ['rules'] as const,
  rounds: ['rounds'] as const,
  round: (id: RoundId) => ['round', id] as const,
  anyRound: ['round'] as const,
  calendar: ['calendar'] as const,
  imports: ['imports'] as const,
  keys: ['keys'] as const,
  incidents: ['incidents'] as const,
  incident: (id: IncidentId) => ['incidents', id] as const,
  charging: ['charging'] as const,
  devices: ['devices'] as const,
  curveOf: (id: JobId) => ['curves', id] as const,
  flying: ['flying'] as const,
  endOfLife: ['end-of-life'] as const,
  consignment: (id: ConsignmentId) => ['end-of-life', id] as const,
  histories: (id: RoundId) => ['histories', id] as const,
  anyHistories: ['histories'] as const,
  laterRows: ['later-rows'] as const,
};

/** Kept on this device, to be read where there is no network. */
const TOLD = [
  KEYS.register,
  KEYS.packs,
  KEYS.anyPack,
  KEYS.today,
  KEYS.rounds,
  KEYS.anyRound,
  KEYS.anyHistories,
  KEYS.incidents,
  KEYS.charging,
  KEYS.flying,
  KEYS.endOfLife,
  KEYS.rules,
  KEYS.laterRows,
].map(([kind]) => kind);

/** So long a page waits for the first answer before it opens on what it was last told. */
const PATIENCE_MS = 5_000;

onSignedOut(() => void queryClient.invalidateQueries({ queryKey: KEYS.session }));

export function useSession() {
  return useQuery({
    queryKey: KEYS.session,
    queryFn: async () => {
      const answer = await sessionOrOfflineCopy();
      setClock(answer);
      setOwner(answer.state === 'signed-in' ? answer.person.id : null);
      return answer;
    },
  });
}

/** Who is signed in; when the page opens and no answer comes, who was when there last was one. */
async function sessionOrOfflineCopy(): Promise<SessionAnswer> {
  await endLeftSession();
  const asked = ask('GET /session').then((answer) => {
    heardEpoch(answer.epoch);
    return answer;
  });
  if (queryClient.getQueryData(KEYS.session)) return asked;
  return orKept<SessionAnswer>(asked, () => readOfflineCopy(queryClient));
}

/** The register's answer; where none comes, or none in good time, what is kept on this device, if anything is. */
async function orKept<Answer>(asked: Promise<Answer>, kept: () => Promise<Answer | null>): Promise<Answer> {
  const missing = asked.then(() => false, noAnswer);
  const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(true), PATIENCE_MS));
  const told = (await Promise.race([missing, late])) ? await kept() : null;
  return told ?? asked;
}

/** Keeps what the register tells on this device from now on. */
export function keepOfflineCopies(): void {
  keepOfflineCopy(queryClient, KEYS.session[0], TOLD);
}

/** What a device asks for that is to work without a network, each with the key its answer is found under. */
export const QUERIES = {
  register: queryOptions({ queryKey: KEYS.register, queryFn: () => ask('GET /register') }),
  packs: queryOptions({ queryKey: KEYS.packs, queryFn: () => ask('GET /packs') }),
  laterRows: queryOptions({ queryKey: KEYS.laterRows, queryFn: () => ask('GET /offline-rows') }),
  today: queryOptions({
    queryKey: KEYS.today,
    queryFn: async () => {
      const answer = await ask('GET /today');
      setClock(answer);
      return answer;
    },
  }),
  flying: queryOptions({ queryKey: KEYS.flying, queryFn: () => ask('GET /flying') }),
  charging: queryOptions({ queryKey: KEYS.charging, queryFn: () => ask('GET /charging') }),
  incidents: queryOptions({ queryKey: KEYS.incidents, queryFn: () => ask('GET /incidents') }),
  rounds: queryOptions({ queryKey: KEYS.rounds, queryFn: () => ask('GET /rounds') }),
  round: (id: RoundId) =>
    queryOptions({ queryKey: KEYS.round(id), queryFn: () => ask('GET /rounds/:id', { params: { id } }) }),
  rules: queryOptions({ queryKey: KEYS.rules, queryFn: () => ask('GET /rules') }),
  endOfLife: queryOptions({ queryKey: KEYS.endOfLife, queryFn: () => ask('GET /end-of-life') }),
};

export function useRegister() {
  return useQuery(QUERIES.register);
}

export function useRulesHistory() {
  return useQuery(QUERIES.rules);
}

/** The packs as the register told them; lists ask `usePackRows` of the domain, which lays what waits here over them. */
export function useStoredRows({ isPatient = false, isPutOff = false } = {}) {
  const mayAsk = useMayAsk(KEYS.packs[0], isPatient);
  return useQuery({ ...QUERIES.packs, enabled: mayAsk && !isPutOff });
}

/** For whoever asks for several packs in full. */
export function packQuery(id: PackId) {
  return queryOptions({ queryKey: KEYS.pack(id), queryFn: () => packOrKept(id) });
}

/** What time alone makes of the packs, as far as that was fetched: it is kept, not asked for by a page. */
export function useLaterRows() {
  return useQuery({ ...QUERIES.laterRows, enabled: false });
}

export function usePack(id: PackId) {
  return useQuery(packQuery(id));
}

/** A pack in full; where there is no network, as it was last kept here. An answer that comes after all takes its place. */
async function packOrKept(id: PackId): Promise<PackDetails> {
  const asked = ask('GET /packs/:id', { params: { id } });
  // What the page knows already may be newer than what is kept.
  if (queryClient.getQueryData(KEYS.pack(id))) return asked;
  const answer = await orKept(asked, () => readOfflinePack(id).catch(() => null));
  asked
    .then((late) => {
      if (late !== answer)
        putData<PackDetails>(KEYS.pack(id), (shown) =>
          late.records.length < shown.records.length ? shown : late,
        );
    })
    .catch(() => undefined);
  return answer;
}

/** Today as the register told it. */
export function useStoredToday() {
  return useQuery(QUERIES.today);
}

export function useIncidents() {
  return useQuery(QUERIES.incidents);
}

export function useIncident(id: IncidentId) {
  return useQuery({
    queryKey: KEYS.incident(id),
    queryFn: () => ask('GET /incidents/:id', { params: { id } }),
  });
}

/** The bench: what a plan is made from, the plan that is kept, and what runs. */
export function useCharging() {
  return useQuery({ ...QUERIES.charging, enabled: useMayAsk(KEYS.charging[0]) });
}

/** What flies next, what each craft’s returns have shown, and the landings of late. */
export function useFlying() {
  return useQuery(QUERIES.flying);
}

export function useEndOfLife() {
  return useQuery({ ...QUERIES.endOfLife, enabled: useMayAsk(KEYS.endOfLife[0]) });
}

/**
 * Puts what is now known into what is on the page. A fetch under way began before that and may know less: it is made anew,
 * so that its answer takes nothing back.
 */
export function putData<Data extends object>(queryKey: QueryKey, newer: (known: Data) => Data): void {
  queryClient.setQueryData<Data>(queryKey, (known) => known && newer(known));
  if (queryClient.isFetching({ queryKey, exact: true }) > 0)
    void queryClient.invalidateQueries({ queryKey, exact: true });
}

/** Fetches newer rows for the list of packs that is already here, without fetching all of it. */
export async function refreshRows(ids: readonly PackId[]): Promise<void> {
  if (ids.length === 0 || !queryClient.getQueryData(KEYS.packs)) return;
  putRows(await ask('GET /packs', { query: { ids: ids.join(',') } }));
}

/** Puts newer rows into the list of packs, if that is here. */
export function putRows(fresh: readonly PackRow[]): void {
  if (fresh.length > 0) putData<PackRow[]>(KEYS.packs, (rows) => mergedRows(rows, fresh));
}

/** The rows with newer ones in place of older; packs not seen before go to the end. */
export function mergedRows(rows: readonly PackRow[], fresh: readonly PackRow[]): PackRow[] {
  const newer = new Map(fresh.map((row) => [row.id, row]));
  const merged = rows.map((row) => {
    const other = newer.get(row.id);
    newer.delete(row.id);
    return other && other.seq >= row.seq ? other : row;
  });
  return [...merged, ...newer.values()];
}
