import { aRow } from '../testing/rows';
import { packOfTag, suggestions } from './scan';

const rows = ['HX-01', 'HX-02', 'HX-11', 'X-1', 'TODAY-1'].map((tag) => aRow(tag));
const found = (typed: string) =>
  suggestions(typed, rows).map((one) =>
    one.kind === 'pack' ? one.row.tag + (one.volts && ` ${one.volts}`) : `:${one.verb}`,
  );

it.each([
  ['hx-01', ['HX-01']],
  ['hx 0', ['HX-01', 'HX-02']],
  ['x1', ['X-1', 'HX-11']],
  ['today', ['TODAY-1', ':today']],
  ['sign', [':sign out']],
  ['', []],
  ['-', []],
  ['zz', []],
])('%j may mean %j', (typed, expected) => {
  expect(found(typed)).toEqual(expected);
});

it('takes what follows a whole tag as volts', () => {
  expect(found('HX-01 384 383 385')).toEqual(['HX-01 384 383 385']);
  expect(found('hx 01 3,84 3,83')).toEqual(['HX-01 3,84 3,83']);
  expect(found('HX-99 384 383')).toEqual([]);
});

it('finds the pack of a scanned tag however it is written, and none for an unknown one', () => {
  expect(packOfTag('hx01', rows)?.tag).toBe('HX-01');
  expect(packOfTag('hx0', rows)).toBeNull();
  expect(packOfTag('--', rows)).toBeNull();
});
