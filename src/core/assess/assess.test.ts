import fc from 'fast-check';
import { CHEMISTRIES, CHEMISTRY, LITHIUM_CHEMISTRIES } from '../chemistry';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../measure';
import { PRESETS, PRESET_RULES } from '../rules';
import {
  aPack,
  correction,
  EVEN_KEEL,
  flight,
  found,
  judged,
  level,
  reading,
  received,
  SERIES_OF,
  START,
  total,
} from '../testing/histories';
import { cardFor, readingStep, VERDICTS } from '.';

const lipo = aPack();

/** The last cell at these volts, its siblings at others. */
function oneAt(mv: number, others: number, series = 4): number[] {
  return [...Array.from({ length: series - 1 }, () => others), mv];
}

describe('a pack in the hand, under the default rules', () => {
  it('LiPo full: above its band, to be put to storage within 48 h, fit to fly', () => {
    const said = judged(lipo, [reading(0, level(lipo, 4200))]);
    expect(found(said)).toEqual({ 'storage-high': 'note' });
    expect(said).toMatchObject({
      verdict: 'fit',
      mayFly: 'yes',
      storage: { state: 'high', allowanceHours: 48, dueAt: START + 48 * HOUR_MS },
    });
    expect(said.steps[0]).toEqual({ do: 'store-down', dueAt: START + 48 * HOUR_MS, because: 'storage-high' });
  });

  it('LiPo at 3.81: compliant, nothing to do but read it again in 30 days', () => {
    const said = judged(lipo, [reading(0, level(lipo, 3810))]);
    expect(said).toMatchObject({
      verdict: 'fit',
      mayFly: 'yes',
      findings: [],
      storage: { state: 'in-band' },
    });
    expect(said.steps).toEqual([{ do: 're-read', dueAt: START + 30 * DAY_MS, because: 'idle' }]);
  });

  it('LiPo at 3.45: bring it up now, though its clock would allow a day', () => {
    const said = judged(lipo, [reading(0, level(lipo, 3450))]);
    expect(found(said)).toEqual({ 'recharge-soon': 'note', 'storage-low': 'note' });
    expect(said).toMatchObject({ mayFly: 'yes', charged: 'charge-first' });
    expect(said.steps[0]).toEqual({ do: 'store-up-now', dueAt: START, because: 'recharge-soon' });
  });

  it('LiPo with one cell at 2.95: out of use, retirement advised, and nobody is sent to the charger with it', () => {
    const said = judged(lipo, [reading(0, oneAt(2950, 3700))]);
    expect(found(said)).toEqual({ 'over-discharged': 'retire', 'damage-floor': 'hold', spread: 'watch' });
    expect(said).toMatchObject({ verdict: 'retire-advised', mayFly: 'no' });
    expect(said.steps).toEqual([{ do: 'set-apart', dueAt: null, because: 'over-discharged' }]);
  });

  it('the same volts on other chemistries give those chemistries’ answers', () => {
    const answers = (mv: number) =>
      Object.fromEntries(
        LITHIUM_CHEMISTRIES.map((chemistry) => {
          const said = judged(aPack({ chemistry }), [reading(0, level(aPack(), mv))]);
          return [chemistry, `${said.verdict}, ${said.storage.state}, ${said.mayFly}`];
        }),
      );
    expect(answers(4200)).toEqual({
      lipo: 'fit, high, yes',
      lihv: 'fit, high, yes',
      liion: 'fit, high, yes',
      lifepo4: 'hold, high, no',
    });
    expect(answers(3810)).toEqual({
      lipo: 'fit, in-band, yes',
      lihv: 'fit, in-band, yes',
      liion: 'fit, high, yes',
      lifepo4: 'hold, high, no',
    });
    expect(answers(3450)).toEqual({
      lipo: 'fit, low, yes',
      lihv: 'fit, low, yes',
      liion: 'fit, low, yes',
      lifepo4: 'fit, high, yes',
    });
    expect(answers(2950)).toEqual({
      lipo: 'retire-advised, low, no',
      lihv: 'retire-advised, low, no',
      liion: 'fit, low, yes',
      lifepo4: 'fit, low, yes',
    });
  });

  it('NiMH gets no storage rule', () => {
    const nimh = aPack({ chemistry: 'nimh', series: 6 });
    const said = judged(nimh, [total(0, 7800)]);
    expect(said).toMatchObject({
      verdict: 'fit',
      mayFly: 'yes',
      storage: { state: 'no-rule' },
      contents: null,
      findings: [],
      steps: [],
    });
    expect(judged(nimh, [])).toMatchObject({ verdict: 'fit', storage: { state: 'no-rule' }, findings: [] });
  });

  it('a reading under load changes neither compliance nor spread nor charge', () => {
    const rested = [reading(0, level(lipo, 3810))];
    const before = judged(lipo, rested, 3);
    const after = judged(lipo, [...rested, reading(2, [3400, 3400, 3200, 3400], { condition: 'loaded' })], 3);
    expect(after.storage).toEqual(before.storage);
    expect(after.contents).toEqual(before.contents);
    expect(after.latest).toEqual(before.latest);
    expect(after.verdict).toBe('fit');
    expect(found(after)).toEqual({ 'not-rested': 'note' });
    expect(after.steps[0]).toEqual({
      do: 'measure-rested',
      dueAt: START + 2 * HOUR_MS + 30 * MINUTE_MS,
      because: 'not-rested',
    });
  });

  it('a reading called rested ten minutes after one under load is taken as settling', () => {
    const said = judged(lipo, [
      reading(0, level(lipo, 3500), { condition: 'loaded' }),
      reading(1 / 6, level(lipo, 3650)),
    ]);
    expect(said.storage.state).toBe('unmeasured');
    expect(said.findings.find(({ rule }) => rule === 'not-rested')).toMatchObject({ condition: 'settling' });
  });

  it('a pack without any rested reading asks to be measured first', () => {
    const said = judged(lipo, [received()]);
    expect(found(said)).toEqual({ unmeasured: 'watch', 'baseline-missing': 'note' });
    expect(said).toMatchObject({ verdict: 'watch', mayFly: 'measure-first' });
    expect(said.steps[0]).toMatchObject({ do: 'measure', dueAt: START - HOUR_MS });
  });
});

describe.each(PRESETS)('limits under %s', (preset) => {
  const rules = PRESET_RULES[preset];

  describe.each(CHEMISTRIES)('%s', (chemistry) => {
    const series = SERIES_OF[chemistry];
    const pack = aPack({ chemistry, series });
    const floors = rules.floors[chemistry];
    const at = (mv: number) => {
      const record = chemistry === 'nimh' ? total(0, mv * series) : reading(0, level(pack, mv));
      return judged(pack, [record], 1, rules);
    };

    it('damage floor: at it, not below it; one millivolt under, out of use', () => {
      expect(found(at(floors.damageMv))).not.toHaveProperty('damage-floor');
      expect(at(floors.damageMv).mayFly).not.toBe('no');
      expect(found(at(floors.damageMv - 1))).toHaveProperty('damage-floor', 'hold');
      expect(at(floors.damageMv - 1).mayFly).toBe('no');
    });

    it('recharge-soon floor', () => {
      expect(found(at(floors.rechargeSoonMv))).not.toHaveProperty('recharge-soon');
      expect(found(at(floors.rechargeSoonMv - 1))).toHaveProperty('recharge-soon', 'note');
    });

    it('what becomes of an over-discharged pack follows the rules’ preset', () => {
      const said = found(at(floors.damageMv - 1));
      if (chemistry === 'nimh') expect(said).not.toHaveProperty('over-discharged');
      else {
        const recoverable =
          rules.overDischarged === 'supervised recovery' && floors.damageMv - 1 > rules.recovery.floorMv;
        expect(said['over-discharged']).toBe(recoverable ? 'hold' : 'retire');
      }
    });
  });

  describe.each(LITHIUM_CHEMISTRIES)('%s', (chemistry) => {
    const pack = aPack({ chemistry });
    const { overDischargeMv, damageMv, rechargeSoonMv } = rules.floors[chemistry];
    const at = (cellsMv: readonly number[], meterErrorMv = 5) =>
      found(judged(pack, [reading(0, cellsMv, { meterErrorMv })], 1, rules));

    it('over-discharge line', () => {
      expect(at(level(pack, overDischargeMv!))).not.toHaveProperty('over-discharge-event');
      expect(at(level(pack, overDischargeMv! - 1))).toHaveProperty('over-discharge-event', 'watch');
      expect(at(level(pack, damageMv))).toHaveProperty('over-discharge-event', 'watch');
    });

    it('an over-discharge event stays a note once the pack was read back up', () => {
      const event = reading(0, level(pack, overDischargeMv! - 1));
      const back = (mv: number) => found(judged(pack, [event, reading(5, level(pack, mv))], 6, rules));
      expect(back(rechargeSoonMv)).toHaveProperty('over-discharge-event', 'note');
      expect(back(rechargeSoonMv - 1)).toHaveProperty('over-discharge-event', 'watch');
    });

    it('above full: the meter’s error is granted, the rules’ margin is not exceeded', () => {
      const full = CHEMISTRY[chemistry].fullMv!;
      expect(at(level(pack, full + 5))).not.toHaveProperty('overfull');
      expect(at(level(pack, full + 6))).toHaveProperty('overfull', 'watch');
      expect(at(level(pack, full + 6), 10)).not.toHaveProperty('overfull');
      expect(at(level(pack, full + rules.overfullHoldMv - 1))).toHaveProperty('overfull', 'watch');
      expect(at(level(pack, full + rules.overfullHoldMv))).toHaveProperty('overfull', 'hold');
    });

    it('spread: inclusive at every limit', () => {
      // Where the curve is steep a few millivolts are little charge, so only the volts speak here.
      const top = chemistry === 'lifepo4' ? 2900 : CHEMISTRY[chemistry].fullMv! - 20;
      const apart = (mv: number) => at(oneAt(top - mv, top)).spread;
      expect(apart(rules.spread.toleranceMv)).toBeUndefined();
      expect(apart(rules.spread.toleranceMv + 1)).toBe('note');
      expect(apart(rules.spread.watchMv)).toBe('note');
      expect(apart(rules.spread.watchMv + 1)).toBe('watch');
    });
  });
});

describe('what holds beyond single readings', () => {
  it('a damaged cell is not forgiven for being charged up again', () => {
    const said = judged(lipo, [reading(0, oneAt(2950, 3700)), reading(9, level(lipo, 3810))], 10);
    expect(said).toMatchObject({ verdict: 'retire-advised', mayFly: 'no', storage: { state: 'in-band' } });
  });

  it('unless the reading was a slip and is withdrawn', () => {
    const slip = reading(0, oneAt(2950, 3700));
    expect(judged(lipo, [slip, reading(9, level(lipo, 3810)), correction(10, slip, null)], 11).verdict).toBe(
      'fit',
    );
  });

  it('points at the worst of several readings below the floor', () => {
    const worst = reading(2, oneAt(2400, 3700));
    const others = [reading(0, oneAt(2900, 3700)), reading(4, oneAt(2950, 3700))] as const;
    const said = judged(lipo, [others[0], worst, others[1]], 5);
    expect(said.findings.find(({ rule }) => rule === 'damage-floor')).toMatchObject({
      low: { cell: 4, mv: 2400 },
      // Every reading below the floor is evidence a release must answer.
      records: [others[0].id, worst.id, others[1].id],
    });
  });

  it('a wrong-mode charge stays on hold after the pack was brought down', () => {
    const said = judged(lipo, [reading(0, level(lipo, 4340)), reading(5, level(lipo, 3800))], 6);
    expect(found(said)).toEqual({ overfull: 'hold' });
    expect(said.mayFly).toBe('no');
  });

  it('a pack slightly above full is back to normal once it was brought down', () => {
    expect(judged(lipo, [reading(0, level(lipo, 4215)), reading(5, level(lipo, 3800))], 6).verdict).toBe(
      'fit',
    );
  });

  it('an idle pack asks to be read at the rules’ interval, not before', () => {
    const records = [reading(0, level(lipo, 3810))];
    expect(found(judged(lipo, records, 30 * 24 - 1))).toEqual({});
    expect(found(judged(lipo, records, 30 * 24))).toEqual({ idle: 'note' });
    expect(judged(lipo, records, 30 * 24, PRESET_RULES['long-service']).steps[0]).toMatchObject({
      do: 'cycle',
    });
  });

  it('no percentage counts that the meter could have made up', () => {
    // 30 mV at the flat middle of the curve stand for about ten percent, of which a 10 mV meter may have invented most.
    const flat = oneAt(3820, 3850);
    expect(found(judged(lipo, [reading(0, flat, { meterErrorMv: 10 })])).spread).toBe('note');
    expect(found(judged(lipo, [reading(0, flat, { meterErrorMv: 1 })])).spread).toBe('watch');
  });
});

describe('the next step', () => {
  it('brings up what is nearly flat before anything a clock asks', () => {
    const { steps } = judged(lipo, [reading(0, [3460, 3470, 3400, 3470])]);
    expect(steps.map((step) => step.do)).toEqual(['store-up-now', 'store-up', 'balance', 're-read']);
  });

  it('names each thing to do once', () => {
    const { steps } = judged(lipo, [reading(0, level(lipo, 3150))]);
    expect(steps.filter((step) => step.do === 'store-up-now')).toHaveLength(1);
  });

  it('finds the one that asks for a meter, whatever is more pressing', () => {
    const { steps } = judged(lipo, [reading(0, level(lipo, 4200))]);
    expect(steps[0]?.do).toBe('store-down');
    expect(readingStep(steps)).toMatchObject({ do: 're-read' });
    expect(readingStep([])).toBeNull();
  });
});

describe('for any records', () => {
  const cells = fc.array(fc.integer({ min: 2000, max: 4500 }), { minLength: 4, maxLength: 4 });
  const history = fc.array(
    fc.record({
      hours: fc.integer({ min: 0, max: 300 }),
      cells,
      condition: fc.constantFrom('rested' as const, 'loaded' as const),
    }),
    { maxLength: 8 },
  );
  const chemistry = fc.constantFrom(...LITHIUM_CHEMISTRIES);

  it('the worst finding sets the verdict, and a pack out of use has one step', () => {
    fc.assert(
      fc.property(history, chemistry, (list, kind) => {
        const said = judged(
          aPack({ chemistry: kind }),
          list.map((one) => reading(one.hours, one.cells, { condition: one.condition })),
          300,
        );
        const worst = { note: 'fit', watch: 'watch', hold: 'hold', retire: 'retire-advised' } as const;
        expect(said.verdict).toBe(said.findings[0] ? worst[said.findings[0].severity] : 'fit');
        if (said.mayFly === 'no') expect(said.steps.map((step) => step.do)).toEqual(['set-apart']);
        expect(said.mayFly === 'no').toBe(VERDICTS.indexOf(said.verdict) >= 2);
      }),
    );
  });

  it('every finding rests on records of the pack', () => {
    fc.assert(
      fc.property(history, (list) => {
        const records = list.map((one) => reading(one.hours, one.cells, { condition: one.condition }));
        const ids = new Set(records.map(({ id }) => id));
        for (const { rule, records: behind } of judged(lipo, records, 300).findings) {
          if (rule !== 'unmeasured') expect(behind.length).toBeGreaterThan(0);
          expect(behind.every((id) => ids.has(id))).toBe(true);
        }
      }),
    );
  });

  it('a lower damage floor never judges more gravely', () => {
    const milder = {
      ...EVEN_KEEL,
      floors: { ...EVEN_KEEL.floors, lipo: { ...EVEN_KEEL.floors.lipo, damageMv: 2500 } },
    };
    fc.assert(
      fc.property(history, (list) => {
        const records = list.map((one) => reading(one.hours, one.cells, { condition: one.condition }));
        const rank = (rules: typeof EVEN_KEEL) => VERDICTS.indexOf(judged(lipo, records, 300, rules).verdict);
        expect(rank(milder)).toBeLessThanOrEqual(rank(EVEN_KEEL));
      }),
    );
  });
});

it('what takes a pack out of use for what was done to it calls for the card of that incident', () => {
  const cards = (records: Parameters<typeof judged>[1]) => judged(lipo, records).findings.map(cardFor);
  expect(cards([reading(0, oneAt(4350, 4300))])).toContain('overcharged');
  expect(cards([reading(0, oneAt(2500, 3800))])).toContain('over-discharged');
  expect(cards([flight(0, { hottestC: 75 })])).toContain('overheated');
  // Watched, or out of use for wear: nobody is to act at once.
  expect(cards([flight(0, { hottestC: 57 }), reading(1, oneAt(3600, 3800))])).toEqual(
    expect.not.arrayContaining(['overheated', 'over-discharged', 'overcharged']),
  );
});
