import { CHEMISTRY, LITHIUM_CHEMISTRIES, restMv, socPercent } from '../chemistry';
import type { Chemistry, LithiumChemistry } from '../chemistry';
import { DAY_MS, HOUR_MS } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { ChargePayload, PackRecord } from '../record';
import { PRESET_RULES } from '../rules';
import type { HouseRules } from '../rules';
import {
  aPack,
  aRecord,
  charge,
  decision,
  disposal,
  EVEN_KEEL,
  flight,
  inspection,
  judged,
  level,
  reading,
  received,
  recovery,
  release,
  resistance,
  SERIES_OF,
  START,
  total,
} from '../testing/histories';
import { isOutOfUse, outOfUseAt } from '.';
import type { Assessment, RuleId, Severity } from '.';

/** Histories with what must be said of them: what a charge, a job or a flight leaves behind, each at, under and over its limit. */

const packOf = (chemistry: Chemistry, more: Partial<PackFacts> = {}) =>
  aPack({ chemistry, series: SERIES_OF[chemistry], ...more });
const lipo = packOf('lipo');
const nimh = packOf('nimh');
const smart = (afterHours: number, autoStorage = true) =>
  aPack({ smart: { autoStorage, autoStorageAfterHours: afterHours } });
const set = (more: Partial<ChargePayload['settings']>) => ({
  settings: { chemistry: null, cells: null, topMv: null, currentA: null, ...more },
});
const settling = { condition: 'settling' } as const;
const inDays = (days: number) => days * 24;

interface Expected {
  readonly verdict?: Assessment['verdict'];
  readonly mayFly?: Assessment['mayFly'];
  readonly charged?: Assessment['charged'];
  readonly state?: Assessment['storage']['state'];
  /** What is found, and how grave. */
  readonly finds?: Partial<Record<RuleId, Severity>>;
  readonly not?: readonly RuleId[];
  readonly step?: string;
}

type Golden = readonly [
  what: string,
  pack: PackFacts,
  records: readonly PackRecord[],
  hours: number,
  expected: Expected,
  rules?: HouseRules,
];

function check([, pack, records, hours, expected, rules = EVEN_KEEL]: Golden) {
  const said = judged(pack, records, hours, rules);
  // The gate asks by a list of rules of its own; one forgotten there would let a held pack be charged.
  const held = outOfUseAt(fold(pack, records), rules, START + hours * HOUR_MS);
  expect(held).toBe(isOutOfUse(said.verdict) ? said.verdict : null);
  const found = Object.fromEntries(said.findings.map(({ rule, severity }) => [rule, severity]));
  if (expected.finds) expect(found).toMatchObject(expected.finds);
  for (const rule of expected.not ?? []) expect(found).not.toHaveProperty(rule);
  if (expected.verdict) expect(said.verdict).toBe(expected.verdict);
  if (expected.mayFly) expect(said.mayFly).toBe(expected.mayFly);
  if (expected.charged) expect(said.charged).toBe(expected.charged);
  if (expected.state) expect(said.storage.state).toBe(expected.state);
  if (expected.step) expect(said.steps[0]?.do).toBe(expected.step);
}

const each = (
  make: (chemistry: LithiumChemistry, pack: PackFacts) => readonly (readonly [string, ...unknown[]])[],
): Golden[] =>
  LITHIUM_CHEMISTRIES.flatMap((chemistry) =>
    make(chemistry, packOf(chemistry)).map(
      ([what, ...rest]) => [`${chemistry}: ${what}`, ...rest] as unknown as Golden,
    ),
  );

const nominal = (chemistry: LithiumChemistry, percent: number) => Math.round(restMv(chemistry, percent));

const HOLDING: readonly Golden[] = each((chemistry, pack) => {
  const { fullMv } = CHEMISTRY[chemistry];
  const { targetMv } = EVEN_KEEL.storage[chemistry];
  const low = EVEN_KEEL.floors[chemistry].rechargeSoonMv - 20;
  return [
    [
      'read low, then charged full: nothing asks for more charge',
      pack,
      [reading(0, level(pack, low)), charge(3)],
      4,
      {
        state: 'high',
        charged: 'charged',
        finds: { 'storage-high': 'note' },
        not: ['recharge-soon', 'storage-low'],
        step: 'store-down',
      },
    ],
    [
      'read full, then put to storage: pending, and the older reading is history',
      pack,
      [reading(0, level(pack, fullMv!)), charge(3, { mode: 'storage' })],
      4,
      {
        state: 'pending',
        charged: 'charge-first',
        not: ['storage-high'],
        finds: { 'storage-pending': 'note' },
      },
    ],
    [
      'read out of balance, then charged: the spread it had is history',
      pack,
      [reading(0, [...level(pack, targetMv).slice(1), targetMv - 40]), charge(3)],
      4,
      { not: ['spread'] },
    ],
    [
      'read stored, then flown: not known, and no clock of the reading',
      pack,
      [reading(0, level(pack, targetMv)), charge(2), flight(5, { usedMah: 2310 })],
      6,
      { state: 'unmeasured', charged: 'charge-first', mayFly: 'measure-first' },
    ],
    [
      'charged by counting from a low reading, stopped by hand',
      pack,
      [reading(0, level(pack, nominal(chemistry, 30))), charge(3, { ending: 'stopped', movedMah: 660 })],
      4,
      { charged: 'charge-first', not: ['storage-low'] },
    ],
    [
      'end volts decide over the top that was set',
      pack,
      [charge(3, { endCellsMv: level(pack, targetMv), ...set({ topMv: fullMv }) })],
      4,
      { state: 'pending', charged: 'charge-first' },
    ],
    [
      'stopped on the taper is charged, and no fault',
      pack,
      [reading(0, level(pack, targetMv)), charge(3, { ending: 'taper' })],
      4,
      {
        charged: 'charged',
        state: 'high',
        not: ['charge-failed', 'charge-implausible', 'unmeasured'],
        verdict: 'fit',
      },
    ],
    [
      'quick phase only is charged, and no fault',
      pack,
      [reading(0, level(pack, targetMv)), charge(3, { ending: 'quick' })],
      4,
      { charged: 'charged', state: 'high', not: ['charge-failed', 'unmeasured'], verdict: 'fit' },
    ],
    [
      'broken off with nothing noted is not known',
      pack,
      [reading(0, level(pack, targetMv)), charge(3, { ending: 'error', mode: 'fast' })],
      4,
      { charged: 'unknown', state: 'unmeasured' },
    ],
  ];
});

const ENDS: readonly Golden[] = each((chemistry, pack) => {
  const full = CHEMISTRY[chemistry].fullMv!;
  const ends = (mv: number, hours = 3) => charge(hours, { endCellsMv: [...level(pack, full).slice(1), mv] });
  return [
    ['an end cell 10 mV over full is not over it', pack, [ends(full + 10)], 4, { not: ['overfull'] }],
    ['11 mV over is watched', pack, [ends(full + 11)], 4, { finds: { overfull: 'watch' } }],
    ['49 mV over is watched', pack, [ends(full + 49)], 4, { finds: { overfull: 'watch' } }],
    ['50 mV over is held', pack, [ends(full + 50)], 4, { finds: { overfull: 'hold' }, mayFly: 'no' }],
    [
      '200 mV over is held, whatever was read since',
      pack,
      [ends(full + 200), reading(40, level(pack, full))],
      41,
      { finds: { overfull: 'hold' } },
    ],
    [
      'settling over full is held',
      pack,
      [charge(3), reading(3.1, level(pack, full + 150), settling)],
      3.2,
      { finds: { overfull: 'hold' } },
    ],
    [
      'a later ordinary charge does not wash it away',
      pack,
      [ends(full + 20), charge(30)],
      31,
      { finds: { overfull: 'watch' } },
    ],
    [
      'a later reading does',
      pack,
      [ends(full + 20), reading(5, level(pack, full - 30))],
      6,
      { not: ['overfull'] },
    ],
    ['a later inspection does', pack, [ends(full + 20), inspection(5)], 6, { not: ['overfull'] }],
    [
      'a finished balance with ends 20 mV apart got there',
      pack,
      [ends(full - 20)],
      4,
      { not: ['charge-failed'] },
    ],
    [
      '21 mV apart failed, though it said balanced',
      pack,
      [charge(3, { endCellsMv: [...level(pack, full).slice(1), full - 21], balanced: true })],
      4,
      { finds: { 'charge-failed': 'watch' } },
    ],
    [
      'three such passes retire it',
      pack,
      [ends(full - 40, 3), ends(full - 40, 30), ends(full - 40, 60)],
      61,
      { finds: { 'charge-failed': 'retire' } },
    ],
  ];
});

const ONE_C = set({ currentA: 3.3 });
const at = (percent: number) => reading(0, level(lipo, Math.round(restMv('lipo', percent))));
const put = (mah: number, more: Partial<ChargePayload> = {}) => charge(3, { movedMah: mah, ...more });
const room = (percent: number) => 33 * (100 - socPercent('lipo', Math.round(restMv('lipo', percent))));
const flown70 = [charge(0), flight(4, { usedMah: 2310 })];

const DELIVERED: readonly Golden[] = [
  [
    'room for 60 %: 105 % of that is right',
    lipo,
    [at(40), put(room(40) * 1.05)],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'just over 105 % is a note',
    lipo,
    [at(40), put(room(40) * 1.05 + 1)],
    4,
    { finds: { 'charge-implausible': 'note' }, verdict: 'fit' },
  ],
  [
    '120 % is still a note',
    lipo,
    [at(40), put(room(40) * 1.2)],
    4,
    { finds: { 'charge-implausible': 'note' } },
  ],
  [
    'just over 120 % is held',
    lipo,
    [at(40), put(room(40) * 1.2 + 1)],
    4,
    { finds: { 'charge-implausible': 'hold' }, verdict: 'hold', mayFly: 'no' },
  ],
  [
    'three times the room there was',
    lipo,
    [at(70), put(room(70) * 3)],
    4,
    { finds: { 'charge-implausible': 'hold' } },
  ],
  ['four times', lipo, [at(80), put(room(80) * 4)], 4, { finds: { 'charge-implausible': 'hold' } }],
  [
    'more than the label, and nobody knew the state',
    lipo,
    [put(4000)],
    4,
    { finds: { 'charge-implausible': 'hold' } },
  ],
  [
    'a full pack flown 70 % and charged 55 min at 1C',
    lipo,
    [...flown70, charge(8, { movedMah: 2310, minutes: 55, ...ONE_C })],
    9,
    { not: ['charge-implausible'], verdict: 'fit' },
  ],
  [
    'a 4-minute top-up of a nearly full pack',
    lipo,
    [at(95), put(160, { minutes: 4, ...ONE_C })],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'a top-up of 80 % is never too fast',
    lipo,
    [at(80), put(600, { minutes: 2, ...ONE_C })],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'from 20 % in 15 minutes is too fast, and may not fly',
    lipo,
    [at(20), charge(3, { minutes: 15, ...ONE_C })],
    4,
    { finds: { 'charge-implausible': 'watch' }, mayFly: 'measure-first' },
  ],
  [
    'from 20 % in half the time is not',
    lipo,
    [at(20), charge(3, { minutes: 24.1, ...ONE_C })],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'carried through the flight, 15 minutes are too fast too',
    lipo,
    [...flown70, charge(8, { minutes: 15, ...ONE_C })],
    9,
    { finds: { 'charge-implausible': 'watch' } },
  ],
  [
    'after a flight nobody measured, minutes say nothing',
    lipo,
    [charge(0), flight(4), charge(8, { minutes: 5, ...ONE_C })],
    9,
    { not: ['charge-implausible'] },
  ],
  [
    'too fast, then an ordinary charge: still not',
    lipo,
    [at(20), charge(3, { minutes: 10, ...ONE_C }), charge(30, { minutes: 5, ...ONE_C })],
    31,
    { finds: { 'charge-implausible': 'watch' } },
  ],
  [
    'too fast, then read: capacity is still to be seen',
    lipo,
    [at(20), charge(3, { minutes: 10, ...ONE_C }), reading(6, level(lipo, 4190))],
    7,
    { finds: { 'charge-implausible': 'watch' }, mayFly: 'measure-first' },
  ],
  [
    'too fast, then inspected',
    lipo,
    [at(20), charge(3, { minutes: 10, ...ONE_C }), inspection(20)],
    21,
    { not: ['charge-implausible'] },
  ],
  [
    'too fast, then read and its capacity seen',
    lipo,
    [
      at(20),
      charge(3, { minutes: 10, ...ONE_C }),
      reading(6, level(lipo, 4190)),
      charge(10, { mode: 'discharge', movedMah: 2640 }),
      reading(12, level(lipo, 3730)),
    ],
    13,
    { not: ['charge-implausible'] },
  ],
  [
    'five hours at 1C never end',
    lipo,
    [at(20), charge(3, { minutes: 300, ...ONE_C })],
    4,
    { finds: { 'charge-implausible': 'watch' } },
  ],
  [
    'so long as twice the time and a taper',
    lipo,
    [at(20), charge(3, { minutes: 141, ...ONE_C })],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'held for far too much, whatever was charged since',
    lipo,
    [at(70), put(3300), charge(40), reading(50, level(lipo, 4190))],
    51,
    { finds: { 'charge-implausible': 'hold' } },
  ],
  [
    'nickel: half as much again as its label is its waste',
    nimh,
    [charge(3, { mode: 'fast', movedMah: 3300 * 1.5 })],
    4,
    { not: ['charge-implausible'] },
  ],
  [
    'nickel: twice its label is not',
    nimh,
    [charge(3, { mode: 'fast', movedMah: 6600 })],
    4,
    { finds: { 'charge-implausible': 'watch' } },
  ],
  [
    'nickel: time is judged',
    nimh,
    [charge(30, { mode: 'fast', minutes: 700, ...ONE_C })],
    31,
    { finds: { 'charge-implausible': 'watch' } },
  ],
];

const HEAT: readonly Golden[] = [
  [
    'warm right after landing is only cooling',
    lipo,
    [flight(2), inspection(2.2, 'after-use', {}, ['warm'])],
    2.3,
    { finds: { cooling: 'note' }, not: ['inspection-failed'], mayFly: 'measure-first' },
  ],
  [
    'still warm an hour later is held',
    lipo,
    [flight(2), inspection(3, 'after-use', {}, ['warm'])],
    3.1,
    { finds: { 'inspection-failed': 'hold' } },
  ],
  [
    '59 minutes later it may be cooling',
    lipo,
    [flight(2), inspection(2.98, 'after-use', {}, ['warm'])],
    3,
    { finds: { cooling: 'note' } },
  ],
  [
    'felt again and cool',
    lipo,
    [flight(2), inspection(2.2, 'after-use', {}, ['warm']), inspection(3.2, 'after-use')],
    3.3,
    { not: ['cooling', 'inspection-failed'] },
  ],
  [
    'felt again and still warm',
    lipo,
    [flight(2), inspection(2.2, 'after-use', {}, ['warm']), inspection(3.2, 'after-use', {}, ['warm'])],
    3.3,
    { finds: { 'inspection-failed': 'hold' } },
  ],
  [
    'too hot to touch is held at once',
    lipo,
    [flight(2), inspection(2.1, 'after-use', { felt: 'hot' }, ['warm'])],
    2.2,
    { finds: { 'inspection-failed': 'hold' } },
  ],
  [
    'warm with nothing logged before is held',
    lipo,
    [reading(0, level(lipo, 3800)), inspection(9, 'scheduled', {}, ['warm'])],
    10,
    { finds: { 'inspection-failed': 'hold' } },
  ],
  ['landed warm to the hand is no fault', lipo, [flight(2, { felt: 'warm' })], 3, { not: ['hot-use'] }],
  [
    'landed too hot to touch is held',
    lipo,
    [flight(2, { felt: 'hot' })],
    3,
    { finds: { 'hot-use': 'hold' } },
  ],
  [
    'lukewarm at 1C is a note',
    lipo,
    [charge(3, { felt: 'lukewarm', ...ONE_C })],
    4,
    { finds: { 'charge-habits': 'note' }, verdict: 'fit' },
  ],
  [
    'lukewarm at 2C is expected',
    lipo,
    [charge(3, { felt: 'lukewarm', ...set({ currentA: 6.6 }) })],
    4,
    { not: ['charge-habits', 'hot-charge'] },
  ],
  [
    'warm while charging is held',
    lipo,
    [charge(3, { felt: 'warm' })],
    4,
    { finds: { 'hot-charge': 'hold' } },
  ],
  [
    'too hot while charging is held',
    lipo,
    [charge(3, { felt: 'hot' })],
    4,
    { finds: { 'hot-charge': 'hold' } },
  ],
  ['a nickel pack gets warm', nimh, [charge(3, { mode: 'fast', felt: 'warm' })], 4, { not: ['hot-charge'] }],
  [
    'a nickel pack at 60 °C',
    nimh,
    [charge(3, { mode: 'fast', temperatureC: 60 })],
    4,
    { not: ['hot-charge'] },
  ],
  [
    'a nickel pack at 61 °C is a finding',
    nimh,
    [charge(3, { mode: 'fast', temperatureC: 61 })],
    4,
    { finds: { 'hot-charge': 'watch' } },
  ],
  [
    'a nickel pack too hot to touch is a finding',
    nimh,
    [charge(3, { mode: 'fast', felt: 'hot' })],
    4,
    { finds: { 'hot-charge': 'watch' } },
  ],
  [
    'a nickel wrap that split is held',
    nimh,
    [inspection(3, 'scheduled', {}, ['case'])],
    4,
    { finds: { 'inspection-failed': 'hold' } },
  ],
];

const RATES: readonly Golden[] = [
  [
    '1C at home is ordinary',
    lipo,
    [charge(3, ONE_C)],
    4,
    { not: ['charge-habits', 'field-charged'], state: 'high' },
  ],
  [
    '2C in the field: fly or drain today',
    lipo,
    [charge(3, set({ currentA: 6.6 }))],
    4,
    { finds: { 'field-charged': 'note' }, not: ['charge-habits'], step: 'fly-or-drain' },
  ],
  ['flown, it is over', lipo, [charge(3, set({ currentA: 6.6 })), flight(5)], 6, { not: ['field-charged'] }],
  [
    'put to storage, it is over',
    lipo,
    [charge(3, set({ currentA: 6.6 })), charge(5, { mode: 'storage' })],
    6,
    { not: ['field-charged'] },
  ],
  [
    'above the field rate is named',
    packOf('lipo', { chargeC: 5 }),
    [charge(3, set({ currentA: 7 }))],
    4,
    { finds: { 'charge-habits': 'note' } },
  ],
  [
    'above the label is named',
    lipo,
    [charge(3, set({ currentA: 7 }))],
    4,
    { finds: { 'charge-habits': 'note', 'wrong-setting': 'watch' } },
  ],
  [
    'above 1C without a label is named',
    packOf('lipo', { chargeC: null }),
    [charge(3, set({ currentA: 4 }))],
    4,
    { finds: { 'charge-habits': 'note' } },
  ],
  [
    'a rate told by minutes only',
    packOf('lipo', { chargeC: 5 }),
    [charge(3, { movedMah: 3000, minutes: 20 })],
    4,
    { finds: { 'charge-habits': 'note' } },
  ],
  [
    'the first charge after a long rest at 2C',
    lipo,
    [received(-inDays(70)), charge(3, set({ currentA: 6.6 }))],
    4,
    { finds: { 'charge-habits': 'note' } },
  ],
  [
    'the first charge after a long rest at 1C',
    lipo,
    [received(-inDays(70)), charge(3, ONE_C)],
    4,
    { not: ['charge-habits'] },
  ],
  ['too cold to charge', lipo, [charge(3, { temperatureC: 4 })], 4, { finds: { 'charge-habits': 'note' } }],
  ['cold enough to charge', lipo, [charge(3, { temperatureC: 5 })], 4, { not: ['charge-habits'] }],
  [
    '20 minutes after a warm landing',
    lipo,
    [flight(2, { hottestC: 45 }), charge(3 + 1 / 3, { minutes: 60 })],
    4,
    { finds: { 'charge-habits': 'note' } },
  ],
  [
    'half an hour after a warm landing',
    lipo,
    [flight(2, { hottestC: 45 }), charge(3.5, { minutes: 60 })],
    4,
    { not: ['charge-habits'] },
  ],
  [
    'above the rules’ own top',
    lipo,
    [charge(3, set({ topMv: 4200 }))],
    4,
    { finds: { 'charge-habits': 'note' } },
    PRESET_RULES['long-service'],
  ],
  [
    'unbalanced once where every charge is balanced',
    lipo,
    [charge(3, { mode: 'fast' })],
    4,
    { finds: { 'balance-due': 'note' } },
  ],
  [
    'four times where every fifth is',
    lipo,
    [0, 1, 2, 3].map((i) => charge(i * 24, { mode: 'fast' })),
    100,
    { not: ['balance-due'] },
    PRESET_RULES['ready-state'],
  ],
  [
    'five times where every fifth is',
    lipo,
    [0, 1, 2, 3, 4].map((i) => charge(i * 24, { mode: 'fast' })),
    100,
    { finds: { 'balance-due': 'note' } },
    PRESET_RULES['ready-state'],
  ],
  ['80 % deep is allowed', lipo, [flight(2, { usedMah: 2640 })], 3, { not: ['deep-use'] }],
  ['81 % deep is told', lipo, [flight(2, { usedMah: 2673 })], 3, { finds: { 'deep-use': 'note' } }],
  ['10 °C is not cold', lipo, [flight(2, { ambientC: 10 })], 3, { not: ['cold-use'] }],
  ['9 °C is', lipo, [flight(2, { ambientC: 9 })], 3, { finds: { 'cold-use': 'note' } }],
];

const TIME: readonly Golden[] = [
  ...each((chemistry, pack) => {
    const { targetMv } = EVEN_KEEL.storage[chemistry];
    const stored = [reading(0, level(pack, targetMv))];
    return [
      [
        'stored and read is in its band a month later',
        pack,
        stored,
        inDays(29),
        { state: 'in-band', verdict: 'fit' },
      ],
      [
        'unread for 180 days it is not known to be',
        pack,
        stored,
        inDays(180),
        { state: 'unmeasured', mayFly: 'measure-first' },
      ],
      [
        '90 days without a measurement are not fit',
        pack,
        stored,
        inDays(90),
        { finds: { 'not-known': 'watch' }, verdict: 'watch', mayFly: 'measure-first' },
      ],
      ['89 days are', pack, stored, inDays(89.9), { not: ['not-known'] }],
      [
        'a job pending for a year is not in band',
        pack,
        [...stored, charge(5, { mode: 'storage' })],
        inDays(365),
        { state: 'unmeasured' },
      ],
    ];
  }),
  [
    'a pack that stores itself within the rules',
    smart(48),
    [charge(0)],
    60,
    {
      state: 'self-storing',
      finds: { 'self-storing': 'note' },
      not: ['storage-high'],
      step: 'measure-rested',
    },
  ],
  [
    'and is not overdue after its allowance',
    smart(48),
    [charge(0)],
    100,
    { state: 'self-storing', not: ['storage-high'] },
  ],
  [
    'a delay above the allowance is a finding',
    smart(49),
    [charge(0)],
    60,
    { state: 'high', finds: { 'smart-settings': 'note' } },
  ],
  [
    'switched off is a finding',
    smart(12, false),
    [charge(0)],
    60,
    { state: 'high', finds: { 'smart-settings': 'note' } },
  ],
  [
    'charged fast it is flown or drained all the same',
    smart(48),
    [charge(0, set({ currentA: 6.6 }))],
    5,
    { finds: { 'field-charged': 'note' } },
  ],
  ['a full pack is charged next week', lipo, [charge(0)], inDays(7), { charged: 'charged' }],
  ['a smart one left alone is not', smart(24), [charge(0)], inDays(7), { charged: 'charge-first' }],
  ['an open stretch at full counts from a year back', lipo, [charge(0)], inDays(20), { not: ['long-full'] }],
  [
    'and is watched when its days add up',
    lipo,
    [charge(0)],
    inDays(200),
    { finds: { 'long-full': 'watch' } },
  ],
  [
    'three years later nothing of it is within the year',
    lipo,
    [charge(0)],
    inDays(1200),
    { not: ['long-full'] },
  ],
  [
    'a cell that loses 6 % a week on the shelf',
    lipo,
    [reading(0, [3850, 3850, 3850, 3850]), reading(inDays(7), [3850, 3850, 3850, 3790])],
    inDays(8),
    { finds: { 'shelf-loss': 'watch' } },
  ],
  [
    'one that leaks as its chemistry does',
    lipo,
    [reading(0, level(lipo, 3800)), reading(inDays(30), level(lipo, 3790))],
    inDays(31),
    { not: ['shelf-loss'] },
  ],
];

/** Seasons of one pack: charged full, flown to 20 %, read; used charge as given, in mAh. */
const seasons = (uses: readonly number[], pack: PackFacts = lipo) =>
  uses.flatMap((usedMah, i) => [
    charge(i * 48, { balanced: true, ...set({ topMv: 4200 }) }),
    flight(i * 48 + 2, { usedMah, craft: 'quad', minutes: 12 }),
    reading(i * 48 + 4, level(pack, 3730)),
  ]);
const sound = 2640;
const ohms = (hours: number, last: number, instrument: string | null = 'meter A', celsius = 25) =>
  aRecord(hours, {
    kind: 'resistance',
    payload: { irMilliohm: [4, 4, 4, last], temperatureC: celsius, instrument, remarks: null },
    supersedes: null,
  });
const meterB = (hours: number, factor: number) =>
  aRecord(hours, {
    kind: 'resistance',
    payload: { irMilliohm: level(lipo, 4 * factor), temperatureC: 25, instrument: 'meter B', remarks: null },
    supersedes: null,
  });

const ONE_NUMBER: readonly Golden[] = [
  [
    'one flight mistyped',
    lipo,
    seasons([sound, sound, sound, 1000]),
    300,
    { finds: { capacity: 'note' }, verdict: 'fit' },
  ],
  [
    'one low measurement alone asks for another',
    lipo,
    seasons([1800]),
    10,
    { finds: { capacity: 'note' }, verdict: 'fit' },
  ],
  ['two of three are watched', lipo, seasons([sound, 1700, 1700]), 200, { finds: { capacity: 'watch' } }],
  [
    'three that agree advise retiring',
    lipo,
    seasons([sound, 1800, 1800, 1800]),
    300,
    { finds: { capacity: 'retire' } },
  ],
  [
    'a smart pack that bled itself between two states',
    smart(12),
    [
      charge(0, { balanced: true }),
      flight(60, { usedMah: 300 }),
      reading(inDays(6), level(lipo, 3800)),
      charge(inDays(7), { balanced: true }),
      flight(inDays(9), { usedMah: 300 }),
      reading(inDays(14), level(lipo, 3800)),
      charge(inDays(15), { balanced: true }),
      flight(inDays(17), { usedMah: 300 }),
      reading(inDays(23), level(lipo, 3800)),
    ],
    inDays(24),
    { not: ['capacity'] },
  ],
  [
    'self-discharge over months is no lost capacity',
    lipo,
    [0, 200, 400].flatMap((d) => [
      charge(inDays(d), { balanced: true }),
      flight(inDays(d + 120), { usedMah: 1300 }),
      reading(inDays(d + 180), level(lipo, 3770)),
    ]),
    inDays(581),
    { not: ['capacity'] },
  ],
  [
    'another resistance meter begins anew',
    lipo,
    [ohms(0, 4), ohms(1, 4), ohms(2, 4), meterB(100, 2.2), meterB(101, 2.2), meterB(102, 2.2)],
    110,
    { not: ['resistance-growth', 'resistance-jump'] },
  ],
  [
    'joined by measuring with both, the growth counts',
    lipo,
    [
      ohms(0, 4),
      ohms(1, 4),
      ohms(2, 4),
      meterB(3, 1.5),
      meterB(100, 3.3),
      meterB(101, 3.3),
      meterB(102, 3.3),
    ],
    110,
    { finds: { 'resistance-growth': 'retire' } },
  ],
  [
    'one cell at three times its siblings in one reading is watched',
    lipo,
    [ohms(0, 4), ohms(1, 4), ohms(2, 4), ohms(200, 12)],
    201,
    { finds: { 'resistance-siblings': 'watch' }, verdict: 'watch' },
  ],
  [
    'in three it is to go',
    lipo,
    [ohms(0, 4), ohms(200, 12), ohms(201, 12), ohms(202, 12)],
    203,
    { finds: { 'resistance-siblings': 'retire' } },
  ],
  [
    'the craft changed: shorter all at once',
    lipo,
    [
      ...Array.from({ length: 10 }, (_, i) => flight(i * 24, { craft: 'quad', minutes: 12, usedMah: 2000 })),
      ...Array.from({ length: 6 }, (_, i) =>
        flight(300 + i * 24, { craft: 'quad', minutes: 6, usedMah: 2000 }),
      ),
    ],
    500,
    { finds: { 'run-time': 'watch' } },
  ],
  [
    '3.50 and 3.30 V near empty after a use is little charge',
    lipo,
    [charge(0), flight(2), reading(4, [3500, 3500, 3500, 3300])],
    5,
    { verdict: 'watch', finds: { 'weak-cell': 'note' } },
  ],
  [
    'the same millivolts in the middle are much',
    lipo,
    [charge(0), flight(2), reading(4, [3850, 3850, 3850, 3650])],
    5,
    { finds: { 'weak-cell': 'retire' } },
  ],
  [
    'an odd charge counts for nothing in the capacity',
    lipo,
    [0, 1, 2].flatMap((i) => [
      reading(i * 48, level(lipo, 3730)),
      charge(i * 48 + 3, { movedMah: 9000, balanced: true }),
    ]),
    160,
    { not: ['capacity'] },
  ],
];

const slip = (hours: number, mode: ChargePayload['mode'], cells: number) =>
  charge(hours, { mode, ...set({ cells }) });
const SETTINGS: readonly Golden[] = [
  [
    'a discharge set for one cell less runs them flat',
    lipo,
    [slip(3, 'discharge', 3)],
    4,
    { finds: { 'wrong-setting': 'hold' } },
  ],
  [
    'a discharge set for one more ends early',
    lipo,
    [slip(3, 'discharge', 5)],
    4,
    { finds: { 'wrong-setting': 'watch' } },
  ],
  [
    'a storage job for one more overfills',
    lipo,
    [slip(3, 'storage', 5)],
    4,
    { finds: { 'wrong-setting': 'hold' } },
  ],
  [
    'a storage job for one less runs flat',
    lipo,
    [slip(3, 'storage', 3)],
    4,
    { finds: { 'wrong-setting': 'hold' } },
  ],
  [
    'a charge for one more overfills',
    lipo,
    [slip(3, 'balance', 5)],
    4,
    { finds: { 'wrong-setting': 'hold' } },
  ],
  [
    'a charge for one less is a caution',
    lipo,
    [slip(3, 'balance', 3)],
    4,
    { finds: { 'wrong-setting': 'watch' } },
  ],
  [
    'a discharge as another chemistry that goes lower',
    lipo,
    [charge(3, { mode: 'discharge', ...set({ chemistry: 'lifepo4' }) })],
    4,
    { finds: { 'wrong-setting': 'hold' } },
  ],
];

const ready = PRESET_RULES['ready-state'];
const recovered = (pack: PackFacts) => {
  const before = [
    reading(0, [2600, 3500, 3500, 3500]),
    inspection(2),
    recovery(3, {
      step: 'begun',
      basedOnSeq: 2,
      cause: 'stored-flat',
      causeText: 'left in the craft',
      charger: 'Bench',
      currentA: 0.3,
      attendant: 'Ineke',
    }),
    recovery(3.3, { step: 'ended', how: 'reached', cellsMv: null, remarks: null }),
    reading(30, level(pack, 3700)),
  ];
  return [...before, release(31, pack, before, 'for-good', ready)];
};
const weak = (cell: number, hours: number, mv: number) => [
  charge(hours, { balanced: true }),
  flight(hours + 2),
  reading(
    hours + 4,
    level(lipo, 3850).map((one, i) => (i === cell - 1 ? one - mv : one)),
  ),
];
const keptOn = (records: readonly PackRecord[], hours: number) => [
  ...records,
  release(hours, lipo, records, { until: START + 100 * DAY_MS }),
];

const ANSWERED: readonly Golden[] = [
  [
    'recovered and released is watched for life',
    lipo,
    recovered(lipo),
    40,
    { verdict: 'watch', finds: { 'damage-floor': 'watch' } },
    ready,
  ],
  [
    'then all cells below the floor: new evidence',
    lipo,
    [...recovered(lipo), reading(50, level(lipo, 2900))],
    51,
    { verdict: 'hold', mayFly: 'no', not: ['recharge-soon'] },
    ready,
  ],
  [
    'at 2.40 V nothing is left to recover',
    lipo,
    [reading(0, level(lipo, 2400))],
    1,
    { verdict: 'retire-advised' },
    ready,
  ],
  [
    'Li-ion is promised no recovery',
    packOf('liion'),
    [reading(0, level(packOf('liion'), 2490))],
    1,
    { finds: { 'over-discharged': 'retire' } },
    ready,
  ],
  [
    'LiFePO4 is promised no recovery',
    packOf('lifepo4'),
    [reading(0, level(packOf('lifepo4'), 1990))],
    1,
    { finds: { 'over-discharged': 'retire' } },
    ready,
  ],
  ['weak cell 2 answered until a day', lipo, keptOn(weak(2, 0, 210), 5), 10, { verdict: 'watch' }],
  [
    'the same cell the same: still answered',
    lipo,
    [...keptOn(weak(2, 0, 210), 5), ...weak(2, 48, 215)],
    60,
    { finds: { 'weak-cell': 'watch' } },
  ],
  [
    'later cell 4 far under: new evidence',
    lipo,
    [...keptOn(weak(2, 0, 210), 5), ...weak(4, 48, 540)],
    60,
    { verdict: 'retire-advised' },
  ],
  [
    'later the same cell much worse: new evidence',
    lipo,
    [...keptOn(weak(2, 0, 210), 5), ...weak(2, 48, 540)],
    60,
    { verdict: 'retire-advised' },
  ],
];

const crash = (hours: number, id: string) =>
  aRecord(hours, {
    kind: 'incident',
    payload: { incidentId: id as never, kind: 'crash', holds: true },
    supersedes: null,
  });
const cleared = (hours: number) => [inspection(hours, 'after-crash'), reading(hours + 1, level(lipo, 3800))];
const twoCrashes = [crash(0, 'one'), crash(1, 'two'), ...cleared(3)];
const oneLook = inspection(3, 'after-crash');
const released = (() => {
  const before = [crash(0, 'one'), oneLook, reading(4, level(lipo, 3800))];
  return [...before, release(5, lipo, before, { until: START + 100 * DAY_MS })];
})();
const withdrawn = aRecord(9, {
  kind: 'correction',
  payload: { reason: 'another pack', replacement: null },
  supersedes: oneLook.id,
});

const INCIDENTS: readonly Golden[] = [
  [
    'two incidents answered by one release',
    lipo,
    [...twoCrashes, release(5, lipo, twoCrashes, { until: START + 100 * DAY_MS })],
    6,
    { verdict: 'watch', mayFly: 'yes' },
  ],
  [
    'a third after that holds again',
    lipo,
    [...twoCrashes, release(5, lipo, twoCrashes, { until: START + 100 * DAY_MS }), crash(20, 'three')],
    21,
    { verdict: 'hold' },
  ],
  ['a release stands', lipo, released, 8, { verdict: 'watch' }],
  [
    'a release whose look was withdrawn does not',
    lipo,
    [...released, withdrawn],
    10,
    { verdict: 'hold', mayFly: 'no' },
  ],
  [
    'retired within its watch: keep off first',
    lipo,
    [
      crash(0, 'one'),
      decision(0.2, { to: 'retire', because: [], secondWanted: false }),
      disposal(0.3, { step: 'marked' }),
    ],
    0.5,
    { step: 'keep-off' },
  ],
  [
    'its watch over, the way goes on',
    lipo,
    [
      crash(0, 'one'),
      decision(0.2, { to: 'retire', because: [], secondWanted: false }),
      disposal(0.3, { step: 'marked' }),
    ],
    1.5,
    { step: 'drain' },
  ],
  [
    'overcharged and retired: the night outdoors comes first',
    lipo,
    [
      charge(0, { endCellsMv: level(lipo, 4400) }),
      decision(0.2, { to: 'retire', because: [], secondWanted: false }),
      disposal(0.3, { step: 'marked' }),
    ],
    11,
    { step: 'keep-off' },
  ],
];

const ALL = [
  ...HOLDING,
  ...ENDS,
  ...DELIVERED,
  ...HEAT,
  ...RATES,
  ...TIME,
  ...ONE_NUMBER,
  ...SETTINGS,
  ...ANSWERED,
  ...INCIDENTS,
];

it('is a table of at least 120 histories', () => {
  expect(ALL.length).toBeGreaterThanOrEqual(120);
  expect(new Set(ALL.map(([what]) => what)).size).toBe(ALL.length);
});

it.each(ALL.map((golden) => [golden[0], golden] as const))('%s', (_, golden) => check(golden));

it('reads and resistances of nickel packs never ask for a voltage', () => {
  const said = judged(nimh, [total(0, 7200), resistance(1, level(nimh, 9))], inDays(1));
  expect(said.storage.state).toBe('no-rule');
});
