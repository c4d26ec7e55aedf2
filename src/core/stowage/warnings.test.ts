import type { PackId } from '../measure';
import { EVEN_KEEL } from '../testing/histories';
import { stowageWarnings, warningsAdded } from '.';
import type { PlaceFacts, StowedPack } from '.';

const cabinet: PlaceFacts = { kind: 'cabinet', fireResistant: true, metal: 'no', capacity: 3, celsius: 18 };
const pack = (id: string, more: Partial<StowedPack> = {}): StowedPack => ({
  id: id as PackId,
  chemistry: 'lipo',
  verdict: 'fit',
  storage: 'in-band',
  ...more,
});
const codes = (place: PlaceFacts, packs: readonly StowedPack[], rules = EVEN_KEEL) =>
  stowageWarnings(place, packs, rules).map(({ code }) => code);

it('says nothing of packs that lie well', () => {
  expect(codes(cabinet, [])).toEqual([]);
  expect(codes(cabinet, [pack('a'), pack('b', { verdict: 'watch' }), pack('c')])).toEqual([]);
});

it('a pack out of use lies apart, or among its like', () => {
  const held = pack('h', { verdict: 'hold' });
  const retired = pack('r', { verdict: 'retire-advised' });
  expect(codes(cabinet, [held, retired])).toEqual([]);
  expect(stowageWarnings(cabinet, [held, retired, pack('a')], EVEN_KEEL)).toEqual([
    { code: 'held-among-sound', packIds: ['h', 'r'] },
  ]);
});

it('counts what a place may hold', () => {
  const packs = ['a', 'b', 'c', 'd'].map((id) => pack(id));
  expect(codes(cabinet, packs.slice(1))).toEqual([]);
  expect(codes(cabinet, packs)).toEqual(['too-many']);
  expect(codes({ ...cabinet, capacity: null }, packs)).toEqual([]);
});

it.each([
  [29.9, []],
  [30, ['charged-in-the-warm']],
  [null, []],
])('a charged pack at %s °C', (celsius, expected) => {
  expect(codes({ ...cabinet, celsius }, [pack('a', { storage: 'high' }), pack('b')])).toEqual(expected);
});

it('lithium lies where something resists fire; nickel may lie on a shelf', () => {
  const shelf = { ...cabinet, fireResistant: false };
  expect(codes(shelf, [pack('n', { chemistry: 'nimh', storage: 'no-rule' })])).toEqual([]);
  expect(codes(shelf, [pack('a')])).toEqual(['not-fire-resistant']);
});

it('lithium lies in no metal box that lets no gas out, however fire-resistant', () => {
  expect(codes({ ...cabinet, metal: 'unvented' }, [pack('a')])).toEqual(['unvented-metal']);
  expect(codes({ ...cabinet, metal: 'vented' }, [pack('a')])).toEqual([]);
  expect(codes({ ...cabinet, metal: 'unvented' }, [pack('n', { chemistry: 'nimh' })])).toEqual([]);
});

it('chemistries are kept apart only where the house says so', () => {
  const mixed = [pack('a'), pack('b', { chemistry: 'liion' })];
  expect(codes(cabinet, mixed)).toEqual([]);
  const apart = { ...EVEN_KEEL, stowage: { ...EVEN_KEEL.stowage, mixing: 'kept apart' as const } };
  expect(stowageWarnings(cabinet, mixed, apart)).toEqual([
    { code: 'mixed-chemistries', chemistries: ['liion', 'lipo'] },
  ]);
});

it('before a move, tells only what that move would make wrong', () => {
  const lying = [pack('a'), pack('h', { verdict: 'hold' })];
  expect(warningsAdded(cabinet, lying, pack('x', { verdict: 'hold' }), EVEN_KEEL)).toEqual([]);
  expect(warningsAdded(cabinet, [pack('a')], pack('x', { verdict: 'hold' }), EVEN_KEEL)).toMatchObject([
    { code: 'held-among-sound' },
  ]);
  // Within its own place a pack changes nothing.
  expect(warningsAdded(cabinet, [pack('a'), pack('b'), pack('c')], pack('c'), EVEN_KEEL)).toEqual([]);
});
