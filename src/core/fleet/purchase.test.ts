import fc from 'fast-check';
import type { PackId } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  decision,
  EVEN_KEEL,
  flight,
  inspection,
  level,
  reading,
  received,
  resistance,
  START,
} from '../testing/histories';
import {
  arrivals,
  fleetPack,
  joinedOrders,
  lifetimeOf,
  lifetimeOfNew,
  lossRate,
  paceOf,
  purchase,
  purchaseRun,
  reserveAMonth,
} from '.';
import type { FleetType } from '.';

const DAY = 24 * 3_600_000;
const YEAR = 365.25;
/** A life of which one measure is known: it ends on one of these days. */
const life = (...days: number[]) => [Float64Array.from(days)];
const forEver = life(Infinity);
const type = (more: Partial<FleetType<string>> = {}): FleetType<string> => ({
  id: 'A',
  lives: [],
  fresh: forEver,
  wanted: 0,
  price: 100,
  pace: 1,
  ...more,
});
const assumed = { lossesAYear: 0, quarters: 8, draws: 400, seed: 7 };
const middles = (types: readonly FleetType<string>[], more = {}) =>
  purchase(types, { ...assumed, ...more }).types.map(({ upTo }) => upTo.map(({ middle }) => middle));

describe('what is to be bought', () => {
  it('what is missing today is bought today, and what lasts is not replaced', () => {
    expect(middles([type({ lives: [forEver, forEver], wanted: 5 })])).toEqual([Array(8).fill(3)]);
    expect(middles([type({ lives: [forEver, forEver], wanted: 2 })])).toEqual([Array(8).fill(0)]);
    expect(middles([type({ lives: [forEver, forEver], wanted: 0 })])).toEqual([Array(8).fill(0)]);
    expect(middles([type()])).toEqual([Array(8).fill(0)]);
  });

  it('a pack that is over today is replaced in the first quarter, one too many is not', () => {
    expect(middles([type({ lives: [life(0), forEver], wanted: 2 })])[0]).toEqual(Array(8).fill(1));
    expect(middles([type({ lives: [life(0), forEver], wanted: 1 })])[0]).toEqual(Array(8).fill(0));
  });

  it('what was bought wears and is replaced in its turn', () => {
    const [upTo] = middles([type({ lives: [life(0)], fresh: life(YEAR / 3), wanted: 1 })]);
    expect(upTo![0]).toBe(1);
    expect(upTo!.at(-1)!).toBeGreaterThanOrEqual(4);
  });

  it('twice the pace halves the time, and a price that nobody knows costs nothing', () => {
    const end = (lives: ReturnType<typeof life>, pace: number) =>
      middles([type({ lives: [lives], wanted: 1, pace })])[0]!.findIndex((count) => count === 1);
    expect(end(life(300), 1)).toBe(end(life(600), 2));
    const { money } = purchase(
      [type({ lives: [life(0)], wanted: 1 }), type({ id: 'B', lives: [life(0)], wanted: 1, price: null })],
      assumed,
    );
    expect(money.at(-1)).toEqual({ low: 100, middle: 100, high: 100 });
  });

  it('holds for any fleet: ranges in order, sums that only rise, the same answer twice and in steps', () => {
    const days = fc.array(fc.float({ min: 0, max: 4_000, noNaN: true }), { minLength: 1, maxLength: 20 });
    const lives = fc.array(
      days.map((list) => life(...list.sort((a, b) => a - b))),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(
        lives,
        days,
        fc.nat(15),
        fc.float({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 60 }),
        (packs, fresh, wanted, lossesAYear, step) => {
          const asked = [
            type({
              lives: packs,
              fresh: life(...fresh.map((one) => one + 30).sort((a, b) => a - b)),
              wanted,
            }),
          ];
          const how = { ...assumed, draws: 60, lossesAYear };
          const whole = purchase(asked, how);
          const run = purchaseRun(asked, how);
          while (!run.go(step));
          expect(run.answer()).toEqual(whole);
          const { quarters, upTo, gone } = whole.types[0]!;
          for (const range of [...quarters, ...upTo, ...whole.money, gone]) {
            expect(range.low).toBeLessThanOrEqual(range.middle);
            expect(range.middle).toBeLessThanOrEqual(range.high);
          }
          for (let i = 1; i < upTo.length; i += 1)
            expect(upTo[i]!.low).toBeGreaterThanOrEqual(upTo[i - 1]!.low);
          // Never more is bought than goes and was missing.
          expect(upTo.at(-1)!.high).toBeLessThanOrEqual(gone.high + Math.max(0, wanted - packs.length));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('packs of one type go together more than by chance: twenty are foretold less surely than one by one', () => {
    const spread = life(...Array.from({ length: 200 }, (_, i) => 20 * i));
    const { low, high } = purchase(
      [type({ lives: Array.from({ length: 20 }, () => spread), wanted: 20 })],
      assumed,
    ).types[0]!.gone;
    // By chance alone it would be about 4 wide.
    expect(high - low).toBeGreaterThan(6);
  });

  it('a type whose new packs would be over at once is bought again each month, and the sum comes to an end', () => {
    const [upTo] = middles([type({ lives: [life(0)], fresh: life(0), wanted: 1 })], { draws: 20 });
    expect(upTo!.at(-1)).toBe(25);
  });

  it('losses that are no wear are joined with what is usual', () => {
    expect(lossRate(0, 0)).toBe(0.05);
    expect(lossRate(20, 75)).toBeCloseTo(0.2125, 4);
    const [upTo] = middles([type({ lives: Array.from({ length: 30 }, () => forEver), wanted: 30 })], {
      lossesAYear: 0.1,
    });
    expect(upTo!.at(-1)).toBeGreaterThanOrEqual(4);
    expect(upTo!.at(-1)).toBeLessThanOrEqual(8);
  });

  it('flying twice as much ages by use, storing full by time, and both as today change nothing', () => {
    expect(paceOf(1, 0.4, 0.4)).toBe(1);
    expect(paceOf(2, 0, 0)).toBe(1.7);
    expect(paceOf(1, 1, 0)).toBeCloseTo(0.76, 6);
    expect(paceOf(1, 0, 1)).toBeCloseTo(2.2, 6);
  });
});

describe('orders and what is put aside', () => {
  const said = purchase([type({ lives: [life(0), life(0), forEver], wanted: 3 })], assumed);

  it('an order covers what is likely until the next one, and none is made for nothing', () => {
    expect(joinedOrders(said, 4)).toEqual([{ quarter: 0, lines: [{ id: 'A', packs: 2 }] }]);
    expect(joinedOrders(purchase<string>([], assumed), 2)).toEqual([]);
  });

  it('the orders of two years come to the same, however they are joined', () => {
    const fresh = life(...Array.from({ length: 50 }, (_, i) => 40 * (i + 1)));
    const bought = purchase(
      [type({ lives: Array.from({ length: 9 }, () => fresh), fresh, wanted: 9 })],
      assumed,
    );
    const sums = [1, 2, 4, 8].map((every) =>
      joinedOrders(bought, every).reduce(
        (sum, { lines }) => sum + lines.reduce((all, { packs }) => all + packs, 0),
        0,
      ),
    );
    expect(new Set(sums).size).toBe(1);
  });

  it('what is put aside is enough at the end of every quarter', () => {
    expect(reserveAMonth([])).toBe(0);
    expect(reserveAMonth(said.money)).toBeCloseTo(200 / 3, 6);
  });
});

describe('what a pack tells of its fleet', () => {
  const pack = aPack({ inServiceAt: START });
  const rules = EVEN_KEEL;
  const retire = (because: readonly string[]) =>
    decision(24 * 200, { to: 'retire', because, secondWanted: false });

  it('goes worn out or lost by why it was retired, and its years end there', () => {
    const at = (records: readonly PackRecord[]) => fleetPack(fold(pack, records), rules, START + 400 * DAY);
    expect(at([reading(0, level(pack, 3800))])).toMatchObject({ state: 'in-service', years: 400 / YEAR });
    expect(at([retire(['capacity'])])).toMatchObject({ state: 'worn-out', cyclesAYear: 0 });
    expect(at([retire([])])).toMatchObject({ state: 'lost', years: 200 / YEAR });
  });

  it('counts the cycles of the last year, and of a younger pack as a rate', () => {
    const flown = Array.from({ length: 10 }, (_, i) => flight(i * 24, { usedMah: 2640 }));
    expect(fleetPack(fold(pack, flown), rules, START + 30 * DAY).cyclesAYear).toBeCloseTo(10 * 0.8 * 4, 0);
    expect(fleetPack(fold(pack, flown), rules, START + 800 * DAY).cyclesAYear).toBe(0);
  });

  it('a pack that nobody measured lasts as its type does, given its age; one too old for that is over', () => {
    const fresh = lifetimeOfNew(rules, {});
    const young = lifetimeOf(fold(pack, []), rules, START, []);
    expect(young[0]).toHaveLength(fresh[0]!.filter((days) => days > 0).length);
    const old = lifetimeOf(fold(pack, []), rules, START + 400 * DAY, []);
    for (const [i, days] of old.entries()) {
      const left = fresh[i]!.filter((one) => one > 400);
      expect([...days]).toEqual([...left].map((one) => one - 400));
    }
  });

  it('what siblings taught shortens what a new pack may last', () => {
    const median = (list: Float64Array) => list[list.length >> 1]!;
    const fast = { capacity: { pace: { mean: 1 / 250, sd: 1 / 900 }, kneeHazard: 1 / 900, packs: 6 } };
    expect(median(lifetimeOfNew(rules, fast)[0]!)).toBeLessThan(0.6 * median(lifetimeOfNew(rules, {})[0]!));
  });
});

describe('what came bad from the box', () => {
  const rules = EVEN_KEEL;
  const one = (n: number, records: readonly PackRecord[]) =>
    fold(aPack({ id: `pack-${n}` as PackId }), [received(0), ...records]);
  const about = (...histories: ReturnType<typeof one>[]) =>
    arrivals(histories, rules).map(({ complaints }) => complaints.map((complaint) => complaint.about));

  it('cells that came low or apart are a complaint, at the limit they are none', () => {
    const band = rules.storage.lipo.bandLowMv - rules.arrivalMv;
    expect(
      about(
        one(1, [reading(2, level(aPack(), 3800))]),
        one(2, [reading(2, [band, band, band, band])]),
        one(3, [reading(2, level(aPack(), band - 10))]),
        one(4, [reading(2, [3800, 3800, 3800, 3760])]),
      ),
    ).toEqual([[], [], ['level'], ['spread']]);
  });

  it('what was charged first says nothing of how it came, and nobody looked is no praise', () => {
    expect(about(one(1, [charge(1), reading(3, level(aPack(), 3400))]))).toEqual([[]]);
    expect(arrivals([one(2, [])], rules)[0]).toMatchObject({ read: null, milliohm: null, lookedAt: null });
    expect(about(one(3, [reading(24 * 90, level(aPack(), 3400))]))).toEqual([[]]);
  });

  it('one whose resistance stands apart from the others of its delivery is named; of two nobody can say which', () => {
    const ohms = (n: number, milliohm: number) =>
      one(n, [resistance(3, [milliohm, milliohm, milliohm, milliohm])]);
    expect(about(ohms(1, 4), ohms(2, 4.1), ohms(3, 3.9), ohms(4, 8))).toEqual([[], [], [], ['resistance']]);
    expect(about(ohms(1, 4), ohms(2, 8))).toEqual([[], []]);
  });

  it('what the look on receipt failed is evidence', () => {
    expect(about(one(1, [inspection(1, 'receipt', {}, ['swelling'])]))).toEqual([['look']]);
  });
});
