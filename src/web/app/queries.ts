import { QueryClient, useQuery } from '@tanstack/react-query';
import type { QueryKey } from '@tanstack/react-query';
import type { PackRow, SessionAnswer } from '../../contract';
import type { ConsignmentId, IncidentId, PackId, RoundId } from '../../core/measure';
import { FailedRequest, ask, noAnswer, onSignedOut } from './api';
import { setClock } from './clock';
import { keepOfflineCopy, readOfflineCopy } from './offlineCopy';

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
  flying: ['flying'] as const,
  endOfLife: ['end-of-life'] as const,
  consignment: (id: ConsignmentId) => ['end-of-life', id] as const,
  histories: (id: RoundId) => ['histories', id] as const,
  anyHistories: ['histories'] as const,
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
      return answer;
    },
  });
}

/** Who is signed in; when the page opens and no answer comes, who was when there last was one. */
async function sessionOrOfflineCopy(): Promise<SessionAnswer> {
  const asked = ask('GET /session');
  if (queryClient.getQueryData(KEYS.session)) return asked;
  const missing = asked.then(() => false, noAnswer);
  const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(true), PATIENCE_MS));
  const told = (await Promise.race([missing, late])) ? await readOfflineCopy(queryClient) : null;
  return told ?? asked;
}

/** Keeps what the register tells on this device from now on. */
export function keepOfflineCopies(): void {
  keepOfflineCopy(queryClient, KEYS.session[0], TOLD);
}

export function useRegister() {
  return useQuery({ queryKey: KEYS.register, queryFn: () => ask('GET /register') });
}

export function useRulesHistory() {
  return useQuery({ queryKey: KEYS.rules, queryFn: () => ask('GET /rules') });
}

/** The packs as the register told them; lists ask `usePackRows` of the domain, which lays what waits here over them. */
export function useStoredRows() {
  return useQuery({ queryKey: KEYS.packs, queryFn: () => ask('GET /packs') });
}

export function usePack(id: PackId) {
  return useQuery({ queryKey: KEYS.pack(id), queryFn: () => ask('GET /packs/:id', { params: { id } }) });
}

/** Today as the register told it. */
export function useStoredToday() {
  return useQuery({
    queryKey: KEYS.today,
    queryFn: async () => {
      const answer = await ask('GET /today');
      setClock(answer);
      return answer;
    },
  });
}

export function useIncident(id: IncidentId) {
  return useQuery({
    queryKey: KEYS.incident(id),
    queryFn: () => ask('GET /incidents/:id', { params: { id } }),
  });
}

/** The bench: what a plan is made from, the plan that is kept, and what runs. */
export function useCharging() {
  return useQuery({ queryKey: KEYS.charging, queryFn: () => ask('GET /charging') });
}

/** What flies next, what each craft’s returns have shown, and the landings of late. */
export function useFlying() {
  return useQuery({ queryKey: KEYS.flying, queryFn: () => ask('GET /flying') });
}

export function useEndOfLife() {
  return useQuery({ queryKey: KEYS.endOfLife, queryFn: () => ask('GET /end-of-life') });
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

/** Puts newer rows into the list of packs that is already here, without fetching all of it. */
export async function refreshRows(ids: readonly PackId[]): Promise<void> {
  if (!queryClient.getQueryData(KEYS.packs)) return;
  const fresh = await ask('GET /packs', { query: { ids: ids.join(',') } });
  putData<PackRow[]>(KEYS.packs, (rows) => mergedRows(rows, fresh));
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
