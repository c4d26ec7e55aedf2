import { parseEmpty } from './parseEmpty';
import { countdown } from './WatchTimer';

it.each([
  ['0.04 0.05', 2, [40, 50]],
  ['0,04/0,05', 2, [40, 50]],
  ['0 0.1', 2, [0, 100]],
])('%j are %s empty cells', (typed, series, cellsMv) => {
  expect(parseEmpty(typed, series)).toEqual({ cellsMv, problem: undefined });
});

it.each([
  ['0.04', 2, /1 of 2 typed/],
  ['', 1, /0 of 1 typed/],
  ['0.04 x', 2, /“x” is not a voltage/],
  ['4 384', 2, /“384” is not a voltage/],
  ['-0.1', 1, /“-0.1” is not a voltage/],
])('%j for %s cells is refused with what to type', (typed, series, words) => {
  expect(parseEmpty(typed, series)).toMatchObject({ cellsMv: null, problem: expect.stringMatching(words) });
});

it('a pack without cell taps is told by its whole, and never read as emptier than it is', () => {
  expect(parseEmpty('0.5', 6, false)).toEqual({ cellsMv: [84, 84, 84, 84, 84, 84], problem: undefined });
  expect(parseEmpty('0.5 0.4', 6, false).cellsMv).toBeNull();
});

it.each([
  [1_925_000, '32:05'],
  [999, '00:01'],
  [0, '00:00'],
  [3_600_000, '1:00:00'],
])('%d ms left reads %s', (ms, shown) => {
  expect(countdown(ms)).toBe(shown);
});
