import { DAY_MS, MINUTE_MS } from '../measure';
import type { PersonId } from '../measure';
import { bell, seededRandom } from '../random';
import { fold } from '../record';
import { PRESET_RULES } from '../rules';
import { aPack, charge, flight, reading, START } from '../testing/histories';
import { flightCard, flyingFacts, hoverStep, landingsOf, landingTarget } from '.';
import type { Landing } from '.';

const landing = (stepMv: number, more: Partial<Landing> = {}): Landing => ({
  at: START,
  recordId: 'r' as Landing['recordId'],
  pilot: null,
  flownBy: null,
  craftId: null,
  craft: null,
  setup: 0,
  minutes: null,
  usedMah: null,
  depthPercent: null,
  loadedMv: 3_500,
  restedMv: 3_500 + stepMv,
  ambientC: null,
  ...more,
});

it('a craft’s step comes within 15 mV of the true one after ten returns with noise and outliers', () => {
  let off = 0;
  const clubs = 500;
  for (let seed = 1; seed <= clubs; seed++) {
    const random = seededRandom(seed);
    const trueMv = 100 + random() * 150;
    // Two of ten are a dip read by mistake, a pack read too early, or a slip of a key.
    const returns = Array.from({ length: 10 }, (_, i) =>
      landing(Math.round(trueMv + (i % 5 === 4 ? 120 + random() * 250 : bell(random) * 15))),
    );
    const learned = hoverStep(returns)!;
    if (Math.abs(learned.stepMv - trueMv) > 15) off += 1;
    expect(learned.returns + learned.leftOut).toBe(10);
  }
  // 15 mV are three of its standard errors.
  expect(off / clubs).toBeLessThan(0.02);
});

it('the stated range holds the true step nineteen times in twenty', () => {
  let inside = 0;
  for (let seed = 1; seed <= 400; seed++) {
    const random = seededRandom(seed * 7);
    const returns = Array.from({ length: 12 }, () => landing(Math.round(180 + bell(random) * 20)));
    const { stepMv, plusMinusMv } = hoverStep(returns)!;
    if (Math.abs(stepMv - 180) <= plusMinusMv) inside += 1;
  }
  expect(inside / 400).toBeGreaterThan(0.92);
});

it('nothing is learned from two returns, from none, or from before the propellers were changed', () => {
  expect(hoverStep([])).toBeNull();
  expect(hoverStep([landing(150), landing(160)])).toBeNull();
  const before = Array.from({ length: 8 }, () => landing(150));
  expect(hoverStep([...before, landing(230, { setup: 1 }), landing(231, { setup: 1 })])).toBeNull();
  const after = [230, 232, 228].map((step) => landing(step, { setup: 1 }));
  expect(hoverStep([...before, ...after])).toMatchObject({ stepMv: 230, returns: 3 });
});

const pack4S = aPack();
const level = (mv: number) => Array.from({ length: pack4S.series }, () => mv);
const flown = (hour: number, loadedMv: number, more: object = {}) =>
  flight(hour, {
    minutes: 10,
    landing: { volts: { of: 'cells', cellsMv: level(loadedMv) }, condition: 'loaded' },
    ...more,
  });

it('a landing is joined with the first rested reading after it, by its lowest cell', () => {
  const cells = [3_690, 3_700, 3_710, 3_700, 3_705, 3_700].slice(0, pack4S.series);
  const history = fold(pack4S, [flown(24, 3_520), reading(25, cells)]);
  expect(landingsOf(history, 3_300)).toMatchObject([{ loadedMv: 3_520, restedMv: Math.min(...cells) }]);
});

it('volts of the whole pack are compared with the mean cell', () => {
  const volts = { of: 'pack', packMv: 3_500 * pack4S.series } as const;
  const cells = level(3_700).map((mv, i) => (i === 0 ? mv - 40 : mv));
  const history = fold(pack4S, [
    flown(24, 0, { landing: { volts, condition: 'loaded' } }),
    reading(25, cells),
  ]);
  const mean = Math.round(cells.reduce((sum, mv) => sum + mv, 0) / cells.length);
  expect(landingsOf(history, 3_300)[0]).toMatchObject({ loadedMv: 3_500, restedMv: mean });
});

it('a reading after a charge, after the next flight, or a day later belongs to no landing', () => {
  const rested = (hour: number) => reading(hour, level(3_700));
  const of = (...records: Parameters<typeof fold>[1]) =>
    landingsOf(fold(pack4S, records), 3_300)[0]!.restedMv;
  expect(of(flown(24, 3_500), rested(26))).toBe(3_700);
  expect(of(flown(24, 3_500), charge(27, { minutes: 60 }), rested(28))).toBeNull();
  expect(of(flown(24, 3_500), flown(27, 3_500), rested(28))).toBeNull();
  expect(of(flown(24, 3_500), rested(49))).toBeNull();
});

it('volts read while settling are no landing volts', () => {
  const volts = { of: 'cells', cellsMv: level(3_600) } as const;
  const history = fold(pack4S, [flown(24, 0, { landing: { volts, condition: 'settling' } })]);
  expect(landingsOf(history, 3_300)[0]!.loadedMv).toBeNull();
});

const rules = PRESET_RULES['even-keel'];
const step = { stepMv: 180, plusMinusMv: 12, returns: 9, leftOut: 1 };

it('the landing target is told under load and rested', () => {
  expect(landingTarget('lipo', rules, step)).toEqual({ loadedMv: 3_500, restedMv: 3_680 });
  expect(landingTarget('liion', rules, null)).toEqual({ loadedMv: 3_100, restedMv: null });
});

it('the timer follows 80 % of the measured capacity, the cold shortens it, and an uncharged pack counts by what it holds', () => {
  const craft = { usualMah: 4_000, usualMinutes: 12 };
  const pack = { chemistry: 'lipo', measuredMah: 5_000, socPercent: 100 } as const;
  // 20 A on average: 0.8 × 5 × 60 ÷ 20 = 12 minutes.
  expect(flightCard(pack, craft, step, rules, 15)).toMatchObject({
    timerMinutes: 12,
    cold: false,
    short: false,
  });
  expect(flightCard(pack, craft, step, rules, 9.9)).toMatchObject({
    timerMinutes: 9,
    cold: true,
    land: { loadedMv: 3_600, restedMv: 3_780 },
  });
  expect(flightCard({ ...pack, socPercent: 60 }, craft, step, rules, null)).toMatchObject({
    timerMinutes: 6,
    short: true,
  });
  expect(flightCard({ ...pack, socPercent: 15 }, craft, step, rules, null)).toMatchObject({
    timerMinutes: 0,
    short: true,
  });
  expect(flightCard(pack, { usualMah: null, usualMinutes: 12 }, null, rules, null).timerMinutes).toBeNull();
});

it('what a pilot owes ends with a rested reading or a charge', () => {
  const owedAfter = (...records: Parameters<typeof fold>[1]) =>
    flyingFacts(fold(pack4S, records), 3_300, rules).owed;
  const at = START + DAY_MS;
  expect(owedAfter(flown(24, 3_500))).toMatchObject({
    flownAt: at,
    coolAt: at + rules.heat.coolMinutes * MINUTE_MS,
    readFrom: at + 30 * MINUTE_MS,
  });
  expect(owedAfter(flown(24, 3_500), reading(25, level(3_700)))).toBeNull();
  expect(owedAfter(flown(24, 3_500), charge(26, { minutes: 40 }))).toBeNull();
  expect(owedAfter(flown(24, 3_500, { flownBy: 'a visitor' }))).toBeNull();
  expect(owedAfter(flown(24, 3_500, { pilotId: 'ada' as PersonId }))).toMatchObject({ by: 'ada' });
});
