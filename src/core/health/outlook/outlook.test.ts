import fc from 'fast-check';
import { DAY_MS } from '../../measure';
import { aPack, EVEN_KEEL, START } from '../../testing/histories';
import { foretold, outlookOf } from './outlook';
import type { Outlook, SiblingWear } from './outlook';
import { learnt, siblingsOf, wearShown } from './siblings';
import type { WearShown } from './siblings';
import type { WearValue } from './filter';

const LINES = EVEN_KEEL.health.capacityPercent;

/** Capacity lost, percent, one value every so many days. */
function lossOf(values: readonly number[], everyDays = 14, noise = 1, from = START): readonly WearValue[] {
  return values.map((value, i) => ({ at: from + i * everyDays * DAY_MS, value, noise }));
}

function follow(values: readonly WearValue[], siblings: SiblingWear | null = null): Outlook {
  const told = outlookOf('capacity', { values, sharedSd: 0.8, cell: null }, LINES, { flights: [] }, siblings);
  if (!told) throw new Error('a value is enough to follow');
  return told;
}

function rangeOf(outlook: Outlook, now = outlook.wear.lastAt) {
  const { toWatch } = foretold(outlook, now);
  if (toWatch.state !== 'range') throw new Error(toWatch.state);
  const days = (at: number | null) => (at === null ? Infinity : (at - START) / DAY_MS);
  return {
    earliest: days(toWatch.earliest),
    expected: days(toWatch.expected),
    latest: days(toWatch.latest),
  };
}

/** A straight life: so much lost a day. */
const straight = (count: number, perValue: number) =>
  Array.from({ length: count }, (_, i) => 1 + i * perValue);

describe('wear followed by a filter', () => {
  it('finds a straight line without noise: 20 % at 14 days for 0.5 % is day 532', () => {
    const { earliest, expected, latest } = rangeOf(follow(lossOf(straight(30, 0.5), 14, 0.01)));
    expect(Math.abs(expected - 532)).toBeLessThan(30);
    expect(earliest).toBeLessThan(532);
    expect(latest).toBeGreaterThan(532);
  });

  it('gives the same answer so many days later when all that happened is so many days later', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 15, noNaN: true }), { minLength: 3, maxLength: 25 }),
        fc.integer({ min: -900, max: 900 }),
        (values, days) => {
          const now = foretold(follow(lossOf(values)), START + 400 * DAY_MS).toWatch;
          const moved = follow(lossOf(values, 14, 1, START + days * DAY_MS));
          const then = foretold(moved, START + (400 + days) * DAY_MS).toWatch;
          expect(then.state).toBe(now.state);
          if (now.state === 'range' && then.state === 'range')
            expect((then.expected - now.expected) / DAY_MS).toBeCloseTo(days, 3);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('knows less the noisier its values are', () => {
    const widths = [0.25, 1, 4, 16].map((noise) => {
      const { earliest, latest } = rangeOf(follow(lossOf(straight(24, 0.6), 14, noise)));
      return latest - earliest;
    });
    expect([...widths].sort((a, b) => a - b)).toEqual(widths);
  });

  it('is not moved by one wild value: less than a fifth of the range', () => {
    const values = straight(26, 0.55);
    const { earliest, expected, latest } = rangeOf(follow(lossOf(values)));
    for (const i of [6, 12, 20, 25]) {
      const wild = values.map((value, at) => (at === i ? 100 - (100 - value) / 1.5 : value));
      expect(Math.abs(rangeOf(follow(lossOf(wild))).expected - expected)).toBeLessThan(
        (latest - earliest) / 5,
      );
    }
  });

  it('bends where wear bends, sooner than a straight line would', () => {
    const bent = [...straight(18, 0.2), ...Array.from({ length: 7 }, (_, i) => 4.4 + (i + 1) * 1.2)];
    const { latest } = rangeOf(follow(lossOf(bent)));
    // A line through all 25 values loses 0.36 % a fortnight and reaches 20 % some 300 days later; the bend needs about 90.
    expect(latest).toBeLessThan(24 * 14 + 250);
  });

  it('widens by itself while nobody measures', () => {
    const outlook = follow(lossOf(straight(20, 0.5)));
    const { wear } = outlook;
    const fresh = foretold(outlook, wear.lastAt);
    const old = foretold(outlook, wear.lastAt + 100 * DAY_MS);
    expect(old.soon).toBeGreaterThan(fresh.soon);
  });
});

describe('packs of one type', () => {
  const shown = (pace: number, more: Partial<WearShown> = {}): WearShown => ({
    measure: 'capacity',
    pace: 1 / pace,
    days: 600,
    knees: 0,
    ...more,
  });

  it('teach nothing while they are fewer than three', () => {
    expect(learnt([shown(400), shown(420)])).toBeNull();
    expect(siblingsOf([shown(400), shown(420), shown(410, { measure: 'resistance' })])).toEqual({});
  });

  it('draw the pace towards their own, the more the more they are', () => {
    const three = learnt([shown(300), shown(310), shown(290)])!;
    const twelve = learnt(Array.from({ length: 12 }, () => shown(300)))!;
    expect(1 / three.pace.mean).toBeGreaterThan(300);
    expect(1 / three.pace.mean).toBeLessThan(770);
    expect(1 / twelve.pace.mean).toBeLessThan(1 / three.pace.mean);
    expect(twelve.pace.sd / twelve.pace.mean).toBeLessThan(three.pace.sd / three.pace.mean);
    expect(twelve.packs).toBe(12);
  });

  it('make knees likelier where knees run in the type, and never likelier than once in 150 days', () => {
    const calm = learnt([shown(500), shown(500), shown(500)])!;
    const kneed = learnt([1, 1, 1, 1].map((knees) => shown(500, { knees })))!;
    const absurd = learnt(Array.from({ length: 40 }, () => shown(500, { days: 150, knees: 8 })))!;
    expect(calm.kneeHazard).toBeLessThan(1 / 900);
    expect(kneed.kneeHazard).toBeGreaterThan(1 / 900);
    expect(absurd.kneeHazard).toBe(1 / 150);
  });

  it('move a pack that has shown little, and hardly one that has shown much', () => {
    const quick = learnt(Array.from({ length: 10 }, () => shown(250)))!;
    const moved = (count: number) => {
      const values = lossOf(straight(count, 0.35), 14, 1);
      const [own, borrowed] = [rangeOf(follow(values)), rangeOf(follow(values, quick))];
      return (own.expected - borrowed.expected) / own.expected;
    };
    expect(moved(2)).toBeGreaterThan(0.1);
    expect(moved(30)).toBeLessThan(moved(2) / 2);
  });

  it('are heard only once a pack is old enough: a young one shows nothing', () => {
    const history = { pack: aPack({ inServiceAt: START }), receivedAt: START };
    expect(wearShown(history, [follow(lossOf(straight(8, 0.5)))])).toEqual([]);
    const [old] = wearShown(history, [follow(lossOf(straight(40, 0.5)))]);
    expect(old).toMatchObject({ measure: 'capacity', days: 546 });
    // 0.5 % a fortnight is a 20 % way in 560 days.
    expect(1 / old!.pace).toBeGreaterThan(500);
    expect(1 / old!.pace).toBeLessThan(620);
  });
});
