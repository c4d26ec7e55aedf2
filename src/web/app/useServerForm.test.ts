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
  ['.5', 0.5],
  // A hand types no hexadecimal and no powers of ten: 1e3 is a slip, not a thousand.
  ['0x1F', '0x1F'],
  ['1e3', '1e3'],
])('%j is %j: what is no number goes to the server as typed, which names the field', (typed, figure) => {
  expect(figureTyped(typed)).toBe(figure);
});
