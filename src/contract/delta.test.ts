import * as fc from 'fast-check';
import { deltaOf, withDelta } from './delta';
import type { Delta, Json } from './delta';

/** As it comes over the line. */
const sent = (delta: Delta) => JSON.parse(JSON.stringify(delta)) as Delta;
/** What somebody has who knew the older answer and was told the delta. */
const known = (older: Json, newer: Json): Json => {
  const delta = deltaOf(older, newer);
  return delta ? withDelta(older, sent(delta)) : older;
};

const anyJson = fc.jsonValue({ maxDepth: 4 }).map((value) => JSON.parse(JSON.stringify(value)) as Json);
/** Rows of a few ids, so that two lists share some and differ in some. */
const rows = fc
  .uniqueArray(
    fc.record({
      id: fc.constantFrom('a', 'b', 'c', 'd', 'e', '0', '__proto__', 'constructor'),
      mv: fc.integer({ min: 0, max: 3 }),
      of: anyJson,
    }),
    { selector: ({ id }) => id },
  )
  .map((list) => list as Json);
const answers = fc.oneof(
  anyJson,
  rows,
  fc
    .dictionary(fc.constantFrom('held', 'due', 'counts', '__proto__'), fc.oneof(rows, anyJson))
    .map((a) => a as Json),
);

it('whoever knows the older of any two answers and is told the delta knows the newer', () => {
  fc.assert(
    fc.property(answers, answers, (older, newer) => {
      const before = JSON.stringify(older);
      expect(known(older, newer)).toEqual(newer);
      expect(JSON.stringify(older)).toBe(before);
    }),
    { numRuns: 2_000 },
  );
});

it('nothing is told between equal answers, however their members are ordered', () => {
  fc.assert(
    fc.property(answers, (one) => expect(deltaOf(one, JSON.parse(JSON.stringify(one)) as Json)).toBeNull()),
  );
  expect(deltaOf({ a: 1, b: [{ id: 'x' }] }, { b: [{ id: 'x' }], a: 1 })).toBeNull();
});

it('of five thousand rows one that changed and one that came are told, and no other', () => {
  const older = Array.from({ length: 5_000 }, (_, i) => ({ id: `pack ${i}`, mv: 3_800, tag: `HX-${i}` }));
  const newer = older.map((row) => (row.id === 'pack 17' ? { ...row, mv: 3_500 } : row));
  newer.splice(4_000, 0, { id: 'new', mv: 3_850, tag: 'HX-3999b' });
  const delta = deltaOf(older, newer);
  expect(delta).toEqual({
    rows: {
      'pack 17': { members: { mv: { is: 3_500 } } },
      new: { is: { id: 'new', mv: 3_850, tag: 'HX-3999b' } },
    },
    order: [[0, 4_000], 'new', [4_000, 1_000]],
  });
  expect(withDelta(older, sent(delta!))).toEqual(newer);
});

it('rows that stayed are the very same, so that what shows them need not be drawn again', () => {
  const older = [
    { id: 'a', mv: 1 },
    { id: 'b', mv: 2 },
  ];
  const newer = withDelta(
    older,
    deltaOf(older, [
      { id: 'b', mv: 3 },
      { id: 'a', mv: 1 },
    ])!,
  ) as unknown[];
  expect(newer[1]).toBe(older[0]);
});

it('a delta of another answer is a mistake, and said to be one', () => {
  const delta = deltaOf([{ id: 'a', mv: 1 }], [{ id: 'a', mv: 2 }])!;
  expect(() => withDelta({ a: 1 }, delta)).toThrow('this is none');
  expect(() => withDelta([], delta)).toThrow('this is none');
  expect(() => withDelta([{ id: 'b', mv: 1 }], { rows: {}, order: ['z'] })).toThrow('not there');
});
