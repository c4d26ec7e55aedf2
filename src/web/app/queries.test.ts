import { QueryObserver } from '@tanstack/react-query';
import { aRow } from '../testing/rows';
import { mergedRows, putData, queryClient } from './queries';

afterEach(() => queryClient.clear());

it('lets no fetch that began before something was kept take it back', async () => {
  const queryKey = ['names'];
  const answers: ((names: string[]) => void)[] = [];
  const queryFn = () => new Promise<string[]>((answer) => answers.push(answer));
  queryClient.setQueryData(queryKey, ['a']);
  const stop = new QueryObserver(queryClient, { queryKey, queryFn }).subscribe(() => undefined);
  void queryClient.invalidateQueries({ queryKey });
  putData<string[]>(queryKey, (names) => [...names, 'b']);
  answers[0]!(['a']);
  await new Promise(setImmediate);
  expect(queryClient.getQueryData(queryKey)).toEqual(['a', 'b']);
  answers[1]!(['a', 'b', 'c']);
  await new Promise(setImmediate);
  expect(queryClient.getQueryData(queryKey)).toEqual(['a', 'b', 'c']);
  stop();
});

it('puts nothing where nothing is', () => {
  putData<string[]>(['names'], (names) => [...names, 'b']);
  expect(queryClient.getQueryData(['names'])).toBeUndefined();
});

it('puts newer rows in place, keeps the order, and adds what is new', () => {
  const merged = mergedRows(
    [aRow('A'), aRow('B'), aRow('C')],
    [aRow('B', { seq: 2, verdict: 'hold' }), aRow('D')],
  );
  expect(merged.map(({ tag, verdict }) => `${tag} ${verdict}`)).toEqual([
    'A fit',
    'B hold',
    'C fit',
    'D fit',
  ]);
});

it('lets no older answer, arriving late, take back what is known', () => {
  const merged = mergedRows([aRow('A', { seq: 5, verdict: 'hold' })], [aRow('A', { seq: 4 })]);
  expect(merged[0]?.verdict).toBe('hold');
});
