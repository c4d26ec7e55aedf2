import { NO_COUNTERS, countersTyped } from './ownCounters';

it.each([
  [NO_COUNTERS, null],
  [
    { cycles: '41', faults: '' },
    { cycles: 41, faults: null },
  ],
  [
    { cycles: ' 0 ', faults: '2' },
    { cycles: 0, faults: 2 },
  ],
])('%j is read as %j', (typed, counters) => {
  expect(countersTyped(typed)).toEqual({ counters, errors: {} });
});

it('what is no count is named at its field, and the other one is still read', () => {
  expect(countersTyped({ cycles: '41a', faults: '1' })).toEqual({
    counters: { cycles: null, faults: 1 },
    errors: { cycles: '“41a” is not a count.' },
  });
  for (const faults of ['-1', '2,5', '100001'])
    expect(countersTyped({ cycles: '', faults }).errors.faults).toMatch(/whole number/);
});
