import fc from 'fast-check';
import { restedReadings } from '../assess';
import { DAY_MS } from '../measure';
import type { Instant } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  EVEN_KEEL,
  flight,
  level,
  reading,
  received,
  resistance,
  START,
} from '../testing/histories';
import {
  ageYears,
  cellsCompared,
  cycles,
  forecast,
  healthReport,
  healthShare,
  lastJump,
  mostApart,
  mostGrown,
  recurrence,
  runTimeLoss,
  runTimes,
  currentValue,
  trendBand,
  trendOf,
  weakAfterUse,
} from '.';
import { capacityOfEnds } from './capacity';
import type { Point } from '.';

const lipo = aPack();

function told(records: readonly PackRecord[], pack = lipo) {
  const history = fold(pack, records);
  const { rested } = restedReadings(history, EVEN_KEEL);
  return { history, rested };
}

describe('resistance', () => {
  const baseline = [0, 1, 2].map((hours) => resistance(hours, [4, 4.2, 4.1, 4]));

  it('has no baseline before the third reading, and nothing to judge before the fourth', () => {
    expect(mostGrown(told(baseline.slice(0, 2)).history.resistances)).toBeNull();
    expect(mostGrown(told(baseline).history.resistances)).toBeNull();
  });

  it('is compared at 25 °C: the same cell at 0 °C shows twice as much and has not grown', () => {
    const cold = [30, 31, 32].map((hours) => resistance(hours, [8, 8.4, 8.2, 8], 0));
    const grown = mostGrown(told([...baseline, ...cold]).history.resistances)!;
    expect(grown.factor).toBeCloseTo(1, 9);
  });

  it('follows the cell that has grown most, by the median of three', () => {
    const later = [6, 6.4, 9].map((milliohm, i) => resistance(30 + i, [4, 4.2, milliohm, 4]));
    const grown = mostGrown(told([...baseline, ...later]).history.resistances)!;
    expect(grown).toMatchObject({ cell: 3, milliohm: 6.4, against: 4.1 });
    expect(grown.factor).toBeCloseTo(6.4 / 4.1, 9);
  });

  it('sets a cell beside its siblings’ median, and a jump beside the reading before', () => {
    const { resistances } = told([resistance(0, [4, 4, 4, 4]), resistance(1, [4, 4, 5.4, 4])]).history;
    expect(mostApart(resistances)).toMatchObject({ cell: 3, against: 4 });
    expect(lastJump(resistances)).toMatchObject({ cell: 3, against: 4, milliohm: 5.4 });
    expect(mostApart(told([resistance(0, [4])], aPack({ series: 1 })).history.resistances)).toBeNull();
    expect(lastJump(resistances.slice(0, 1))).toBeNull();
  });
});

describe('capacity', () => {
  const use = (day: number, mah: number, restMv: number) => [
    charge(day * 24, { balanced: true }),
    flight(day * 24 + 2, { usedMah: mah }),
    reading(day * 24 + 4, level(lipo, restMv)),
  ];

  it('is charge moved over how far it moved: 2,310 mAh from full to 3.77 V is a 3,300 mAh pack', () => {
    const { history, rested } = told(use(0, 2310, 3770));
    const points = capacityOfEnds(history, rested).weakest;
    expect(points).toHaveLength(1);
    expect(points[0]!.value).toBeCloseTo(100, 6);
    expect(points[0]!.records).toHaveLength(3);
  });

  it('says nothing of a short use, of one with nothing noted, or of LiFePO4’s plateau', () => {
    const points = (records: readonly PackRecord[], pack = lipo) => {
      const { history, rested } = told(records, pack);
      return capacityOfEnds(history, rested).weakest;
    };
    expect(points(use(0, 800, 3980))).toEqual([]);
    expect(points([charge(0), flight(2), reading(4, level(lipo, 3770))])).toEqual([]);
    const flat = aPack({ chemistry: 'lifepo4' });
    expect(points([charge(0), flight(2, { usedMah: 1500 }), reading(4, level(flat, 3260))], flat)).toEqual(
      [],
    );
  });

  it('follows the weakest cell by its own volts, not whichever read lowest', () => {
    const records = Array.from({ length: 9 }, (_, i) => [
      charge(i * 48, { balanced: true }),
      flight(i * 48 + 2, { usedMah: 2310 }),
      reading(i * 48 + 4, i === 4 ? [3750, 3770, 3740, 3770] : [3770, 3770, 3740, 3770]),
    ]).flat();
    const { history, rested } = told(records);
    const now = currentValue(capacityOfEnds(history, rested).weakest)!;
    expect(now.value).toBeCloseTo((2310 / 0.775 / 3300) * 100, 6);
  });

  it('takes a charge only where no use was measured, and the share is the label’s while nothing was', () => {
    const filled = told([
      reading(0, level(lipo, 3770)),
      charge(3, { startCellsMv: level(lipo, 3770), movedMah: 2079, balanced: true, minutes: 60 }),
    ]);
    expect(healthShare(capacityOfEnds(filled.history, filled.rested).weakest)).toBeCloseTo(0.9, 3);
    expect(healthShare([])).toBe(1);
  });
});

describe('flight time', () => {
  const flights = (minutes: readonly number[], more = {}) =>
    minutes.map((one, i) => flight(i * 24, { craft: 'quad', minutes: one, usedMah: 2000, ...more }));

  it('is told for each ampere-hour, on the craft flown most, warm flights only', () => {
    const records = [
      ...flights([10, 10, 10, 10, 10]),
      flight(500, { craft: 'other', minutes: 30, usedMah: 1000 }),
      flight(501, { craft: 'quad', minutes: 5, usedMah: 2000, ambientC: 4 }),
    ];
    const times = runTimes(told(records).history.flights, 10)!;
    expect(times).toMatchObject({ craft: 'quad', baseline: 5 });
    expect(times.points).toHaveLength(5);
  });

  it('needs five flights for a baseline and five more to judge', () => {
    const loss = (minutes: readonly number[]) => {
      const times = runTimes(told(flights(minutes)).history.flights, 10)!;
      return runTimeLoss(times)?.percent ?? null;
    };
    expect(loss([10, 10, 10, 10, 8, 8, 8, 8, 8])).toBeNull();
    expect(loss([10, 10, 10, 10, 10, 8, 8, 8, 8, 8])).toBeCloseTo(20, 9);
  });
});

describe('weak cells', () => {
  it('one that came back low is measured against its siblings, before the next charge closes it', () => {
    const { history, rested } = told([
      charge(0),
      flight(2),
      reading(4, [3750, 3750, 3640, 3760]),
      charge(10),
      reading(12, level(lipo, 4200)),
    ]);
    expect(weakAfterUse(rested, history.flights, history.charges)).toMatchObject({ cell: 3, belowMv: 110 });
    expect(weakAfterUse(rested.slice(1), history.flights, history.charges)).toBeNull();
  });

  const weakest = (cells: readonly (number | null)[], underMv = 60) => {
    const records = cells.flatMap((cell, i) => [
      reading(
        i * 24,
        level(lipo, 3760).map((mv, c) => (c + 1 === cell ? mv - underMv : mv)),
      ),
      charge(i * 24 + 2),
    ]);
    const { history, rested } = told(records);
    return recurrence(rested, history.charges, 'lipo', EVEN_KEEL.spread, { times: 3, inCharges: 5 });
  };

  it('three times in five charges is watched, twice is chance', () => {
    expect(weakest([2, null, 2, null, null])).toBeNull();
    expect(weakest([2, null, 2, null, 2])).toMatchObject({ cell: 2, times: 3, ofCharges: 5, timesAgain: 0 });
    expect(weakest([2, 1, 2, 3, 4])).toBeNull();
  });

  it('counts on from there, and forgets after five sound charges in a row', () => {
    expect(weakest([2, 2, 2, 2, null, 2, 2])).toMatchObject({ cell: 2, timesAgain: 3 });
    expect(weakest([2, 2, 2, null, null, null, null, null])).toBeNull();
    // Out of tolerance, but not worth a watch: it stays watched and nothing is counted against it.
    expect(weakest([2, 2, 2, 2, null, 2, 2], 40)).toMatchObject({ cell: 2, timesAgain: 0 });
  });
});

describe('wear', () => {
  it('counts cycles by what went in or what was used, whichever is more, and says what it guessed', () => {
    const { history } = told([
      charge(0, { movedMah: 3300 }),
      flight(1, { usedMah: 3000 }),
      charge(10, { movedMah: 1650 }),
      charge(20, { mode: 'storage', movedMah: 900 }),
    ]);
    expect(cycles(history, 80)).toMatchObject({ count: 1.5, guessed: 0 });
    expect(cycles(told([charge(0), charge(1)]).history, 80)).toMatchObject({ count: 1.6, guessed: 2 });
  });

  it('counts years from service, or from receipt; none for a pack nobody received', () => {
    const year = 365.25 * DAY_MS;
    expect(ageYears(told([received(0)]).history, START + 2 * year)).toBeCloseTo(2, 9);
    const used = aPack({ inServiceAt: START - year });
    expect(ageYears(told([received(0)], used).history, START + year)).toBeCloseTo(2, 9);
    expect(ageYears(told([]).history, START)).toBeNull();
  });
});

const points = (values: readonly number[], everyDays = 7): Point[] =>
  values.map((value, i) => ({ at: START + i * everyDays * DAY_MS, value, records: [] }));

describe('trends', () => {
  it('never draws a line through two points, nor through a fortnight', () => {
    expect(trendOf(points([1, 2]))).toEqual({ enough: false, count: 2, wanted: 6 });
    expect(trendOf(points([1, 2, 3, 4, 5, 6], 2))).toMatchObject({ enough: false, count: 6 });
    expect(trendOf([])).toMatchObject({ enough: false, count: 0 });
  });

  it('finds the slope of a straight line exactly, whatever one wild value says', () => {
    const straight = trendOf(points([10, 11, 12, 13, 14, 15, 16, 17]));
    expect(straight).toMatchObject({ enough: true, scatter: 0 });
    if (straight.enough) expect(straight.perDay).toBeCloseTo(1 / 7, 9);
    const wild = trendOf(points([10, 11, 12, 90, 14, 15, 16, 17]));
    if (wild.enough) expect(wild.perDay).toBeCloseTo(1 / 7, 1);
  });

  it('holds its slope within its interval, for any values', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -100, max: 100 }), { minLength: 6, maxLength: 60 }),
        (values) => {
          const trend = trendOf(points(values));
          if (!trend.enough) throw new Error('six values over five weeks are enough');
          expect(trend.perDayLow).toBeLessThanOrEqual(trend.perDay + 1e-9);
          expect(trend.perDayHigh).toBeGreaterThanOrEqual(trend.perDay - 1e-9);
        },
      ),
    );
  });
});

describe('forecasts', () => {
  const rising = trendOf(points([10, 11, 12, 13, 14, 15, 16, 17]));
  const now: Instant = START + 50 * DAY_MS;

  it('tell when the line is crossed, with the range around it', () => {
    const said = forecast(rising, 30, 'rising', now);
    if (said.state !== 'range') throw new Error(said.state);
    expect((said.expected - START) / DAY_MS).toBeCloseTo(140, 6);
    expect(said.earliest).toBeLessThanOrEqual(said.expected);
    expect(said.latest).toBeGreaterThanOrEqual(said.expected);
  });

  it('say what has crossed, what is not in sight, and when there is not enough', () => {
    expect(forecast(rising, 12, 'rising', now)).toMatchObject({ state: 'crossed' });
    expect(forecast(rising, 5, 'falling', now)).toEqual({ state: 'not-in-sight' });
    expect(forecast(trendOf(points([1, 2])), 5, 'rising', now)).toEqual({
      state: 'not-enough',
      count: 2,
      wanted: 6,
    });
  });

  it('leave the end open when the slope may as well be none', () => {
    const noisy = trendOf(points([10, 14, 9, 15, 10, 14, 11, 15, 10, 13]));
    const said = forecast(noisy, 30, 'rising', now);
    expect(said.state === 'not-in-sight' || (said.state === 'range' && said.latest === null)).toBe(true);
  });

  it('never lie in the past, and their band opens with time', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 8, maxLength: 30 }), (values) => {
        const trend = trendOf(points(values));
        const end = START + values.length * 7 * DAY_MS;
        const said = forecast(trend, 60, 'rising', end);
        if (said.state === 'range') {
          expect(said.earliest).toBeGreaterThanOrEqual(end);
          expect(said.expected).toBeGreaterThanOrEqual(said.earliest);
          if (said.latest !== null) expect(said.latest).toBeGreaterThanOrEqual(said.expected);
        }
        if (!trend.enough) return;
        const width = (days: number) => {
          const { low, high } = trendBand(trend, 'rising', trend.midAt + days * DAY_MS);
          return high - low;
        };
        expect(width(200)).toBeGreaterThanOrEqual(width(100) - 1e-9);
      }),
    );
  });
});

describe('the report of a pack', () => {
  it('of a young pack says that there is not enough', () => {
    const { history, rested } = told([received(-1), reading(0, level(lipo, 3800))]);
    const report = healthReport(history, rested, EVEN_KEEL, START + DAY_MS);
    expect(report.measures.map(({ id }) => id)).toEqual(['spread', 'age']);
    expect(report.measures[0]!.trend).toMatchObject({ enough: false });
    expect(report.retirement?.because).toBe('age');
  });

  it('of a fading pack names the measure that ends it first', () => {
    const records = Array.from({ length: 30 }, (_, i) => [
      charge(i * 168, { balanced: true, movedMah: 2300 }),
      flight(i * 168 + 2, { usedMah: 2310 - i * 20 }),
      reading(i * 168 + 4, level(lipo, 3770)),
    ]).flat();
    const { history, rested } = told([received(-1), ...records]);
    const report = healthReport(history, rested, EVEN_KEEL, START + 210 * DAY_MS);
    expect(report.retirement?.because).toBe('capacity');
    const capacity = report.measures.find(({ id }) => id === 'capacity')!;
    expect(capacity).toMatchObject({ baseline: 100, watch: 80, retire: 70 });
    expect(capacity.toRetire?.state).toBe('range');
  });

  it('compares spread after use only: what a charger has closed says nothing', () => {
    const records = Array.from({ length: 8 }, (_, i) => [
      charge(i * 168),
      flight(i * 168 + 2),
      reading(i * 168 + 4, [3780, 3780, 3780 - 5 * i, 3780]),
      charge(i * 168 + 20, { mode: 'storage' }),
      reading(i * 168 + 24, level(lipo, 3800)),
    ]).flat();
    const { history, rested } = told(records);
    const [spread] = healthReport(history, rested, EVEN_KEEL, START + 60 * DAY_MS).measures;
    expect(spread!.points.map(({ value }) => value)).toEqual([0, 5, 10, 15, 20, 25, 30, 35]);
  });

  it('compares the cells with each other; equal cells have no weakest', () => {
    const { history, rested } = told([reading(0, [3800, 3760, 3800, 3800]), reading(9, level(lipo, 3800))]);
    const cells = cellsCompared(history, rested);
    expect(cells.map(({ lowestTimes }) => lowestTimes)).toEqual([0, 1, 0, 0]);
    expect(cells[1]).toMatchObject({ cell: 2, offMv: -20, ofReadings: 2, irMilliohm: null });
    expect(cellsCompared(told([]).history, [])).toEqual([]);
  });
});
