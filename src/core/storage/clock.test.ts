import fc from 'fast-check';
import { LITHIUM_CHEMISTRIES } from '../chemistry';
import { HOUR_MS } from '../measure';
import { PRESETS, PRESET_RULES } from '../rules';
import { aPack, EVEN_KEEL, judged, level, reading, START } from '../testing/histories';
import { bandSide, hoursOut, isCompliant, isOverdue, storageJob } from '.';
import type { StorageState } from '.';

function clockOf(state: StorageState) {
  if (state.state !== 'high' && state.state !== 'low') throw new Error(`no clock: ${state.state}`);
  return { state: state.state, since: (state.since - START) / HOUR_MS, due: (state.dueAt - START) / HOUR_MS };
}

describe('the storage band', () => {
  const cases = LITHIUM_CHEMISTRIES.flatMap((chemistry) => PRESETS.map((preset) => ({ chemistry, preset })));

  it.each(cases)('$chemistry under $preset holds both its ends', ({ chemistry, preset }) => {
    const rule = PRESET_RULES[preset].storage[chemistry];
    const pack = aPack({ chemistry });
    expect(bandSide(level(pack, rule.bandLowMv), rule)).toBe('in-band');
    expect(bandSide(level(pack, rule.bandHighMv), rule)).toBe('in-band');
    expect(bandSide(level(pack, rule.bandLowMv - 1), rule)).toBe('low');
    expect(bandSide(level(pack, rule.bandHighMv + 1), rule)).toBe('high');
    expect(bandSide(level(pack, rule.targetMv), rule)).toBe('in-band');
  });

  it('is decided by single cells, never by the mean', () => {
    const rule = EVEN_KEEL.storage.lipo;
    expect(bandSide([3800, 3800, 3800, 3860], rule)).toBe('high');
    expect(bandSide([3800, 3800, 3800, 3690], rule)).toBe('low');
    expect(bandSide([3660, 3660, 3660, 3660, 3660, 3310], rule)).toBe('low');
  });

  it('counts as low when cells are out on both sides', () => {
    expect(bandSide([3600, 3900], EVEN_KEEL.storage.lipo)).toBe('low');
  });
});

describe('the clock', () => {
  const pack = aPack();

  it('starts at the reading that left the band and is due one allowance later', () => {
    const { storage } = judged(pack, [reading(0, level(pack, 3800)), reading(5, level(pack, 4200))], 6);
    expect(clockOf(storage)).toEqual({ state: 'high', since: 5, due: 53 });
  });

  it('is not restarted by another reading on the same side', () => {
    const { storage } = judged(pack, [reading(0, level(pack, 4200)), reading(20, level(pack, 4180))], 21);
    expect(clockOf(storage)).toEqual({ state: 'high', since: 0, due: 48 });
  });

  it('stops at a rested reading inside the band', () => {
    const { storage } = judged(pack, [reading(0, level(pack, 4200)), reading(20, level(pack, 3810))], 90);
    expect(storage).toMatchObject({ state: 'in-band', since: START + 20 * HOUR_MS });
  });

  it('starts the other allowance when the pack crosses the band between two readings', () => {
    const { storage } = judged(pack, [reading(0, level(pack, 4200)), reading(10, level(pack, 3600))], 11);
    expect(clockOf(storage)).toEqual({ state: 'low', since: 10, due: 34 });
  });

  it('runs on through readings that decide nothing', () => {
    const { storage } = judged(pack, [
      reading(0, level(pack, 4200)),
      reading(3, level(pack, 3700), { condition: 'loaded' }),
      reading(3.2, level(pack, 3790), { condition: 'settling' }),
    ]);
    expect(clockOf(storage)).toEqual({ state: 'high', since: 0, due: 48 });
  });

  it.each(PRESETS)('takes its allowances from the house rules: %s', (preset) => {
    const rules = PRESET_RULES[preset];
    const due = (mv: number, field = false) =>
      clockOf(judged(aPack({ fieldPack: field }), [reading(0, level(pack, mv))], 0, rules).storage).due;
    expect(due(4150)).toBe(rules.allowance.highHours);
    expect(due(4150, true)).toBe(rules.allowance.fieldHighHours);
    expect(due(3650)).toBe(rules.allowance.lowHours);
    expect(due(3650, true)).toBe(rules.allowance.lowHours);
  });

  it('is compliant for less time than the allowance: at the due instant it no longer is', () => {
    const { storage } = judged(pack, [reading(0, level(pack, 4200))]);
    const { dueAt } = storage as { dueAt: number };
    expect(isOverdue({ dueAt }, dueAt - 1)).toBe(false);
    expect(isOverdue({ dueAt }, dueAt)).toBe(true);
    expect(isCompliant(storage, dueAt - 1)).toBe(true);
    expect(isCompliant(storage, dueAt)).toBe(false);
  });

  it('is unknown, and so not compliant, without a rested reading; and no rule for NiMH', () => {
    expect(isCompliant(judged(pack, []).storage, START)).toBe(false);
    expect(
      isCompliant(judged(pack, [reading(0, level(pack, 3800), { condition: 'loaded' })]).storage, START),
    ).toBe(false);
    expect(isCompliant(judged(aPack({ chemistry: 'nimh' }), []).storage, START)).toBeNull();
  });

  it('never counts backwards', () => {
    fc.assert(
      fc.property(fc.integer({ min: -500, max: 500 }), (hours) => {
        expect(hoursOut({ since: START }, START + hours * HOUR_MS)).toBeGreaterThanOrEqual(0);
      }),
    );
  });

  it('counts elapsed hours across a clock change', () => {
    const beforeChange = Date.UTC(2026, 2, 28, 18);
    expect(hoursOut({ since: beforeChange }, beforeChange + 24 * HOUR_MS)).toBe(24);
  });
});

describe('the storage job', () => {
  it('takes out what the highest cell holds above target', () => {
    // 4.20 V is 100 %, 3.80 V is 40 %: 60 % of 3.3 Ah.
    expect(storageJob(aPack(), [4200, 4190, 4200, 4200], EVEN_KEEL)).toMatchObject({
      direction: 'discharge',
      chargeAh: expect.closeTo(1.98, 6) as number,
      targetMv: 3800,
      packTargetMv: 15_200,
    });
  });

  it('puts in what the lowest cell lacks, at no more than house and label allow', () => {
    const job = storageJob(aPack({ chargeC: 0.5 }), [3690, 3710, 3700, 3700], EVEN_KEEL);
    expect(job).toMatchObject({
      direction: 'charge',
      chargeAh: expect.closeTo(0.99, 6) as number,
      chargeAmps: 1.65,
    });
  });

  it('charges a pack of unknown rating at 1C at most', () => {
    const rules = { ...EVEN_KEEL, charge: { ...EVEN_KEEL.charge, homeC: 3 } };
    expect(storageJob(aPack({ chargeC: null }), [3600, 3600, 3600, 3600], rules)?.chargeAmps).toBeCloseTo(
      3.3,
    );
  });

  it('does not exist for NiMH', () => {
    expect(storageJob(aPack({ chemistry: 'nimh' }), [1250], EVEN_KEEL)).toBeNull();
  });
});
