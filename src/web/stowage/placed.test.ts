import type { PlaceId, PersonId } from '../../core/measure';
import { aRow, PLACE_ID, REGISTER } from '../testing/rows';
import { firstArea, MAP_COLUMNS, mayLieIn, objections, shifted, stowage } from './placed';

const van = { ...REGISTER.places[0]!, id: 'van' as PlaceId, name: 'Van', capacity: 1, fireResistant: false };
const register = { ...REGISTER, places: [...REGISTER.places, van] };

it('tells where everything lies, slot by slot, and who carries the rest', () => {
  const placed = stowage(
    [
      aRow('HX-10'),
      aRow('HX-02'),
      aRow('HX-07', { slot: 3 }),
      aRow('HX-08', { holderId: 'jory' as PersonId }),
      aRow('HX-09', { placeId: null }),
      aRow('HX-06', { placeId: null, verdict: 'recycled' }),
    ],
    register,
  );
  const tags = (packs: readonly { row: { tag: string } }[]) => packs.map(({ row }) => row.tag);
  expect(tags(placed.places.find(({ place }) => place.id === PLACE_ID)!.packs)).toEqual([
    'HX-07',
    'HX-02',
    'HX-10',
  ]);
  expect([tags(placed.inHands), tags(placed.nowhere)]).toEqual([['HX-08'], ['HX-09']]);
});

it('objects to a move by what it would make wrong, and to a slot that is taken', () => {
  const placed = stowage([aRow('HX-01', { placeId: van.id, slot: 1 }), aRow('HX-02')], register);
  const to = placed.places.find(({ place }) => place.id === van.id)!;
  const pack = placed.places.find(({ place }) => place.id === PLACE_ID)!.packs[0]!;
  const { warnings, takenBy } = objections(to, pack, 1, register.rules.rules);
  expect(warnings.map(({ code }) => code)).toEqual(['too-many']);
  expect(takenBy).toBe('HX-01');
  expect(objections(to, pack, 2, register.rules.rules).takenBy).toBeNull();
});

it.each([
  ['fit', {}, true],
  ['hold', {}, false],
  ['retired', {}, false],
  ['hold', { setApart: true }, true],
  ['retired', { kind: 'recycling' }, true],
] as const)('a pack %s may lie in %j: %s', (verdict, what, may) => {
  expect(mayLieIn({ verdict }, { ...van, ...what })).toBe(may);
});

describe('the map', () => {
  const area = { x: 2, y: 3, w: 6, h: 2 };
  it('moves and resizes in whole cells', () => {
    expect(shifted(area, { x: 1.4, y: -0.6 })).toEqual({ x: 3, y: 2, w: 6, h: 2 });
    expect(shifted(area, { w: 3, h: 1 })).toEqual({ x: 2, y: 3, w: 9, h: 3 });
  });
  it('keeps a place on it, however far it is dragged', () => {
    expect(shifted(area, { x: 99, y: -99 })).toEqual({ x: MAP_COLUMNS - 6, y: 0, w: 6, h: 2 });
    expect(shifted(area, { w: -99, h: -99 })).toMatchObject({ w: 2, h: 1 });
  });
  it('begins a new place under what is drawn', () => {
    expect(firstArea([])).toMatchObject({ x: 0, y: 0 });
    expect(firstArea([{ ...van, map: area }])).toMatchObject({ y: 5 });
  });
});
