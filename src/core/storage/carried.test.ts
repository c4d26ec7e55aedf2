import fc from 'fast-check';
import { restedReadings } from '../assess';
import { LITHIUM_CHEMISTRIES, restMv, socPercent } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { PersonId, PlaceId } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { PackHistory, PackRecord } from '../record';
import {
  aPack,
  charge,
  EVEN_KEEL,
  flight,
  found,
  judged,
  level,
  moved,
  reading,
  START,
} from '../testing/histories';
import {
  carriedForward,
  carry,
  clippedFrom,
  clippedTo,
  complianceShare,
  exposureByHolder,
  exposureDays,
  fullTimeBetween,
  nextUse,
  storageEvidence,
  storageHours,
} from '.';

const lipo = aPack();
const smart = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 48 } });
const at = (hours: number) => START + hours * HOUR_MS;

function carried(pack: PackFacts, records: readonly PackRecord[], hours: number) {
  const history = fold(pack, records);
  const { rested } = restedReadings(history, EVEN_KEEL);
  const stretches = carriedForward(pack, storageEvidence(history, rested), EVEN_KEEL, at(hours));
  return { history, stretches };
}

describe('the clock between records', () => {
  it('starts when a charge ended, not when somebody read the pack', () => {
    const said = judged(lipo, [reading(0, level(lipo, 3800)), charge(5), reading(20, level(lipo, 4190))], 21);
    expect(said.storage).toMatchObject({ state: 'high', since: at(5), dueAt: at(53) });
  });

  it('a gentle charge that ends inside the band starts none, and waits to be confirmed', () => {
    const said = judged(lipo, [charge(5, { endCellsMv: level(lipo, 3840) })], 6);
    expect(said.storage).toMatchObject({ state: 'pending', by: 'job', since: at(5) });
  });

  it('stops at a completed storage job, pending until a rested reading confirms it', () => {
    const records = [charge(0), charge(10, { mode: 'storage' })];
    const said = judged(lipo, records, 11);
    expect(said.storage).toMatchObject({ state: 'pending', by: 'job', since: at(10) });
    expect(said.steps[0]).toMatchObject({ do: 'measure-rested', dueAt: at(10.5) });
    const read = judged(lipo, [...records, reading(12, level(lipo, 3800))], 13);
    expect(read.storage.state).toBe('in-band');
  });

  it('runs on when the reading shows that the job did not do it', () => {
    const said = judged(
      lipo,
      [charge(0), charge(10, { mode: 'storage' }), reading(12, level(lipo, 3900))],
      13,
    );
    expect(said.storage).toMatchObject({ state: 'high', since: at(12) });
  });

  it('a storage job that was stopped leaves the pack unknown', () => {
    const said = judged(lipo, [charge(0), charge(10, { mode: 'storage', ending: 'stopped' })], 11);
    expect(said.storage).toMatchObject({ state: 'unmeasured', since: at(10) });
  });

  it('a pack used since its last reading asks to be measured, rested', () => {
    const said = judged(lipo, [charge(0), flight(5)], 6);
    expect(said).toMatchObject({ verdict: 'fit', mayFly: 'measure-first', storage: { state: 'unmeasured' } });
    expect(said.steps[0]).toEqual({ do: 'measure', dueAt: at(5.5), because: 'unmeasured' });
  });

  it('counts low from the landing, and goes on counting high when it never came down', () => {
    const low = judged(lipo, [charge(0), flight(5), reading(8, level(lipo, 3600))], 9);
    expect(low.storage).toMatchObject({ state: 'low', since: at(5) });
    const high = judged(lipo, [charge(0), flight(5), reading(8, level(lipo, 4000))], 9);
    expect(high.storage).toMatchObject({ state: 'high', since: at(0) });
  });

  it('two uses in a row count from what was known before the first', () => {
    const said = judged(lipo, [charge(0), flight(5), flight(6), reading(8, level(lipo, 4000))], 9);
    expect(said.storage).toMatchObject({ state: 'high', since: at(0) });
  });

  it('a reading too soon after a charge or a flight decides nothing', () => {
    expect(judged(lipo, [charge(0), reading(0.2, level(lipo, 3800))], 1).storage.state).toBe('high');
    expect(judged(lipo, [flight(0), reading(0.4, level(lipo, 3800))], 1).storage.state).toBe('unmeasured');
    expect(judged(lipo, [flight(0), reading(0.5, level(lipo, 3800))], 1).storage.state).toBe('in-band');
  });

  it('a smart pack bleeds itself to storage six days after its delay, and waits to be confirmed', () => {
    const before = judged(smart, [charge(0)], 48 + 6 * 24 - 1);
    expect(before.storage).toMatchObject({ state: 'self-storing', bledAt: at(48 + 144) });
    expect(found(before)).toEqual({ 'self-storing': 'note' });
    const late = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 49 } });
    expect(judged(late, [charge(0)], 60).storage).toMatchObject({
      state: 'high',
      dueAt: at(48),
      bledAt: at(193),
    });
    expect(found(judged(late, [charge(0)], 60))).toMatchObject({ 'smart-settings': 'note' });
    const after = judged(smart, [charge(0)], 48 + 6 * 24);
    expect(after.storage).toMatchObject({ state: 'pending', by: 'own-bleed', since: at(192) });
    const off = aPack({ smart: { autoStorage: false, autoStorageAfterHours: 48 } });
    expect(judged(off, [charge(0)], 1000).storage).toMatchObject({ state: 'high', bledAt: null });
  });
});

describe('what a pack held between its records', () => {
  it('loses three percent a month on the shelf', () => {
    const { stretches } = carried(lipo, [reading(0, level(lipo, 4200))], 60 * 24);
    expect(stretches).toHaveLength(1);
    expect(stretches[0]).toMatchObject({ fromPercent: 100, known: true });
    expect(stretches[0]!.toPercent).toBeCloseTo(94, 6);
  });

  it('follows a smart pack from full through its bleed to storage', () => {
    const { stretches } = carried(smart, [charge(0)], 20 * 24);
    const stored = socPercent('lipo', EVEN_KEEL.storage.lipo.targetMv);
    expect(stretches.map(({ to }) => (to - START) / HOUR_MS)).toEqual([48, 192, 480]);
    expect(stretches[1]!.toPercent).toBeCloseTo(stored, 6);
    expect(stretches[2]!.toPercent).toBeLessThan(stored);
  });

  it('takes out what a use says it took, and never counts an unnoted use as full', () => {
    const noted = carried(lipo, [charge(0), flight(1, { usedMah: 1650 })], 2).stretches.at(-1)!;
    expect(noted.known).toBe(false);
    expect(noted.fromPercent).toBeCloseTo(50, 1);
    expect(carried(lipo, [charge(0), flight(1)], 2).stretches.at(-1)!.fromPercent).toBe(20);
  });
});

describe('the exposure ledger', () => {
  const someone = '0195a000-0000-7000-8000-000000000077' as PersonId;

  it('a day full at the shelf’s 20 °C counts 0.71 of a day, to whoever held it', () => {
    const { history, stretches } = carried(
      lipo,
      [charge(0), moved(12, someone), moved(36, null), reading(48, level(lipo, 3800))],
      200,
    );
    const held = exposureByHolder(history, stretches, EVEN_KEEL);
    expect(held.map(({ holderId }) => holderId).sort()).toEqual([someone, null].sort());
    for (const { days } of held) expect(days).toBeCloseTo(2 ** -0.5, 1);
  });

  it('ten separate days count as ten in a row', () => {
    const days = (gap: number) => {
      const records = Array.from({ length: 10 }, (_, i) => [
        charge(i * gap),
        reading(i * gap + 23.9, level(lipo, 3800)),
      ]).flat();
      const { history, stretches } = carried(lipo, records, 10 * gap);
      return exposureByHolder(history, stretches, EVEN_KEEL).reduce((sum, one) => sum + one.days, 0);
    };
    expect(days(24)).toBeCloseTo(days(240), 1);
  });

  it('more time at full never lowers it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LITHIUM_CHEMISTRIES),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.integer({ min: 1, max: 90 }),
        fc.integer({ min: 0, max: 90 }),
        (chemistry, a, b, days, more) => {
          const stretch = (length: number) => ({
            from: START,
            to: START + length * DAY_MS,
            fromPercent: Math.max(a, b),
            toPercent: Math.max(a, b),
            known: true,
          });
          const short = exposureDays(fold(aPack(), []), stretch(days), chemistry, EVEN_KEEL);
          const long = exposureDays(fold(aPack(), []), stretch(days + more), chemistry, EVEN_KEEL);
          expect(long).toBeGreaterThanOrEqual(short - 1e-9);
          expect(short).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });
});

describe('days full between two moments', () => {
  const shelf = 'shelf' as PlaceId;
  const van = 'van' as PlaceId;
  const placeTemperatures = [
    { placeId: shelf, since: 0, celsius: 15 },
    { placeId: van, since: 0, celsius: 35 },
    { placeId: van, since: at(700), celsius: 5 },
  ];

  it('are what the stretches between them add up to one by one, wherever the two moments lie', () => {
    const hours = fc.integer({ min: -50, max: 2_000 });
    const happened = fc.array(
      fc.record({ hours: fc.integer({ min: 0, max: 1_500 }), what: fc.integer({ min: 0, max: 3 }) }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(happened, hours, hours, (list, a, b) => {
        const records = list.map(({ hours: hour, what }) => {
          if (what === 0) return charge(hour);
          if (what === 1) return reading(hour, level(lipo, 4100));
          return moved(hour, null, what === 2 ? shelf : van);
        });
        const history = fold(aPack({ placeTemperatures }), records);
        const evidence = storageEvidence(history, restedReadings(history, EVEN_KEEL).rested);
        const whole = carry(history.pack, evidence, EVEN_KEEL, at(1_900));
        const [from, to] = [at(Math.min(a, b)), at(Math.max(a, b))];
        const parts = [...whole.past, ...whole.open].flatMap((stretch) => {
          const part = clippedFrom(stretch, from);
          return part && part.from < to ? [clippedTo(part, to)] : [];
        });
        const days = parts.map((part) => exposureDays(history, part, 'lipo', EVEN_KEEL));
        const full = fullTimeBetween(history, whole, EVEN_KEEL, from, to);
        expect(full.days).toBeCloseTo(
          days.reduce((sum, one) => sum + one, 0),
          9,
        );
        const most = Math.max(0, ...days);
        const longest = full.longest();
        if (most > 0) expect(longest.from).toBe(parts[days.indexOf(most)]!.from);
      }),
    );
  });
});

describe('compliance over time', () => {
  it('parts the hours into in band, allowed, overdue and unknown, period by period', () => {
    const records = [
      reading(0, level(lipo, 3800)),
      charge(100),
      flight(200),
      reading(210, level(lipo, 3800)),
    ];
    const { history, stretches } = carried(lipo, records, 300);
    const hours = storageHours(history, stretches, EVEN_KEEL, [at(0), at(150), at(300)]);
    const sum = (period: number, of: 'inBand' | 'allowed' | 'overdue' | 'unknown') =>
      Math.round(hours.filter((one) => one.period === period).reduce((total, one) => total + one[of], 0));
    expect([sum(0, 'inBand'), sum(0, 'allowed'), sum(0, 'overdue'), sum(0, 'unknown')]).toEqual([
      100, 48, 2, 0,
    ]);
    expect([sum(1, 'inBand'), sum(1, 'allowed'), sum(1, 'overdue'), sum(1, 'unknown')]).toEqual([
      90, 0, 50, 10,
    ]);
  });

  it('unknown is not compliant, and no hours have no share', () => {
    expect(complianceShare({ inBand: 0, allowed: 0, overdue: 0, unknown: 5 })).toBe(0);
    expect(complianceShare({ inBand: 0, allowed: 0, overdue: 0, unknown: 0 })).toBeNull();
  });
});

describe('the next flying day', () => {
  const storage = (records: readonly PackRecord[], hours: number) => judged(lipo, records, hours).storage;

  it('leaves a charged pack charged when it flies within the allowance, to the hour', () => {
    const high = storage([charge(0)], 10);
    expect(nextUse(high, at(48))).toEqual({ advice: 'leave-charged', until: at(48) });
    expect(nextUse(high, at(48.01))).toEqual({ advice: 'put-to-storage', by: at(48) });
    expect(nextUse(high, null)).toEqual({ advice: 'put-to-storage', by: at(48) });
  });

  it('tells a stored pack when to be charged, a low one to come up, an unread one to be measured', () => {
    const stored = storage([reading(0, level(lipo, 3800))], 1);
    expect(nextUse(stored, at(40))).toEqual({ advice: 'charge-before', from: at(26) });
    expect(nextUse(stored, null)).toEqual({ advice: 'leave-stored' });
    expect(nextUse(storage([reading(0, level(lipo, 3600))], 1), at(5))).toMatchObject({
      advice: 'put-to-storage',
    });
    expect(nextUse(storage([], 1), at(5))).toEqual({ advice: 'measure-first' });
  });
});

it('volts noted before a charge nobody timed are those of before it, and count as rested', () => {
  const said = judged(lipo, [charge(10, { startCellsMv: level(lipo, 3700) })], 11);
  expect(said.latest?.at).toBe(at(9));
  expect(said.storage).toMatchObject({ state: 'high', since: at(10) });
});

it('carries volts as the curve has them', () => {
  expect(restMv('lipo', 40)).toBe(3800);
});

describe('a pack ages as warm as its place', () => {
  const shelf = 'shelf' as PlaceId;
  const van = 'van' as PlaceId;
  const full = { from: START, to: START + 10 * DAY_MS, fromPercent: 100, toPercent: 100, known: true };
  const lying = (placeTemperatures: PackFacts['placeTemperatures'], ...records: PackRecord[]) =>
    fold(aPack({ placeTemperatures }), records);
  const days = (history: PackHistory) => exposureDays(history, full, 'lipo', { ...EVEN_KEEL, shelfC: 25 });

  it('counts a day full at 25 °C as one, and as two at 35 °C', () => {
    expect(days(lying([]))).toBeCloseTo(10, 6);
    expect(days(lying([{ placeId: van, since: 0, celsius: 35 }], moved(-1, null, van)))).toBeCloseTo(20, 6);
  });

  it('follows a pack from place to place, and a place through its own changes', () => {
    const temperatures = [
      { placeId: shelf, since: 0, celsius: 15 },
      { placeId: van, since: 0, celsius: 35 },
      { placeId: van, since: START + 8 * DAY_MS, celsius: 45 },
    ];
    const history = lying(temperatures, moved(-1, null, shelf), moved(5 * 24, null, van));
    expect(days(history)).toBeCloseTo(5 * 0.5 + 3 * 2 + 2 * 4, 6);
  });

  it('takes the rules’ figure where nobody measures', () => {
    expect(days(lying([{ placeId: shelf, since: 0, celsius: 15 }], moved(-1, null, van)))).toBeCloseTo(10, 6);
    expect(
      days(lying([{ placeId: shelf, since: START + 4 * DAY_MS, celsius: 15 }], moved(-1, null, shelf))),
    ).toBeCloseTo(4 + 6 * 0.5, 6);
  });
});
