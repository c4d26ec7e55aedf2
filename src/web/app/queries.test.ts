import { aRow } from '../testing/rows';
import { mergedRows } from './queries';

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
