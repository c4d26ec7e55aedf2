import { refusalsOf } from '../admission';
import { watchOf } from '../charging';
import type { Chemistry } from '../chemistry';
import { flyingFacts } from '../flying';
import { DAY_MS, HOUR_MS } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { ChargePayload, PackRecord } from '../record';
import { RULE_FIELDS, withRuleValue } from '../rules';
import type { HouseRules, RuleField } from '../rules';
import { stowageWarnings } from '../stowage';
import {
  aPack,
  charge,
  decision,
  EVEN_KEEL,
  flight,
  found,
  incident,
  inspection,
  judged,
  level,
  moved,
  PLAIN,
  reading,
  received,
  recovery,
  resistance,
  SERIES_OF,
  SOMEBODY,
  START,
  total,
} from '../testing/histories';

/** Every value of the house rules changes the judgement of some history: what judges nothing is no rule. */

interface Scene {
  readonly pack?: PackFacts;
  readonly records: readonly PackRecord[];
  readonly hours: number;
}

const packOf = (chemistry: Chemistry, more: Partial<PackFacts> = {}) =>
  aPack({ chemistry, series: SERIES_OF[chemistry], ...more });
const lipo = packOf('lipo');
const set = (more: Partial<ChargePayload['settings']>) => ({
  settings: { chemistry: null, cells: null, topMv: null, currentA: null, ...more },
});
const apart = (mv: number) => [3850, 3850, 3850, 3850 - mv];
const many = <Made>(count: number, make: (i: number) => Made | readonly Made[]): Made[] =>
  Array.from({ length: count }, (_, i) => make(i)).flat() as Made[];
const ohms = (hours: number, factor: number) => resistance(hours, [4, 4, 4, 4 * factor]);
const seasons = (uses: readonly number[]) =>
  uses.flatMap((usedMah, i) => [
    charge(i * 48, { balanced: true, ...set({ topMv: 4200 }) }),
    flight(i * 48 + 2, { usedMah }),
    reading(i * 48 + 4, level(lipo, 3730)),
  ]);
const shorter = (percent: number) => [
  ...many(5, (i) => flight(i * 24, { craft: 'quad', minutes: 100, usedMah: 1000 })),
  ...many(20, (i) =>
    flight(150 + i * 8, { craft: 'quad', minutes: 100 - (percent * i) / 20, usedMah: 1000 }),
  ),
  ...many(6, (i) => flight(330 + i * 8, { craft: 'quad', minutes: 100 - percent, usedMah: 1000 })),
];
const days = (count: number) => count * 24;
const looked = (hours: number, more: object) => inspection(hours, 'scheduled', more);
const underRecovery = [
  reading(0, [2700, 3500, 3500, 3500]),
  inspection(2),
  recovery(3, {
    step: 'begun',
    basedOnSeq: 2,
    cause: 'stored-flat',
    causeText: 'x',
    charger: 'x',
    currentA: 0.3,
    attendant: 'x',
  }),
];

/** A history that lies between what the field's two ends say, by the field's path; a figure is the middle of its range. */
const SCENES: Readonly<Record<string, (middle: number, chemistry: Chemistry) => Scene>> = {
  'storage.*.targetMv': (_, chemistry) => at(chemistry, 0.95),
  'storage.*.bandLowMv': (mv, chemistry) => levelAt(chemistry, mv),
  'storage.*.bandHighMv': (mv, chemistry) => levelAt(chemistry, mv),
  'allowance.highHours': (hours) => ({ records: [reading(0, level(lipo, 4200))], hours }),
  'allowance.fieldHighHours': () => ({
    pack: aPack({ fieldPack: true }),
    records: [reading(0, level(lipo, 4200))],
    hours: 2,
  }),
  'allowance.lowHours': () => ({ records: [reading(0, level(lipo, 3600))], hours: 2 }),
  restMinutes: () => ({ records: [charge(0), reading(1, level(lipo, 3800))], hours: 2 }),
  'floors.*.rechargeSoonMv': (mv, chemistry) => levelAt(chemistry, mv),
  'floors.*.damageMv': (mv, chemistry) => levelAt(chemistry, mv),
  'floors.*.overDischargeMv': (mv, chemistry) => levelAt(chemistry, mv),
  overDischarged: () => ({ records: [reading(0, level(lipo, 2900))], hours: 1 }),
  'recovery.minutes': () => ({ records: underRecovery, hours: 3.1 }),
  'recovery.floorMv': () => ({ records: [reading(0, level(lipo, 2700))], hours: 1 }),
  'recovery.restHours': () => ({
    records: [
      ...underRecovery,
      recovery(3.3, { step: 'ended', how: 'reached', cellsMv: null, remarks: null }),
      reading(60, level(lipo, 3800)),
    ],
    hours: 61,
  }),
  'topMv.*': (mv, chemistry) => ({
    pack: packOf(chemistry),
    records: [charge(0, set({ topMv: mv }))],
    hours: 1,
  }),
  overfullHoldMv: () => ({ records: [reading(0, level(lipo, 4230))], hours: 1 }),
  'health.fullDaysAYear': () => ({ records: [charge(0)], hours: days(40) }),
  bleedDays: () => ({
    pack: aPack({ smart: { autoStorage: true, autoStorageAfterHours: 24 } }),
    records: [charge(0)],
    hours: days(7),
  }),
  shelfC: () => ({ records: [charge(0)], hours: days(45) }),
  'spread.toleranceMv': () => ({ records: [reading(0, apart(10))], hours: 1 }),
  'spread.watchMv': () => ({ records: [reading(0, [4150, 4150, 4150, 4110])], hours: 1 }),
  'spread.retireMv': () => ({ records: [charge(0), reading(2, [4200, 4200, 4200, 4050])], hours: 3 }),
  'spread.watchSocPercent': () => ({ records: [reading(0, apart(30))], hours: 1 }),
  'health.weakCellMv.watch': (mv) => ({ records: [charge(0), flight(2), reading(4, apart(mv))], hours: 5 }),
  'health.weakCellMv.retire': (mv) => ({ records: [charge(0), flight(2), reading(4, apart(mv))], hours: 5 }),
  'health.recurrence.times': () => ({
    records: many(6, (i) => [reading(i * 24, apart(70)), charge(i * 24 + 5)]),
    hours: 200,
  }),
  'health.recurrence.inCharges': () => ({
    records: many(12, (i) => [
      reading(i * 24, i % 4 === 0 ? apart(70) : level(lipo, 3850)),
      charge(i * 24 + 5),
    ]),
    hours: 300,
  }),
  'health.failedBalances': () => ({
    records: many(3, (i) => charge(i * 24, { ending: 'timed-out' })),
    hours: 80,
  }),
  'health.irGrowth.watch': () => grown(1.7),
  'health.irGrowth.retire': (factor) => grown(factor),
  'health.irSiblings.watch': () => grown(1.7),
  'health.irSiblings.retire': (factor) => grown(factor),
  'health.irJumpPercent': () => ({ records: [ohms(0, 1), ohms(5, 1.2)], hours: 6 }),
  'health.capacityPercent.watch': (percent) => ({
    records: seasons(many(3, () => 26.4 * percent)),
    hours: 400,
  }),
  'health.capacityPercent.retire': (percent) => ({
    records: seasons(many(3, () => 26.4 * percent)),
    hours: 400,
  }),
  'health.runTimeLossPercent.watch': (percent) => ({ records: shorter(percent), hours: 500 }),
  'health.runTimeLossPercent.retire': (percent) => ({ records: shorter(percent), hours: 500 }),
  'health.cycles.*': (count, chemistry) => ({
    pack: packOf(chemistry),
    records: [charge(0, { movedMah: 3300 * count })],
    hours: 1,
  }),
  'health.ageYears.*': (years, duty) => ({
    pack: aPack({ dutyClass: duty as never }),
    records: [received(0)],
    hours: days(years * 365),
  }),
  'heat.useWatchC': (c) => ({ records: [flight(0, { hottestC: c })], hours: 1 }),
  'heat.useHoldC': (c) => ({ records: [flight(0, { hottestC: c })], hours: 1 }),
  'heat.chargeWatchC': (c) => ({ records: [charge(0, { temperatureC: c })], hours: 1 }),
  'heat.chargeHoldC': (c) => ({ records: [charge(0, { temperatureC: c })], hours: 1 }),
  'heat.nimhChargeC': (c) => ({
    pack: packOf('nimh'),
    records: [charge(0, { mode: 'fast', temperatureC: c })],
    hours: 1,
  }),
  'heat.coolMinutes': () => ({ records: [flight(0), inspection(0.9, 'after-use', {}, ['warm'])], hours: 1 }),
  'charge.homeC': () => ({ records: [charge(0, set({ currentA: 3.3 }))], hours: 1 }),
  'charge.fieldC': () => ({
    pack: aPack({ chargeC: 9 }),
    records: [charge(0, set({ currentA: 9 }))],
    hours: 1,
  }),
  'charge.afterRestC': () => ({ records: [received(-days(70)), charge(0, set({ currentA: 2 }))], hours: 1 }),
  'charge.fieldHours': () => ({ records: [charge(0, set({ currentA: 6.6 }))], hours: 5 }),
  'charge.balanceEvery': () => ({ records: many(2, (i) => charge(i * 24, { mode: 'fast' })), hours: 50 }),
  'charge.endOverMv': () => ({ records: [charge(0, { endCellsMv: level(lipo, 4215) })], hours: 1 }),
  'charge.overNotePercent': (percent) => ({ records: [charge(0, { movedMah: 33 * percent })], hours: 1 }),
  'charge.overHoldPercent': (percent) => ({ records: [charge(0, { movedMah: 33 * percent })], hours: 1 }),
  'charge.nimhPercent': (percent) => ({
    pack: packOf('nimh'),
    records: [charge(0, { mode: 'fast', movedMah: 33 * percent })],
    hours: 1,
  }),
  'charge.tooFastPercent': () => ({
    records: [reading(0, level(lipo, 3730)), charge(3, { minutes: 25, ...set({ currentA: 3.3 }) })],
    hours: 4,
  }),
  'charge.tooLongPercent': () => ({
    records: [reading(0, level(lipo, 3730)), charge(5, { minutes: 170, ...set({ currentA: 3.3 }) })],
    hours: 6,
  }),
  'charge.coldC': (c) => ({ records: [charge(0, { temperatureC: c })], hours: 1 }),
  'charge.warmLandingMinutes': () => ({
    records: [flight(0, { hottestC: 45 }), charge(2, { minutes: 60 })],
    hours: 3,
  }),
  'flight.landAtMv.*': (mv, chemistry) => ({
    pack: packOf(chemistry),
    records: [
      flight(0, {
        landing: { volts: { of: 'pack', packMv: mv * SERIES_OF[chemistry] }, condition: 'loaded' },
      }),
    ],
    hours: 1,
  }),
  'flight.maxDodPercent': (percent) => ({ records: [flight(0, { usedMah: 33 * percent })], hours: 1 }),
  'flight.chargedPercent': () => ({ records: [reading(0, level(lipo, 3980))], hours: 1 }),
  'flight.coldC': (c) => ({ records: [flight(0, { ambientC: c })], hours: 1 }),
  'idle.everyDays': (count) => ({ records: [reading(0, level(lipo, 3800))], hours: days(count) }),
  'idle.doing': () => ({ records: [reading(0, level(lipo, 3800))], hours: days(40) }),
  'health.unknownDays': (count) => ({ records: [reading(0, level(lipo, 3800))], hours: days(count) }),
  'health.leakPercentAWeek': () => ({
    records: [reading(0, level(lipo, 3850)), reading(days(7), apart(20))],
    hours: days(8),
  }),
  'unlogged.rosePercent': () => ({
    records: [charge(0), reading(5, level(lipo, 3800)), reading(20, level(lipo, 3910))],
    hours: 21,
  }),
  'unlogged.fellPercent': () => ({
    records: [charge(0), reading(5, level(lipo, 3980)), reading(20, level(lipo, 3850))],
    hours: 21,
  }),
  nimhTopUpDays: (count) => ({
    pack: packOf('nimh'),
    records: [charge(0, { mode: 'fast' })],
    hours: days(count),
  }),
  inspectionDays: (count) => ({ records: [inspection(0)], hours: days(count) }),
  seasonStartDays: (count) => ({ records: [charge(0), reading(2, level(lipo, 3800))], hours: days(count) }),
  'swelling.watchPercent': (percent) => ({
    records: [looked(0, { thicknessMm: 100 }), looked(5, { thicknessMm: 100 + percent })],
    hours: 6,
  }),
  'swelling.holdPercent': (percent) => ({
    records: [looked(0, { thicknessMm: 100 }), looked(5, { thicknessMm: 100 + percent })],
    hours: 6,
  }),
  baselineDays: (count) => ({ records: [received(0)], hours: days(count) }),
  arrivalMv: () => ({
    records: [received(0), reading(1, level(lipo, 3500)), inspection(2, 'receipt')],
    hours: 3,
  }),
  returnDays: (count) => ({
    records: [received(0), reading(1, level(lipo, 3400)), inspection(2, 'receipt')],
    hours: days(count),
  }),
  'incidents.watchMinutes': () => ({ records: [incident(0)], hours: 2 }),
  'incidents.overnightHours': () => ({ records: [charge(0, { temperatureC: 60 })], hours: 20 }),
  afterCrash: () => ({ records: [incident(0)], hours: 2 }),
  'endOfLife.reboundHours': () => ({
    records: [decision(0, { to: 'retire', because: [], secondWanted: false }), ...emptied],
    hours: 30,
  }),
};

const emptied = (['marked', 'discharging', 'verified'] as const).map((step, i) => disposalOf(step, i + 1));

function disposalOf(step: 'marked' | 'discharging' | 'verified', hours: number): PackRecord {
  const payload =
    step === 'marked'
      ? { step }
      : step === 'discharging'
        ? { step, load: { by: 'lamp', ratedV: 24, ratedW: 21 }, where: 'outdoors', attendant: 'x' }
        : { step, cellsMv: [0, 0, 0, 0] };
  return { ...received(hours), kind: 'disposal', payload } as PackRecord;
}

function levelAt(chemistry: Chemistry, mv: number): Scene {
  const pack = packOf(chemistry);
  const records = chemistry === 'nimh' ? [total(0, mv * pack.series)] : [reading(0, level(pack, mv))];
  return { pack, records, hours: 1 };
}

/** A pack charged nearly full, whose way to storage depends on the target. */
function at(chemistry: Chemistry, _share: number): Scene {
  const pack = packOf(chemistry);
  return { pack, records: [charge(0)], hours: 1 };
}

function grown(factor: number): Scene {
  return {
    records: [ohms(0, 1), ohms(1, 1), ohms(2, 1), ...many(3, (i) => ohms(90 + i, factor))],
    hours: 100,
  };
}

/** What is said, without the limits that findings repeat: verdict, answers, what is found and how grave, the clock, the jobs, what is due. */
function judgement(rules: HouseRules, { pack = lipo, records, hours }: Scene): string {
  const said = judged(pack, records, hours, rules);
  const { verdict, mayFly, charged, storage, steps, due, needs, watch } = said;
  const jobs = said.findings.flatMap((finding) =>
    'job' in finding && finding.job ? [finding.job.chargeAh] : [],
  );
  return JSON.stringify([verdict, mayFly, charged, storage, steps, due, needs, watch, found(said), jobs]);
}

/** What is judged elsewhere than in a pack's assessment: at the gate, of a place, of a recycler. */
const ELSEWHERE: Readonly<Record<string, (rules: HouseRules) => unknown>> = {
  'flight.outHours': (rules) => flyingFacts(fold(lipo, [moved(0, SOMEBODY)]), lipo.capacityMah, rules).out,
  'recovery.currentC': (rules) => {
    const records = underRecovery.slice(0, 2);
    const draft = underRecovery[2] as PackRecord & { kind: 'recovery' };
    const school = { ...rules, overDischarged: 'supervised recovery' as const };
    return refusalsOf(lipo, records, draft, { id: SOMEBODY, role: 'custodian' }, START + 4 * HOUR_MS, {
      ...PLAIN,
      rules: school,
    });
  },
  retirementNames: (rules) => {
    const records = [reading(0, level(lipo, 3800))];
    const draft = decision(1, { to: 'retire', because: [], secondWanted: false }) as PackRecord & {
      kind: 'decision';
    };
    return refusalsOf(lipo, records, draft, { id: SOMEBODY, role: 'custodian' }, START + HOUR_MS, {
      ...PLAIN,
      rules,
    });
  },
  'charge.stillHereMinutes': (rules) =>
    watchOf({ start: 0, end: 2 * HOUR_MS, seenAt: null }, HOUR_MS / 2, rules),
  'stowage.warmC': (rules) =>
    stowageWarnings(
      { kind: 'shelf', fireResistant: true, metal: 'no', capacity: null, celsius: 30 },
      [stowed('lipo', 'high')],
      rules,
    ),
  'stowage.mixing': (rules) =>
    stowageWarnings(
      { kind: 'cabinet', fireResistant: true, metal: 'no', capacity: null, celsius: 15 },
      [stowed('lipo', 'in-band'), stowed('liion', 'in-band')],
      rules,
    ),
  // How old a recycler's word is, the page about consignments judges.
  // Whether a charged pack may leave is decided at the gate (admission/disposal).
  'endOfLife.handOver': ({ endOfLife }) => endOfLife.handOver,
  'endOfLife.confirmDays': ({ endOfLife }) => 200 * DAY_MS > endOfLife.confirmDays * DAY_MS,
};

function stowed(chemistry: Chemistry, storage: 'high' | 'in-band') {
  return { id: lipo.id, chemistry, verdict: 'fit' as const, storage };
}

const BASE: HouseRules = EVEN_KEEL;
/** Rules that only speak under another school. */
const UNDER: Readonly<Record<string, HouseRules>> = {
  'recovery.minutes': { ...BASE, overDischarged: 'supervised recovery' },
  'recovery.floorMv': { ...BASE, overDischarged: 'supervised recovery' },
  'recovery.restHours': { ...BASE, overDischarged: 'supervised recovery' },
};

function sceneFor({ path }: RuleField): ((middle: number, last: Chemistry) => Scene) | undefined {
  const parts = path.split('.');
  const starred = parts.map((_, i) => parts.map((part, j) => (i === j ? '*' : part)).join('.'));
  return SCENES[path] ?? starred.map((one) => SCENES[one]).find(Boolean);
}

it.each(RULE_FIELDS.map((field) => [field.path, field] as const))('%s changes a judgement', (path, field) => {
  const ends = field.kind === 'choice' ? [field.options[0]!, field.options.at(-1)!] : [field.low, field.high];
  const rules = ends.map((value) => withRuleValue(UNDER[path] ?? BASE, field, value));
  const elsewhere = ELSEWHERE[path];
  if (elsewhere) {
    expect(JSON.stringify(elsewhere(rules[0]!))).not.toBe(JSON.stringify(elsewhere(rules[1]!)));
    return;
  }
  const make = sceneFor(field);
  if (!make) throw new Error('No history is known whose judgement this rule changes.');
  const middle = field.kind === 'figure' ? (field.low + field.high) / 2 : 0;
  const kind = path
    .split('.')
    .find((part) => /^(lipo|lihv|liion|lifepo4|nimh|hard|normal|gentle)$/.test(part));
  const scene = make(
    field.kind === 'figure' && field.whole ? Math.round(middle) : middle,
    (kind ?? 'lipo') as Chemistry,
  );
  expect(judgement(rules[0]!, scene)).not.toBe(judgement(rules[1]!, scene));
});
