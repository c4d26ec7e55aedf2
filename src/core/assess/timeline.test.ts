import { DAY_MS, HOUR_MS, MINUTE_MS } from '../measure';
import { fold } from '../record';
import type { PackRecord } from '../record';
import { PRESET_RULES } from '../rules';
import {
  aPack,
  charge,
  EVEN_KEEL,
  flight,
  incident,
  inspection,
  level,
  reading,
  received,
  release,
  resistance,
  START,
} from '../testing/histories';
import { randomHistory } from '../testing/randomHistories';
import { caseFile } from './caseFile';
import { RULES } from './judges';
import { assess, timeline } from '.';
import type { Assessment } from '.';

/** What a list shows of a pack; the rest of an assessment is worked out where it is shown. */
function shown({
  verdict,
  mayFly,
  charged,
  storage,
  steps,
  due,
  needs,
  outSince,
  findings,
  watch,
}: Assessment): string {
  const found = findings.map(({ rule, severity }) => `${rule} ${severity}`);
  return JSON.stringify([verdict, mayFly, charged, storage, steps, due, needs, outSince, found, watch]);
}

const lipo = aPack();
const smart = aPack({ smart: { autoStorage: true, autoStorageAfterHours: 48 } });
const crashed = [received(-30), incident(0), inspection(2, 'after-crash'), reading(3, level(lipo, 3800))];
/** It holds three quarters of its label, measured four times over; then it was charged in part, and what went in was counted. */
const topped = [
  ...[0, 48, 96, 144].flatMap((hours) => [
    reading(hours, level(lipo, 3700)),
    charge(hours + 3, { mode: 'balance', movedMah: lipo.capacityMah * 0.6, balanced: true }),
    flight(hours + 6),
  ]),
  reading(200, level(lipo, 3700)),
  charge(203, { ending: 'stopped', movedMah: lipo.capacityMah * 0.6 }),
];
const HISTORIES: readonly (readonly [string, typeof lipo, readonly PackRecord[]])[] = [
  ['read and stored', lipo, [received(-30), reading(0, level(lipo, 3800))]],
  ['charged and left', lipo, [received(-30), charge(0)]],
  ['stores itself', smart, [received(-30), charge(0)]],
  ['put to storage and never read', lipo, [charge(0), charge(5, { mode: 'storage' })]],
  ['flown and left', lipo, [charge(0), flight(4, { usedMah: 2300 })]],
  ['nearly out of its band', lipo, [reading(0, level(lipo, 3710))]],
  [
    'a new pack that came badly',
    lipo,
    [received(0), reading(1, level(lipo, 3400)), inspection(2, 'receipt')],
  ],
  [
    'crashed and released until a day',
    lipo,
    [...crashed, release(4, lipo, crashed, { until: START + 40 * DAY_MS })],
  ],
  ['crashed this morning', lipo, [incident(0)]],
  ['charged hot', lipo, [charge(0, { temperatureC: 60 })]],
  [
    'loses charge on the shelf',
    lipo,
    [reading(0, level(lipo, 3850)), reading(168, [3850, 3850, 3850, 3790])],
  ],
  [
    'a summer full, a year ago',
    lipo,
    [
      charge(0),
      reading(60 * 24, level(lipo, 4150)),
      charge(61 * 24, { mode: 'storage' }),
      reading(62 * 24, level(lipo, 3800)),
    ],
  ],
  ['worn, and charged by count', lipo, topped],
  [
    'old and measured',
    lipo,
    [received(-24 * 900), ...[0, 1, 2].map((i) => resistance(i, level(lipo, 4))), charge(5)],
  ],
];

/** Every twelfth hour for two years and the moments around each change. */
function moments(from: number, changes: readonly number[]): readonly number[] {
  const regular = Array.from({ length: 1460 }, (_, i) => from + i * 12 * HOUR_MS);
  return [...regular, ...changes.flatMap((at) => [at - 1, at, at + 1])].filter((at) => at >= from);
}

it.each(HISTORIES)('%s: the segment that holds says what would be said', (_, pack, records) => {
  for (const rules of [EVEN_KEEL, PRESET_RULES['ready-state']]) {
    const history = fold(pack, records);
    const from = Math.max(...records.map(({ at }) => at)) + HOUR_MS;
    const segments = timeline(history, rules, from);
    for (const at of moments(
      from,
      segments.map((one) => one.from),
    )) {
      const held = segments.findLast((one) => one.from <= at)!;
      expect(`${at - from} ${shown(held.assessment)}`).toBe(
        `${at - from} ${shown(assess(fold(pack, records), rules, at))}`,
      );
    }
  }
});

it('counts what a clock ahead of ours dated a minute later than now', () => {
  const records = [charge(0), reading(60 * 24, level(lipo, 4150)), charge(61 * 24, { mode: 'storage' })];
  const last = START + 61 * 24 * HOUR_MS;
  const segments = timeline(fold(lipo, records), EVEN_KEEL, last - MINUTE_MS);
  for (const at of moments(
    last,
    segments.map((one) => one.from),
  ))
    expect(`${at} ${shown(segments.findLast((one) => one.from <= at)!.assessment)}`).toBe(
      `${at} ${shown(assess(fold(lipo, records), EVEN_KEEL, at))}`,
    );
});

it('begins where it is asked to, in order, and does not go on without end', () => {
  const segments = timeline(fold(lipo, [charge(0)]), EVEN_KEEL, START + HOUR_MS);
  expect(segments[0]!.from).toBe(START + HOUR_MS);
  expect(segments.map(({ from }) => from)).toEqual(
    [...segments.map(({ from }) => from)].sort((a, b) => a - b),
  );
  expect(segments.length).toBeLessThan(20);
});

const RANDOM = 300;

it(`${RANDOM} histories nobody thought of: the segment that holds says what would be said, at odd hours for more than a year`, () => {
  for (let seed = 1; seed <= RANDOM; seed++) {
    const { pack, records, rules } = randomHistory(seed);
    const from = Math.max(...records.map(({ at }) => at)) + HOUR_MS;
    const segments = timeline(fold(pack, records), rules, from);
    const odd = Array.from(
      { length: 40 },
      (_, i) => from + i * 10 * DAY_MS + ((seed * 37 + i * 11) % 24) * HOUR_MS,
    );
    const edges = segments.flatMap((one) => [one.from - 1, one.from, one.from + 1]);
    for (const at of [...odd, ...edges].filter((moment) => moment >= from)) {
      const held = segments.findLast((one) => one.from <= at)!;
      expect(`seed ${seed}, ${at - from} ms: ${shown(held.assessment)}`).toBe(
        `seed ${seed}, ${at - from} ms: ${shown(assess(fold(pack, records), rules, at))}`,
      );
    }
  }
});

it('a rule that is not said to look at the time finds the same at every moment', () => {
  const untimed = RULES.filter(({ timed }) => !timed);
  for (let seed = 1; seed <= 120; seed++) {
    const { pack, records, rules } = randomHistory(seed);
    const from = Math.max(...records.map(({ at }) => at)) + HOUR_MS;
    const foundAt = (now: number) =>
      untimed.map(({ judge }) => JSON.stringify(judge(caseFile(fold(pack, records), rules, now))));
    const first = foundAt(from);
    for (const days of [0.3, 20, 200, 700]) expect(foundAt(from + days * DAY_MS)).toEqual(first);
  }
});
