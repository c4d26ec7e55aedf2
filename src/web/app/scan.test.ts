import { aRow } from '../testing/rows';
import { isSure, packOfTag, suggestions } from './scan';
import { offerScan, scanInbox } from './scanTarget';

const rows = ['HX-01', 'HX-02', 'HX-11', 'X-1', 'TODAY-1'].map((tag) => aRow(tag));
const found = (typed: string) =>
  suggestions(typed, rows).map((one) =>
    one.kind === 'pack'
      ? one.row.tag + (one.volts && ` ${one.volts}`)
      : `:${one.kind === 'packs' ? one.name : one.verb}`,
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

it('a tag is found without its noughts, but for nothing it does not hold', () => {
  expect(found('hx1')).toEqual(['HX-01', 'HX-11']);
  expect(found('hx2')).toEqual(['HX-02']);
  expect(found('hx10')).toEqual([]);
});

it.each([
  ['hx-01', true],
  ['hx1', true],
  ['hx2', true],
  ['1', false],
  ['hx', false],
  ['hx 0', false],
  ['HX-01 384 383', true],
  ['stow', true],
  ['zz', false],
])('Enter on %j opens what it means at once: %j', (typed, sure) => {
  expect(isSure(suggestions(typed, rows), typed)).toBe(sure);
});

it('knows types, places and people that have packs, and how many', () => {
  const [one, two] = [aRow('A-1', { holderId: 'ann' as never }), aRow('A-2')];
  const named = {
    types: [{ id: one.typeId, name: 'Mapping hexacopter' }],
    places: [{ id: two.placeId, name: 'Fire cabinet' }],
    people: [
      { id: 'ann', name: 'Ann Example' },
      { id: 'bo', name: 'Bo Example' },
    ],
  } as never;
  const told = (typed: string) =>
    suggestions(typed, [one, two], named).map((each) =>
      each.kind === 'packs' ? `${each.name}: ${each.count} ${each.what}` : each.kind,
    );
  expect(told('hexa')).toEqual(['Mapping hexacopter: 2 of this type']);
  expect(told('exam')).toEqual(['Ann Example: 1 in these hands']);
  expect(told('bo')).toEqual([]);
});

it('a scan made while a page is being fetched waits for it, and goes there in its turn', () => {
  jest.useFakeTimers();
  let fetching = true;
  const taken: string[] = [];
  const inbox = scanInbox(() => fetching);
  const close = inbox.open((tag) => taken.push(tag));
  inbox.put('HX-01');
  inbox.put('HX-02');
  jest.advanceTimersByTime(2_000);
  expect(taken).toEqual([]);
  fetching = false;
  jest.advanceTimersByTime(100);
  expect(taken).toEqual(['HX-01', 'HX-02']);
  // A page that never comes keeps nothing for ever.
  fetching = true;
  inbox.put('HX-03');
  jest.advanceTimersByTime(11_000);
  expect(taken).toEqual(['HX-01', 'HX-02', 'HX-03']);
  close();
  expect(offerScan('HX-01')).toBe(false);
  jest.useRealTimers();
});
