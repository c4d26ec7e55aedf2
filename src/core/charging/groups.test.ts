import type { Board } from './equipment';
import { equalisingAmps, groupsFor, slotReadings } from './groups';

const SERIES: Board = {
  kind: 'board',
  wiring: 'series',
  ports: 3,
  connector: null,
  lead: null,
  slotCells: [3, 2, 1],
  toleranceMv: 300,
};
const PARALLEL: Board = { ...SERIES, wiring: 'parallel', ports: 4, slotCells: [], toleranceMv: 50 };
const packs = (series: number, ...volts: number[]) => volts.map((mv) => ({ chemistry: 'lipo', series, mv }));
const volts = (groups: readonly (readonly { mv: number }[])[]) =>
  groups.map((group) => group.map(({ mv }) => mv));

it.each<[string, Board, ReturnType<typeof packs>, number[][], number[]]>([
  ['exactly as many as ports', SERIES, packs(1, 3700, 3710, 3705), [[3700, 3705, 3710]], []],
  ['one too few is a remainder', SERIES, packs(1, 3700, 3710), [], [3700, 3710]],
  ['one too many is a remainder', SERIES, packs(1, 3700, 3710, 3705, 3720), [[3700, 3705, 3710]], [3720]],
  ['0.30 V apart is within', SERIES, packs(1, 3400, 3700, 3500), [[3400, 3500, 3700]], []],
  [
    '0.301 V is not: the lowest makes room',
    SERIES,
    packs(1, 3400, 3701, 3690, 3705),
    [[3690, 3701, 3705]],
    [3400],
  ],
  ['a series board takes single cells only', SERIES, packs(2, 3700, 3700, 3700), [], [3700, 3700, 3700]],
  ['parallel takes two or more', PARALLEL, packs(4, 3700, 3720), [[3700, 3720]], []],
  ['parallel leaves one alone', PARALLEL, packs(4, 3700), [], [3700]],
  ['0.05 V a cell apart is within', PARALLEL, packs(4, 3700, 3750), [[3700, 3750]], []],
  ['0.051 V is not', PARALLEL, packs(4, 3700, 3751, 3760), [[3751, 3760]], [3700]],
])('%s', (_, board, given, groups, remainder) => {
  const found = groupsFor(board, given);
  expect(volts(found.groups)).toEqual(groups);
  expect(found.remainder.map(({ mv }) => mv)).toEqual(remainder);
});

it('never joins chemistries or cell counts', () => {
  const mixed = [...packs(4, 3700), ...packs(6, 3700), { chemistry: 'lihv', series: 4, mv: 3700 }];
  expect(groupsFor(PARALLEL, mixed)).toEqual({ groups: [], remainder: expect.arrayContaining(mixed) });
});

it('a board labelled backwards puts each reading to its own slot', () => {
  expect(slotReadings(SERIES.slotCells, [4200, 4190, 4180])).toEqual([4180, 4190, 4200]);
  expect(slotReadings([2, 1, 3], [4200, 4190, 4180])).toEqual([4190, 4200, 4180]);
  expect(slotReadings(SERIES.slotCells, [4200, 4190])).toBeNull();
});

it('what flows between two packs does not depend on how many cells they have', () => {
  const joined = { differenceMv: 50, cellMilliohm: [2, 3] as const };
  expect(equalisingAmps({ ...joined, series: 1 })).toBeCloseTo(10);
  expect(equalisingAmps({ ...joined, series: 6 })).toBeCloseTo(10);
});
