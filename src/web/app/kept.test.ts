import { QueryObserver } from '@tanstack/react-query';
import type { PackDetails, RoundDetails, RoundRow } from '../../contract';
import type { PackId, RecordId, RoundId } from '../../core/measure';
import type { PackRecord } from '../../core/record';
import { showKept, showNamed } from './kept';
import { KEYS, queryClient } from './queries';

const packId = 'pack' as PackId;
const roundId = 'round' as RoundId;
const record = (id: string) => ({ id }) as PackRecord;
const row = (id: string, outcome: RoundRow['outcome']): RoundRow => ({
  packId: id as PackId,
  outcome,
  by: null,
  at: null,
  reason: null,
});

beforeEach(() => {
  queryClient.setQueryData(KEYS.pack(packId), { records: [record('1')] });
  const rows = [row('other', null), row(packId, null)];
  queryClient.setQueryData(KEYS.round(roundId), { rows, packs: 2, worked: 0 });
  const known = new Map([[packId, { facts: {}, records: [record('1')] }]]);
  queryClient.setQueryData(KEYS.histories(roundId), known);
});
afterEach(() => queryClient.clear());

const recordsOn = (page: { records: readonly PackRecord[] } | undefined) => page?.records.map(({ id }) => id);
const shown = () => ({
  pack: recordsOn(queryClient.getQueryData<PackDetails>(KEYS.pack(packId))),
  ledger: recordsOn(
    queryClient
      .getQueryData<ReadonlyMap<PackId, { records: readonly PackRecord[] }>>(KEYS.histories(roundId))
      ?.get(packId),
  ),
  round: queryClient.getQueryData<RoundDetails>(KEYS.round(roundId)),
});

it('shows what was kept on the pack’s page and in open rounds, once', () => {
  const answer = { packId, records: [record('1'), record('2')] };
  showKept(packId, null, answer);
  showKept(packId, null, answer);
  expect(shown()).toMatchObject({ pack: ['1', '2'], ledger: ['1', '2'], round: { worked: 0 } });
});

it('ends the row it belongs to, and adds one that was scanned in', () => {
  showKept(packId, roundId, { packId, records: [record('2')], row: row(packId, 'done') });
  expect(shown().round).toMatchObject({ packs: 2, worked: 1 });
  showKept(packId, roundId, { packId, records: [], row: row('new', 'stopped') });
  expect(shown().round).toMatchObject({ packs: 3, worked: 2 });
  expect(shown().round!.rows.map(({ outcome }) => outcome)).toEqual([null, 'done', 'stopped']);
});

it('a pack an incident names is asked for anew when its first fetch is from before the incident', async () => {
  const other = 'other pack' as PackId;
  const queryKey = KEYS.pack(other);
  let calls = 0;
  const answers = [{ records: [record('1')] }, { records: [record('1'), record('2')] }];
  let firstAnswers: () => void = () => undefined;
  const observer = new QueryObserver(queryClient, {
    queryKey,
    queryFn: async () => {
      const answer = answers[calls++]!;
      if (calls === 1) await new Promise<void>((resolve) => (firstAnswers = resolve));
      return answer;
    },
  });
  const stop = observer.subscribe(() => undefined);
  const shownNow = showNamed([{ packId: other, recordId: '2' as RecordId }]);
  firstAnswers();
  await shownNow;
  expect(calls).toBe(2);
  expect(recordsOn(queryClient.getQueryData<PackDetails>(queryKey))).toEqual(['1', '2']);
  stop();
});
