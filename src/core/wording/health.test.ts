import { HOUR_MS } from '../measure';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  flight,
  judged,
  level,
  reading,
  resistance,
  START,
  EVEN_KEEL,
} from '../testing/histories';
import { ruleRefusals, withRuleValue } from '../rules';
import { figuresOf, forecastWords, nextUseWords, retirementSentence, ruleRefusalSentence, sentence } from '.';

const lipo = aPack();
const reader = (hours: number) => ({ now: START + hours * HOUR_MS, zone: 'UTC' });

/** What is said of one rule. */
function said(rule: string, records: readonly PackRecord[], hours = 100): string | undefined {
  const { findings } = judged(lipo, records, hours);
  const finding = findings.find((one) => one.rule === rule);
  if (finding) expect(figuresOf(finding, reader(hours)).length).toBeGreaterThan(0);
  return finding && sentence(finding, reader(hours));
}

const weak = (count: number) =>
  Array.from({ length: count }, (_, i) => [
    reading(i * 24, [3760, 3760, 3705, 3760]),
    charge(i * 24 + 2),
  ]).flat();

it('a recurring weak cell is told with how often, in words a person counts in', () => {
  expect(said('weakest-again', weak(3))).toBe(
    'Cell 3 came to the charger lowest and out of tolerance in three of the last 3 charges; from 3 in 5 it is a caution. Charge it at 1C, balanced, and keep it off costly craft.',
  );
  expect(said('weakest-again', weak(5), 200)).toContain(
    'in five of the last 5 charges, 2 times since it was put on caution',
  );
});

it('heat, low landings and failed charges are told with their repetition', () => {
  const hot = [57, 58, 56].map((hottestC, i) => flight(i * 24, { hottestC }));
  expect(said('hot-use', hot)).toBe(
    'The pack reached 56 °C in use 4 Mar 08:00, third time in three flights; over 55 °C is a caution. Look for a wrong gear, propeller or load.',
  );
  const low = [0, 24].map((hours) =>
    flight(hours, { landing: { volts: { of: 'pack', packMv: 13_600 }, condition: 'loaded' } }),
  );
  expect(said('landed-low', low, 30)).toBe(
    'The pack landed at 3.40 V a cell under load today 08:00, below 3.50 V, second time in two flights.',
  );
  const failed = [0, 24].map((hours) => charge(hours, { ending: 'timed-out' }));
  expect(said('charge-failed', failed, 25)).toBe(
    'The balance charge timed out today 08:00, the second in a row to fail; the rules say to retire it after 3. Discharge it and balance again.',
  );
});

it('a wrong setting names every slip beside what was wanted', () => {
  const settings = { chemistry: 'lihv', cells: 5, topMv: 4350, currentA: 9 } as const;
  expect(said('wrong-setting', [charge(0, { settings })], 1)).toBe(
    'The charge of today 08:00 was set for another pack: LiHV instead of LiPo, 5 cells instead of 4, up to 4.35 V a cell instead of 4.20 V and 9 A where its label allows 6.6 A.',
  );
});

it('resistance is told at 25 °C with its factor and what it is held against', () => {
  const grown = [
    ...[0, 1, 2].map((hours) => resistance(hours, [4, 4, 4, 4])),
    ...[50, 51, 52].map((hours) => resistance(hours, [4, 4, 6.4, 4])),
  ];
  expect(said('resistance-growth', grown)).toContain(
    'Cell 3 stands at 6.4 mΩ, 1.6 times its own baseline of 4.0 mΩ; at 1.5 times it is a caution.',
  );
  expect(said('resistance-jump', [resistance(0, [4, 4, 4, 4]), resistance(1, [4, 4, 6, 4])])).toContain(
    'jumped from 4.0 mΩ to 6.0 mΩ, 50 % in one step',
  );
});

it('a pack used since its reading, and one whose job waits to be confirmed, say from when they can be read', () => {
  expect(said('unmeasured', [charge(0), flight(5)], 6)).toBe(
    'The pack was used today 13:00 and not read since, so nobody can say what it holds. Read it rested from today 13:30.',
  );
  expect(said('storage-pending', [charge(0), charge(5, { mode: 'storage' })], 6)).toContain(
    'Read it from today 13:30.',
  );
});

it('what ended a clock and was written when that had run out says all three moments', () => {
  const late = { ...charge(10, { mode: 'storage' }), recordedAt: START + 80 * HOUR_MS };
  expect(said('written-late', [charge(0), late], 81)).toBe(
    'The storage clock ran out yesterday 08:00; what ended it is dated 2 Mar 18:00 and was written 70 h later. Read it to be sure.',
  );
});

it('a spread that balancing did not close says so, and asks for nothing more', () => {
  const records = [charge(0), reading(2, [4200, 4200, 4200, 4090])];
  expect(said('spread', records, 3)).toBe(
    'Cell 4 rests 110 mV below the highest, though just balanced; over 100 mV after balancing the rules say to retire a pack.',
  );
});

it('contradicting records are named with both readings', () => {
  const records = [charge(0), flight(2), reading(4, level(lipo, 3800)), reading(50, level(lipo, 4190))];
  expect(said('unlogged', records, 51)).toBe(
    'The lowest cell read 3.80 V 2 Mar 12:00 and 4.19 V today 10:00 with no charge logged between. Log the charge if you know of it.',
  );
});

it('forecasts are weeks when near, months when far, open when they may never come', () => {
  const now = START;
  const day = 24 * HOUR_MS;
  const words = (earliest: number, expected: number, latest: number | null) =>
    forecastWords(
      {
        state: 'range',
        earliest: now + earliest * day,
        expected: now + expected * day,
        latest: latest === null ? null : now + latest * day,
      },
      reader(0),
    );
  expect(words(14, 21, 35)).toBe('four times in five between 16 Mar and 6 Apr, most likely about 23 Mar');
  expect(words(200, 300, 400)).toBe('about Dec 2026, four times in five between Sep 2026 and Apr 2027');
  expect(words(200, 300, null)).toBe('about Dec 2026, not before Sep 2026, perhaps never');
  const near = { earliest: now, expected: now + 40 * day, latest: now + 400 * day, alreadyShare: 0.4 };
  expect(forecastWords({ state: 'range', ...near }, reader(0))).toBe(
    'perhaps already; if not, in about 6 weeks, four times in five by Apr 2027',
  );
  expect(forecastWords({ state: 'not-enough', count: 2, wanted: 6 }, reader(0))).toBe(
    'not enough data to say (2 of 6 values)',
  );
  expect(retirementSentence({ measures: [], retirement: null }, reader(0))).toBe(
    'Not enough data to forecast its end.',
  );
});

it('the next flying day is told as an instruction', () => {
  expect(nextUseWords({ advice: 'leave-charged', until: START + 20 * HOUR_MS }, reader(0))).toBe(
    'Leave it charged: it flies in 20 h (tomorrow 04:00), within its allowance.',
  );
  expect(nextUseWords({ advice: 'measure-first' }, reader(0))).toBe('Measure it first.');
});

it('a rule out of its range says the range, and an order says what it stands against', () => {
  const why = (path: string, value: number) =>
    ruleRefusals(withRuleValue(EVEN_KEEL, { path }, value)).map(ruleRefusalSentence);
  expect(why('storage.lipo.targetMv', 3900)).toEqual(['No practice goes beyond 3.80 V to 3.85 V here.']);
  expect(why('spread.toleranceMv', 50)).toEqual(['This must lie below “Spread for caution, over”.']);
});
