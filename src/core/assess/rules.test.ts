import fc from 'fast-check';
import { CHEMISTRIES, CHEMISTRY, LITHIUM_CHEMISTRIES, restMv } from '../chemistry';
import type { Chemistry } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { ChargePayload, FlightPayload, PackRecord } from '../record';
import { PRESETS, PRESET_RULES, RULE_FIELDS, ruleRefusals, ruleValue, withRuleValue } from '../rules';
import type { HouseRules } from '../rules';
import {
  aPack,
  charge,
  correction,
  EVEN_KEEL,
  flight,
  found,
  judged,
  level,
  reading,
  received,
  resistance,
  SERIES_OF,
  START,
} from '../testing/histories';
import { assess, VERDICTS } from '.';
import type { RuleId, Severity } from '.';

const lipo = aPack();
const packOf = (chemistry: Chemistry, more: Partial<PackFacts> = {}) =>
  aPack({ chemistry, series: SERIES_OF[chemistry], ...more });

/** How grave one rule finds these records, or null. */
function severity(
  rule: RuleId,
  pack: PackFacts,
  records: readonly PackRecord[],
  hours: number,
  rules: HouseRules,
): Severity | null {
  return (
    judged(pack, records, hours, rules).findings.find((finding) => finding.rule === rule)?.severity ?? null
  );
}

const repeated = <Made>(count: number, make: (i: number) => Made): Made[] =>
  Array.from({ length: count }, (_, i) => make(i));

interface Case {
  readonly rule: RuleId;
  readonly what: string;
  /** Records that put the measured value at this distance from a line, in steps that just pass it. */
  readonly records: (pack: PackFacts, rules: HouseRules, step: -1 | 0 | 1) => readonly PackRecord[];
  /** What is found just under, at and just over the line. */
  readonly expected: readonly [Severity | null, Severity | null, Severity | null];
  readonly hours?: (rules: HouseRules) => number;
  readonly only?: readonly Chemistry[];
}

/** A use that ended with the last cell so far below its siblings. */
const weakBy = (mv: number, pack: PackFacts) => {
  const others = level(pack, CHEMISTRY[pack.chemistry].nominalMv);
  return [
    charge(0),
    flight(2),
    reading(
      4,
      others.map((one, i) => (i === pack.series - 1 ? one - mv : one)),
    ),
  ];
};
/** Three readings of new cells, then three with the last cell at this many times its own or its siblings' value. */
const grownTo = (factor: number, pack: PackFacts) => [
  ...repeated(3, (i) => resistance(i, level(pack, 4))),
  ...repeated(3, (i) =>
    resistance(
      50 + i,
      level(pack, 4).map((one, c) => (c === pack.series - 1 ? one * factor : one)),
    ),
  ),
];
const flownOn = (percent: number, pack: PackFacts) => {
  const { chemistry, capacityMah } = pack;
  const deep = Math.round(restMv(chemistry as 'lipo', 20));
  return repeated(3, (i) => [
    charge(i * 48, {
      balanced: true,
      settings: { chemistry: null, cells: null, topMv: CHEMISTRY[chemistry].fullMv, currentA: null },
    }),
    flight(i * 48 + 2, { usedMah: (capacityMah * 0.8 * percent) / 100 }),
    reading(i * 48 + 4, level(pack, deep), { meterErrorMv: 1 }),
  ]).flat();
};
/** Flights that grow shorter by and by, as a pack wears; all at once it would be the craft. */
const flown = (minutes: number) => [
  ...repeated(5, (i) => flight(i * 24, { craft: 'quad', minutes: 100, usedMah: 1000 })),
  ...repeated(20, (i) =>
    flight(150 + i * 8, { craft: 'quad', minutes: 100 + ((minutes - 100) * i) / 20, usedMah: 1000 }),
  ),
  ...repeated(5, (i) => flight(320 + i * 8, { craft: 'quad', minutes, usedMah: 1000 })),
];
const used = (more: Partial<FlightPayload>) => [flight(2, more)];
const charged = (more: Partial<ChargePayload>) => [charge(2, more)];
const NEITHER: Pick<Case, 'expected'>['expected'] = [null, null, null];

const CASES: readonly Case[] = [
  {
    rule: 'weak-cell',
    what: 'watch line',
    records: (pack, { health }, step) => weakBy(health.weakCellMv.watch + step, pack),
    expected: [null, 'watch', 'watch'],
  },
  {
    rule: 'weak-cell',
    what: 'retire line',
    records: (pack, { health }, step) => weakBy(health.weakCellMv.retire + step, pack),
    expected: ['watch', 'retire', 'retire'],
  },
  {
    rule: 'resistance-growth',
    what: 'watch line',
    records: (pack, { health }, step) => grownTo(health.irGrowth.watch + step * 0.01, pack),
    expected: [null, 'watch', 'watch'],
  },
  {
    rule: 'resistance-growth',
    what: 'retire line',
    records: (pack, { health }, step) => grownTo(health.irGrowth.retire + step * 0.01, pack),
    expected: ['watch', 'retire', 'retire'],
  },
  {
    rule: 'resistance-siblings',
    what: 'watch line',
    records: (pack, { health }, step) => grownTo(health.irSiblings.watch + step * 0.01, pack),
    expected: [null, 'watch', 'watch'],
  },
  {
    rule: 'resistance-siblings',
    what: 'retire line',
    records: (pack, { health }, step) => grownTo(health.irSiblings.retire + step * 0.01, pack),
    expected: ['watch', 'retire', 'retire'],
  },
  {
    rule: 'resistance-jump',
    what: 'line',
    records: (pack, { health }, step) => [
      resistance(0, level(pack, 100)),
      resistance(1, level(pack, 100 + health.irJumpPercent + step)),
    ],
    expected: [null, null, 'note'],
  },
  {
    rule: 'capacity',
    what: 'watch line',
    records: (pack, { health }, step) => flownOn(health.capacityPercent.watch - step - 1e-6, pack),
    expected: [null, 'watch', 'watch'],
    only: ['lipo', 'lihv', 'liion'],
  },
  {
    rule: 'capacity',
    what: 'retire line',
    records: (pack, { health }, step) => flownOn(health.capacityPercent.retire - step - 1e-6, pack),
    expected: ['watch', 'retire', 'retire'],
    only: ['lipo', 'lihv', 'liion'],
  },
  {
    rule: 'run-time',
    what: 'watch line',
    records: (_, { health }, step) => flown(100 - health.runTimeLossPercent.watch - step),
    expected: [null, 'watch', 'watch'],
  },
  {
    rule: 'run-time',
    what: 'retire line',
    records: (_, { health }, step) => flown(100 - health.runTimeLossPercent.retire - step),
    expected: ['watch', 'retire', 'retire'],
  },
  {
    rule: 'cycles',
    what: 'review line',
    records: ({ chemistry, capacityMah }, { health }, step) => [
      charge(1, { movedMah: capacityMah * health.cycles[chemistry] + step * 100 }),
    ],
    expected: [null, 'watch', 'watch'],
  },
  {
    rule: 'age',
    what: 'review line',
    records: (pack, { health }, step) => [received(-health.ageYears[pack.dutyClass] * 365.25 * 24 - step)],
    expected: [null, 'watch', 'watch'],
    hours: () => 0,
  },
  {
    rule: 'hot-use',
    what: 'watch line, which itself is not over it',
    records: (_, { heat }, step) => used({ hottestC: heat.useWatchC + step }),
    expected: [null, null, 'watch'],
  },
  {
    rule: 'hot-use',
    what: 'hold line, which itself is not over it',
    records: (_, { heat }, step) => used({ hottestC: heat.useHoldC + step }),
    expected: ['watch', 'watch', 'hold'],
  },
  {
    rule: 'hot-charge',
    what: 'watch line',
    records: (_, { heat }, step) => charged({ temperatureC: heat.chargeWatchC + step }),
    expected: [null, null, 'watch'],
    only: LITHIUM_CHEMISTRIES,
  },
  {
    rule: 'hot-charge',
    what: 'hold line',
    records: (_, { heat }, step) => charged({ temperatureC: heat.chargeHoldC + step }),
    expected: ['watch', 'watch', 'hold'],
    only: LITHIUM_CHEMISTRIES,
  },
  {
    rule: 'hot-charge',
    what: 'nickel, which ends a charge warm',
    records: (_, { heat }, step) => charged({ temperatureC: heat.chargeHoldC + step }),
    expected: NEITHER,
    only: ['nimh'],
  },
  {
    rule: 'charge-failed',
    what: 'passes in a row',
    records: (_, { health }, step) =>
      repeated(health.failedBalances + step, (i) => charge(i * 24, { ending: 'timed-out' })),
    expected: ['watch', 'retire', 'retire'],
  },
  {
    rule: 'wrong-setting',
    what: 'top voltage against full',
    records: ({ chemistry }, _, step) =>
      charged({
        settings: {
          chemistry: null,
          cells: null,
          topMv: CHEMISTRY[chemistry].fullMv! + step * 10,
          currentA: null,
        },
      }),
    expected: [null, null, 'hold'],
    only: LITHIUM_CHEMISTRIES,
  },
  {
    rule: 'wrong-setting',
    what: 'cells set',
    records: ({ series }, _, step) =>
      charged({ settings: { chemistry: null, cells: series + step, topMv: null, currentA: null } }),
    expected: ['watch', null, 'hold'],
  },
  {
    rule: 'charge-implausible',
    what: 'more than there was room for, in a pack nobody knew',
    records: ({ capacityMah }, { charge: limits }, step) =>
      charged({ movedMah: (capacityMah * limits.overNotePercent) / 100 + step }),
    expected: [null, null, 'note'],
    only: LITHIUM_CHEMISTRIES,
  },
  {
    rule: 'charge-implausible',
    what: 'far more than there was room for',
    records: ({ capacityMah }, { charge: limits }, step) =>
      charged({ movedMah: (capacityMah * limits.overHoldPercent) / 100 + step }),
    expected: ['note', 'note', 'hold'],
    only: LITHIUM_CHEMISTRIES,
  },
  {
    rule: 'charge-implausible',
    what: 'far above its label, nickel',
    records: ({ capacityMah }, { charge: limits }, step) =>
      charged({ movedMah: (capacityMah * limits.nimhPercent) / 100 + step }),
    expected: [null, null, 'watch'],
    only: ['nimh'],
  },
  {
    rule: 'landed-low',
    what: 'landing line',
    records: (pack, { flight: rule }, step) =>
      used({
        landing: {
          volts: { of: 'cells', cellsMv: level(pack, rule.landAtMv[pack.chemistry] - step) },
          condition: 'loaded',
        },
      }),
    expected: [null, null, 'note'],
  },
  {
    rule: 'nimh-top-up',
    what: 'the day it is due',
    records: (_, rules, step) => [charge(-rules.nimhTopUpDays * 24 - step)],
    expected: [null, 'note', 'note'],
    hours: () => 0,
    only: ['nimh'],
  },
];

const table = CASES.flatMap((one) =>
  (one.only ?? CHEMISTRIES).flatMap((chemistry) => PRESETS.map((preset) => ({ ...one, chemistry, preset }))),
);

it.each(table)('$rule, $what: $chemistry under $preset', (one) => {
  const rules = PRESET_RULES[one.preset];
  const pack = packOf(one.chemistry);
  const hours = one.hours?.(rules) ?? 400;
  const said = ([-1, 0, 1] as const).map((step) =>
    severity(one.rule, pack, one.records(pack, rules, step), hours, rules),
  );
  expect(said).toEqual(one.expected);
});

describe('the spread after balancing', () => {
  const apart = [4200, 4200, 4200, 4090];

  it('retires a pack whose cells will not close, and only then', () => {
    expect(severity('spread', lipo, [reading(0, apart)], 1, EVEN_KEEL)).toBe('watch');
    expect(severity('spread', lipo, [charge(0), reading(2, apart)], 3, EVEN_KEEL)).toBe('retire');
    expect(severity('spread', lipo, [charge(0), reading(2, [4200, 4200, 4200, 4100])], 3, EVEN_KEEL)).toBe(
      'watch',
    );
    expect(severity('spread', lipo, [charge(0), flight(1), reading(2, apart)], 3, EVEN_KEEL)).toBe('watch');
    expect(
      severity('spread', lipo, [charge(0, { ending: 'timed-out' }), reading(2, apart)], 3, EVEN_KEEL),
    ).toBe('watch');
    const later = [charge(0), reading(2, level(lipo, 4200)), reading(90, apart)];
    expect(severity('spread', lipo, later, 91, EVEN_KEEL)).toBe('watch');
  });
});

describe('charger settings', () => {
  const set = (chemistry: Chemistry, wrong: Chemistry) =>
    severity(
      'wrong-setting',
      packOf(chemistry),
      charged({ settings: { chemistry: wrong, cells: null, topMv: null, currentA: null } }),
      3,
      EVEN_KEEL,
    );

  it('a mode that drives cells above full holds the pack; a milder one is watched', () => {
    expect(set('lipo', 'lihv')).toBe('hold');
    expect(set('lipo', 'nimh')).toBe('hold');
    expect(set('lifepo4', 'lipo')).toBe('hold');
    expect(set('nimh', 'lipo')).toBe('hold');
    expect(set('lihv', 'lipo')).toBe('watch');
    expect(set('liion', 'lipo')).toBe('watch');
  });

  it('a dangerous one is remembered, a mild one until the next charge was set right', () => {
    const right = charge(30, { settings: { chemistry: 'lipo', cells: 4, topMv: 4200, currentA: 3.3 } });
    const wrong = (topMv: number, cells: number) =>
      charge(0, { settings: { chemistry: null, cells, topMv, currentA: null } });
    expect(severity('wrong-setting', lipo, [wrong(4350, 4), right], 31, EVEN_KEEL)).toBe('hold');
    expect(severity('wrong-setting', lipo, [wrong(4200, 3), right], 31, EVEN_KEEL)).toBeNull();
  });

  it('more amps than the label allows is a slip, the charger’s step is not', () => {
    const amps = (currentA: number) =>
      severity(
        'wrong-setting',
        lipo,
        charged({ settings: { chemistry: null, cells: null, topMv: null, currentA } }),
        3,
        EVEN_KEEL,
      );
    expect(amps(6.6)).toBeNull();
    expect(amps(6.62)).toBeNull();
    expect(amps(7)).toBe('watch');
  });
});

describe('a charge that cannot be right', () => {
  const oneC = (minutes: number, ending: ChargePayload['ending'] = 'complete') =>
    severity(
      'charge-implausible',
      lipo,
      [
        reading(0, level(lipo, 3730)),
        charge(10, {
          minutes,
          ending,
          settings: { chemistry: null, cells: null, topMv: null, currentA: 3.3 },
        }),
      ],
      11,
      EVEN_KEEL,
    );

  it('1C from 20 % takes about 48 min: 15 is a wrong setting or a dying pack, three hours an imbalance', () => {
    expect(oneC(48)).toBeNull();
    expect(oneC(60)).toBeNull();
    expect(oneC(15)).toBe('watch');
    expect(oneC(15, 'stopped')).toBeNull();
    expect(oneC(180)).toBe('watch');
  });

  it('without amps or a reading before it, nothing is claimed', () => {
    expect(severity('charge-implausible', lipo, charged({ minutes: 5 }), 3, EVEN_KEEL)).toBeNull();
  });
});

describe('repetition', () => {
  it('is counted in hot landings, and old ones are let go', () => {
    const hot = (degrees: readonly number[]) =>
      judged(
        lipo,
        degrees.map((hottestC, i) => flight(i * 24, { hottestC })),
        400,
      ).findings.find(({ rule }) => rule === 'hot-use');
    expect(hot([57, 40, 58, 41, 56])).toMatchObject({
      severity: 'watch',
      times: 3,
      ofFlights: 5,
      celsius: 56,
    });
    expect(hot([57, 40, 40, 40, 40, 40])).toBeUndefined();
    expect(hot([61, 40, 40, 40, 40, 40, 40])).toMatchObject({ severity: 'hold', celsius: 61 });
  });

  it('a balance charge that succeeded wipes the failures before it', () => {
    const failed = (i: number) => charge(i * 24, { ending: 'timed-out' });
    expect(
      found(judged(lipo, [failed(0), failed(1), charge(60, { balanced: true })], 61)),
    ).not.toHaveProperty('charge-failed');
    const unbalanced = [failed(0), failed(1), charge(60, { balanced: false })];
    expect(found(judged(lipo, unbalanced, 61))).toMatchObject({ 'charge-failed': 'retire' });
  });
});

describe('records that do not fit together', () => {
  const day = 24;

  it('a rise with no charge logged and a fall with no use logged are said, where a house logs such things', () => {
    const logged = [charge(0), flight(2), reading(4, level(lipo, 3800))];
    expect(found(judged(lipo, [...logged, reading(2 * day, level(lipo, 4190))], 49))).toMatchObject({
      unlogged: 'note',
    });
    expect(found(judged(lipo, [...logged, reading(2 * day, level(lipo, 3690))], 49))).toMatchObject({
      unlogged: 'note',
    });
    expect(found(judged(lipo, [...logged, reading(2 * day, level(lipo, 3790))], 49))).not.toHaveProperty(
      'unlogged',
    );
  });

  it('a house that logs readings only is not told, nor is a smart pack’s own bleed', () => {
    const readings = [reading(0, level(lipo, 3800)), reading(5, level(lipo, 4190))];
    expect(found(judged(lipo, readings, 6))).not.toHaveProperty('unlogged');
    const smart = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 48 } });
    const bled = [charge(0), reading(2, level(smart, 4190)), reading(20 * day, level(smart, 3800))];
    expect(found(judged(smart, bled, 20 * day + 1))).not.toHaveProperty('unlogged');
  });
});

describe('time at full', () => {
  it('adds up within a year until it is a caution, and is let go after it', () => {
    const summers = [charge(0), reading(60 * 24, level(lipo, 3800))];
    expect(found(judged(lipo, summers, 61 * 24))).toMatchObject({ 'long-full': 'watch' });
    expect(found(judged(lipo, [charge(0), reading(30 * 24, level(lipo, 3800))], 61 * 24))).not.toHaveProperty(
      'long-full',
    );
    expect(found(judged(lipo, summers, 500 * 24))).not.toHaveProperty('long-full');
    const field = aPack({ fieldPack: true });
    expect(found(judged(field, summers, 61 * 24))).not.toHaveProperty('long-full');
  });
});

/** A short random life: uses, charges and readings of a lithium pack, some of them bad. */
const life = fc.array(
  fc.oneof(
    fc.record({
      kind: fc.constant('reading' as const),
      mv: fc.integer({ min: 2900, max: 4260 }),
      apart: fc.integer({ min: 0, max: 150 }),
    }),
    fc.record({
      kind: fc.constant('charge' as const),
      ending: fc.constantFrom('complete', 'timed-out'),
      celsius: fc.integer({ min: 20, max: 50 }),
    }),
    fc.record({
      kind: fc.constant('flight' as const),
      celsius: fc.integer({ min: 20, max: 65 }),
      mah: fc.integer({ min: 500, max: 3300 }),
    }),
    fc.record({ kind: fc.constant('resistance' as const), milliohm: fc.integer({ min: 3, max: 9 }) }),
  ),
  { minLength: 1, maxLength: 25 },
);
type Happening = (typeof life extends fc.Arbitrary<infer Made> ? Made : never)[number];

function recordsOf(happenings: readonly Happening[]): PackRecord[] {
  return happenings.map((one, i) => {
    const hours = i * 7;
    switch (one.kind) {
      case 'reading':
        return reading(
          hours,
          level(lipo, one.mv).map((mv, c) => (c === 1 ? mv - one.apart : mv)),
        );
      case 'charge':
        return charge(hours, { ending: one.ending as 'complete', temperatureC: one.celsius });
      case 'flight':
        return flight(hours, { hottestC: one.celsius, usedMah: one.mah });
      case 'resistance':
        return resistance(hours, [4, 4, one.milliohm, 4]);
      default:
        return one satisfies never;
    }
  });
}

describe('properties of the judgement', () => {
  it('a clock is never negative, and is due after it began', () => {
    fc.assert(
      fc.property(life, (happenings) => {
        const { storage } = judged(lipo, recordsOf(happenings), 200);
        if (storage.state !== 'high' && storage.state !== 'low') return;
        expect(storage.since).toBeLessThanOrEqual(START + 200 * HOUR_MS);
        expect(storage.dueAt).toBeGreaterThan(storage.since);
      }),
    );
  });

  it('a stricter rule set never yields a milder verdict', () => {
    fc.assert(
      fc.property(life, fc.subarray([...STRICTER.keys()], { minLength: 1 }), (happenings, tightened) => {
        const stricter = tightened.reduce(
          (rules, path) => withRuleValue(rules, { path }, STRICTER.get(path)!),
          EVEN_KEEL,
        );
        const history = fold(lipo, recordsOf(happenings));
        const now = START + 200 * HOUR_MS;
        const verdict = (rules: HouseRules) => VERDICTS.indexOf(assess(history, rules, now).verdict);
        expect(verdict(stricter)).toBeGreaterThanOrEqual(verdict(EVEN_KEEL));
      }),
      { numRuns: 300 },
    );
  });

  it('a correction equals never having made the mistake', () => {
    fc.assert(
      fc.property(life, fc.nat(), fc.boolean(), (happenings, which, withdrawn) => {
        const right = recordsOf(happenings);
        const i = which % right.length;
        const original = right[i]!;
        const slip = { ...original, payload: mistyped(original) } as PackRecord;
        const made = right.map((record, at) => (at === i ? slip : record));
        const put = correction(300, slip, withdrawn ? null : original);
        const never = withdrawn ? right.filter((_, at) => at !== i) : right;
        const now = START + 400 * HOUR_MS;
        const said = (records: readonly PackRecord[]) => {
          const { findings, ...rest } = assess(fold(lipo, records), EVEN_KEEL, now);
          return JSON.stringify({ ...withoutRecords(rest), findings: findings.map(withoutRecords) });
        };
        expect(said([...made, put])).toEqual(said(never));
      }),
    );
  });

  it('the order in which records arrive does not change the result', () => {
    fc.assert(
      fc.property(life, fc.infiniteStream(fc.nat()), (happenings, keys) => {
        const records = recordsOf(happenings);
        const shuffled = records
          .map((record) => ({ record, key: keys.next().value as number }))
          .sort((a, b) => a.key - b.key)
          .map(({ record }) => record);
        const now = START + 400 * HOUR_MS;
        expect(assess(fold(lipo, shuffled), EVEN_KEEL, now)).toEqual(
          assess(fold(lipo, records), EVEN_KEEL, now),
        );
      }),
    );
  });
});

/** Each line of the default rules, moved to where more packs cross it, still within what may be adopted. */
const STRICTER = new Map<string, number>([
  ['floors.lipo.damageMv', 3150],
  ['floors.lipo.overDischargeMv', 3300],
  ['overfullHoldMv', 20],
  ['spread.toleranceMv', 10],
  ['spread.watchMv', 30],
  ['spread.retireMv', 60],
  ['spread.watchSocPercent', 2],
  ['health.weakCellMv.watch', 50],
  ['health.weakCellMv.retire', 120],
  ['health.failedBalances', 2],
  ['health.irGrowth.watch', 1.2],
  ['health.irGrowth.retire', 1.6],
  ['health.irSiblings.watch', 1.2],
  ['health.irSiblings.retire', 1.5],
  ['health.fullDaysAYear', 5],
  ['heat.useWatchC', 45],
  ['heat.useHoldC', 55],
  ['heat.chargeWatchC', 35],
  ['heat.chargeHoldC', 42],
]);

it('the stricter lines of the property are rules that may be adopted, and really are stricter', () => {
  for (const [path, value] of STRICTER) {
    const field = RULE_FIELDS.find((one) => one.path === path)!;
    expect(ruleValue(EVEN_KEEL, field)).not.toBe(value);
  }
  const all = [...STRICTER].reduce(
    (rules, [path, value]) => withRuleValue(rules, { path }, value),
    EVEN_KEEL,
  );
  expect(ruleRefusals(all)).toEqual([]);
});

function mistyped(record: PackRecord): object {
  switch (record.kind) {
    case 'reading':
      return { ...record.payload, volts: { of: 'cells', cellsMv: [2000, 2000, 2000, 2000] } };
    case 'charge':
      return { ...record.payload, temperatureC: 90 };
    case 'flight':
      return { ...record.payload, hottestC: 99 };
    case 'resistance':
      return { ...record.payload, irMilliohm: [90, 90, 90, 90] };
    case 'received':
    case 'inspection':
    case 'moved':
    case 'taken-out':
    case 'returned':
    case 'memory':
    case 'note':
    case 'incident':
    case 'watch-ended':
    case 'inspection-asked':
    case 'decision':
    case 'confirmation':
    case 'recovery':
    case 'disposal':
    case 'correction':
      return record.payload;
    default:
      return record satisfies never;
  }
}

/** What is said, without the records it rests on: a corrected record rests on its correction too. */
function withoutRecords(said: object): object {
  return JSON.parse(
    JSON.stringify(said, (key, value: unknown) => (key === 'records' ? undefined : value)),
  ) as object;
}

it('a nickel pack’s top-up counts from its receipt when it was never charged', () => {
  const nickel = packOf('nimh');
  const said = judged(nickel, [received(-100 * 24)], 0);
  expect(found(said)).toMatchObject({ 'nimh-top-up': 'note' });
  expect(said.steps).toContainEqual({ do: 'top-up', dueAt: START - 10 * DAY_MS, because: 'nimh-top-up' });
});
