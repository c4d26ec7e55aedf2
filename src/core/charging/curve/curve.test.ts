import { deflateSync } from 'node:zlib';
import fc from 'fast-check';
import { bell, capacityAh, chargeFor, milliohmAt, newSimPack, seededRandom, weaken } from '../../cellsim';
import type { SimPack } from '../../cellsim';
import { CHEMISTRY } from '../../chemistry';
import type { LithiumChemistry } from '../../chemistry';
import { DEFAULT_PRESET, PRESET_RULES } from '../../rules';
import {
  capacityFromCurve,
  chargeNow,
  curveWith,
  EMPTY_CURVE,
  packedCurve,
  pointsOf,
  resistanceFromCurve,
  unpackedCurve,
} from '.';
import type { Alarm, ChargerSays, CurvePoint, Expected } from '.';

const rules = PRESET_RULES[DEFAULT_PRESET];
const QUIET: ChargerSays = { setting: null, ended: false, error: null };

interface Followed {
  readonly points: readonly CurvePoint[];
  readonly pack: SimPack;
}

/** A charge as a charger tells it, line by line with a display's noise, from half a minute before its current flows to half a minute after. */
function follow(
  pack: SimPack,
  {
    amps,
    topMv,
    everySeconds = 1,
    seed = 1,
  }: { amps: number; topMv: number; everySeconds?: number; seed?: number },
): Followed {
  const random = seededRandom(seed);
  const settings = { amps, topMv, cutOffC: 0.05, balanceA: 0.3 };
  let curve = EMPTY_CURVE;
  let now = pack;
  let moved = 0;
  let seconds = 0;
  const say = (mv: readonly number[], current: number) => {
    curve = curveWith(curve, {
      seconds,
      mv: mv.map((one) => Math.round(one + bell(random) * 1.5)),
      amps: Math.round(current * 100) / 100,
      movedMah: Math.round(moved * 1000),
      celsius: 21,
    });
    seconds += everySeconds;
  };
  const resting = () => chargeFor(now, { ...settings, amps: 0 }, 0).mv;
  for (let i = 0; i < 30; i += 1) say(resting(), 0);
  for (;;) {
    const moment = chargeFor(now, settings, everySeconds);
    now = moment.pack;
    moved += moment.movedAh;
    if (moment.full || seconds > 12 * 3600) break;
    say(moment.mv, moment.amps);
  }
  for (let i = 0; i < 30; i += 1) say(resting(), 0);
  return { points: pointsOf(curve), pack: now };
}

const PACKS: readonly [string, LithiumChemistry, number, number, number, number][] = [
  ['a new LiPo at 1C', 'lipo', 6, 16, 16, 3_550],
  ['a small LiPo at half its rate', 'lipo', 4, 1.5, 0.75, 3_600],
  ['a LiHV', 'lihv', 4, 5, 5, 3_600],
  ['a Li-ion', 'liion', 6, 5, 2.5, 3_300],
];

describe('what a charge measures', () => {
  it.each(PACKS)(
    '%s: capacity within 3 %%, resistance within 10 %%',
    (name, chemistry, series, labelAh, amps, mv) => {
      for (const wear of [0, 0.5, 1]) {
        const fresh = newSimPack({ chemistry, series, labelAh, mv }, seededRandom(name.length));
        const pack = {
          ...fresh,
          cells: fresh.cells.map((cell) => ({ ...cell, wear, heldAh: cell.heldAh * (1 - 0.2 * wear) })),
        };
        const { points } = follow(pack, {
          amps,
          topMv: CHEMISTRY[chemistry].fullMv!,
          seed: name.length + wear * 100,
        });
        const capacity = capacityFromCurve(points, chemistry, CHEMISTRY[chemistry].fullMv!, null)!;
        const truth = (pack.cells.reduce((sum, cell) => sum + capacityAh(cell), 0) / series) * 1000;
        expect(Math.abs(capacity.value / truth - 1)).toBeLessThan(0.03);
        expect(Math.abs(capacity.value - truth)).toBeLessThan(2 * capacity.error);
        const milliohm = resistanceFromCurve(points, chemistry, capacity.value)!;
        for (const [i, cell] of pack.cells.entries())
          expect(Math.abs(milliohm[i]!.value / milliohmAt(cell, 25) - 1)).toBeLessThan(0.1);
      }
    },
  );

  it('says nothing of capacity where a charge began half full, was not seen at rest, or did not come to its end', () => {
    const half = newSimPack({ chemistry: 'lipo', series: 4, labelAh: 5, mv: 3_850 }, seededRandom(11));
    expect(capacityFromCurve(follow(half, { amps: 5, topMv: 4200 }).points, 'lipo', 4200, null)).toBeNull();
    const low = newSimPack({ chemistry: 'lipo', series: 4, labelAh: 5, mv: 3_600 }, seededRandom(12));
    const { points } = follow(low, { amps: 5, topMv: 4200 });
    expect(
      capacityFromCurve(
        points.filter(({ amps }) => amps > 1),
        'lipo',
        4200,
        null,
      ),
    ).toBeNull();
    expect(capacityFromCurve(points.slice(0, points.length / 2), 'lipo', 4200, null)).toBeNull();
    expect(capacityFromCurve([], 'lipo', 4200, null)).toBeNull();
    expect(resistanceFromCurve([], 'lipo', 5000)).toBeNull();
  });
});

describe('a curve as it is kept', () => {
  const one = newSimPack({ chemistry: 'lipo', series: 6, labelAh: 16, mv: 3_600 }, seededRandom(13));
  const { points } = follow(one, { amps: 16, topMv: 4200, everySeconds: 1 });

  it('comes back as it was', () => expect(unpackedCurve(packedCurve(points))).toEqual(points));

  it('is small: a whole day of six cells below 200 kB', () => {
    const bytes = deflateSync(packedCurve(points)).length;
    const aDay = (bytes / points.at(-1)!.seconds) * 86_400;
    expect(aDay).toBeLessThan(200_000);
    expect(aDay).toBeGreaterThan(5_000);
  });

  it('takes any figures, and refuses bytes that are none', () => {
    const point = fc.record({
      seconds: fc.integer({ min: 0, max: 1e6 }),
      mv: fc.array(fc.integer({ min: 0, max: 99_999 }), { minLength: 3, maxLength: 3 }),
      amps: fc.integer({ min: 0, max: 50_000 }).map((value) => value / 100),
      movedMah: fc.integer({ min: 0, max: 1e6 }),
      celsius: fc.option(fc.integer({ min: -400, max: 1500 }).map((value) => value / 10)),
    });
    fc.assert(fc.property(fc.array(point), (list) => expect(unpackedCurve(packedCurve(list))).toEqual(list)));
    expect(() => unpackedCurve(Uint8Array.from([9, 9]))).toThrow();
    expect(() => unpackedCurve(packedCurve(points).slice(0, 40))).toThrow();
  });

  it('keeps a line once, however often it is repeated, and none of another pack', () => {
    const [first, second] = [points[0]!, { ...points[0]!, seconds: 11 }];
    const kept = [first, second, second, first, { ...second, seconds: 22, mv: [3800] }].reduce(
      curveWith,
      EMPTY_CURVE,
    );
    expect(pointsOf(kept)).toEqual([first, second]);
  });
});

describe('what a charge is doing', () => {
  const pack = newSimPack({ chemistry: 'lipo', series: 4, labelAh: 5, mv: 3_600 }, seededRandom(14));
  const expected: Expected = {
    do: 'charge',
    setting: { chemistry: 'lipo', mode: 'balance', cells: 4, topMv: 4200, amps: 5 },
    minutes: 90,
    room: { mah: 4_600, capacityMah: 5_000 },
  };
  const { points } = follow(pack, { amps: 5, topMv: 4200 });
  const alarmsAt = (
    list: readonly CurvePoint[],
    says: Partial<ChargerSays> = {},
    of: Partial<Expected> = {},
  ) => chargeNow(list, { ...expected, ...of }, { ...QUIET, ...says }, rules).alarms;
  const codes = (alarms: readonly Alarm[]) => alarms.map(({ code, asks }) => `${asks} ${code}`);

  it('goes from rest through quick and taper to its end, and asks for nobody', () => {
    const seen = points.map((_, i) =>
      chargeNow(points.slice(Math.max(0, i - 200), i + 1), expected, QUIET, rules),
    );
    expect([...new Set(seen.map(({ phase }) => phase))]).toEqual(['rest', 'quick', 'taper', 'balancing']);
    expect(seen.flatMap(({ alarms }) => codes(alarms))).toEqual([]);
  });

  it('is reduced where the charger gives less than it was set to', () => {
    const last = { seconds: 300, mv: [3800, 3801, 3799, 3800], amps: 3, movedMah: 200, celsius: null };
    expect(chargeNow([last], expected, QUIET, rules).phase).toBe('reduced');
  });

  const quick: CurvePoint = {
    seconds: 600,
    mv: [3900, 3901, 3899, 3900],
    amps: 5,
    movedMah: 800,
    celsius: 22,
  };
  it.each<[string, CurvePoint[], Partial<ChargerSays>, Partial<Expected>, string[]]>([
    ['nothing', [quick], {}, {}, []],
    ['a cell over its top', [{ ...quick, mv: [4190, 4212, 4191, 4190] }], {}, {}, ['stop over-top']],
    ['a cell at its top and a little', [{ ...quick, mv: [4190, 4207, 4191, 4190] }], {}, {}, []],
    [
      'a charger set to another chemistry',
      [quick],
      { setting: { chemistry: 'lihv', topMv: 4350 } },
      {},
      ['stop setting'],
    ],
    ['one set to a cell more', [quick], { setting: { cells: 5 } }, {}, ['stop setting']],
    ['one set to more current', [quick], { setting: { amps: 8 } }, {}, ['stop setting']],
    ['one set to less current', [quick], { setting: { amps: 2 } }, {}, []],
    ['one that does not balance', [quick], { setting: { mode: 'fast' } }, {}, ['look setting']],
    ['three cells where four were said', [{ ...quick, mv: [3900, 3901, 3899] }], {}, {}, ['stop cell-count']],
    ['warm', [{ ...quick, celsius: rules.heat.chargeWatchC + 1 }], {}, {}, ['look hot']],
    ['hot', [{ ...quick, celsius: rules.heat.chargeHoldC + 1 }], {}, {}, ['stop hot']],
    ['far too much', [{ ...quick, movedMah: 5_600 }], {}, {}, ['stop overfilled']],
    [
      'a little more than the little room there was',
      [{ ...quick, movedMah: 200 }],
      {},
      { room: { mah: 100, capacityMah: 5_000 } },
      [],
    ],
    ['too much of nobody knows what', [{ ...quick, movedMah: 5_600 }], {}, { room: null }, []],
    ['far too long', [{ ...quick, seconds: 90 * 60 * 3 }], {}, {}, ['stop too-long']],
    ['over, after far too long', [{ ...quick, seconds: 90 * 60 * 3 }], { ended: true }, {}, []],
    [
      'one that drains',
      [
        { ...quick, amps: 0 },
        { ...quick, seconds: 700, mv: [3860, 3861, 3859, 3860] },
      ],
      {},
      {},
      ['stop wrong-way'],
    ],
    [
      'one that charges where it should drain',
      [
        { ...quick, amps: 0 },
        { ...quick, seconds: 700, mv: [3940, 3941, 3939, 3940] },
      ],
      {},
      { do: 'lower' },
      ['stop wrong-way'],
    ],
    [
      'one that drains as it should',
      [
        { ...quick, amps: 0 },
        { ...quick, seconds: 700, mv: [3860, 3861, 3859, 3860] },
      ],
      {},
      { do: 'lower' },
      [],
    ],
    ['an error', [quick], { error: 'connection broken' }, {}, ['stop error']],
    [
      'a cell that falls',
      [quick, { ...quick, seconds: 660, mv: [3903, 3871, 3902, 3903] }],
      {},
      {},
      ['stop cell-falls'],
    ],
    ['a cell far behind', [{ ...quick, mv: [3900, 3740, 3899, 3900] }], {}, {}, ['look cell-apart']],
    [
      'all that fall because the current did',
      [quick, { ...quick, seconds: 660, amps: 2, mv: [3870, 3871, 3870, 3870] }],
      {},
      {},
      [],
    ],
  ])('%s', (_what, list, says, of, wanted) => expect(codes(alarmsAt(list, says, of))).toEqual(wanted));

  it('finds a cell that dies in a real charge before its end, and not the sound ones', () => {
    const dying = weaken(pack, 2, { wear: 3, wearRate: 4, leakPercentPerMonth: 20 });
    const weak = follow(dying, { amps: 5, topMv: 4200 });
    const all = weak.points.flatMap((_, i) => alarmsAt(weak.points.slice(Math.max(0, i - 200), i + 1)));
    const found = all.find(({ code }) => code === 'cell-apart') as { cell: number } | undefined;
    expect(found?.cell).toBe(2);
  });
});
