import { figureTyped } from './useServerForm';

jest.mock('zustand/middleware', () => ({ persist: (make: unknown) => make }));

it.each([
  ['', null],
  ['   ', null],
  [undefined, null],
  ['3', 3],
  ['3.3', 3.3],
  ['3,3', 3.3],
  [' 25 ', 25],
  ['-5', -5],
  ['warm', 'warm'],
  ['3,3,3', '3,3,3'],
  ['Infinity', 'Infinity'],
])('%j is %j: what is no number goes to the server as typed, which names the field', (typed, figure) => {
  expect(figureTyped(typed)).toBe(figure);
});
