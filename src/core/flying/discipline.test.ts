import { DAY_MS } from '../measure';
import { EVEN_KEEL, START } from '../testing/histories';
import { alikeGroups, discipline } from '.';
import type { LandingOf } from '.';

const landing = (loadedMv: number | null, more: Partial<LandingOf> = {}): LandingOf => ({
  chemistry: 'lipo',
  at: START,
  recordId: `r${loadedMv}` as LandingOf['recordId'],
  pilot: null,
  flownBy: null,
  craftId: null,
  craft: null,
  setup: 0,
  minutes: 10,
  usedMah: null,
  depthPercent: null,
  loadedMv,
  restedMv: null,
  ambientC: null,
  ...more,
});

it('counts what landed under the line of its own chemistry; the line itself is not under it', () => {
  const told = discipline(
    [landing(3_500), landing(3_499), landing(3_200, { chemistry: 'liion' }), landing(null)],
    EVEN_KEEL,
  );
  expect(told).toMatchObject({ flights: 4, read: 3, low: 1, lowRecords: ['r3499'], aboveLineMv: 0 });
});

it('tells the points into the reserve of flights deeper than allowed; 80 % is allowed', () => {
  const deep = [80, 80.0000000001, 84, 88].map((depthPercent) => landing(null, { depthPercent }));
  expect(discipline(deep, EVEN_KEEL)).toMatchObject({ measured: 4, deep: 2, deepPoints: 6 });
  expect(discipline([], EVEN_KEEL)).toMatchObject({
    flights: 0,
    deepPoints: null,
    aboveLineMv: null,
    alikeMv: null,
    lastAt: null,
  });
});

it('says how alike somebody lands, and how that moves when it certainly does', () => {
  const steady = Array.from({ length: 16 }, (_, i) =>
    landing(3_550 + (i % 3) * 10, { at: START + i * 4 * DAY_MS }),
  );
  expect(discipline(steady, EVEN_KEEL)).toMatchObject({ alikeMv: 20, perMonthMv: null });
  const falling = steady.map((one, i) => ({ ...one, loadedMv: one.loadedMv! - i * 8 }));
  expect(discipline(falling, EVEN_KEEL).perMonthMv).toBeCloseTo(-60, -1);
});

it('packs of one type within 0.05 V make a load, 0.05 V itself among them', () => {
  const packs = [
    { id: 'a', typeId: 'x', mv: 3_700 },
    { id: 'b', typeId: 'x', mv: 3_750 },
    { id: 'c', typeId: 'x', mv: 3_751 },
    { id: 'd', typeId: 'x', mv: 3_790 },
    { id: 'e', typeId: 'y', mv: 3_750 },
    { id: 'f', typeId: 'x', mv: 3_600 },
  ];
  expect(alikeGroups(packs).map((group) => group.map(({ id }) => id))).toEqual([['b', 'c', 'd']]);
  expect(alikeGroups([])).toEqual([]);
});
