import { HOUR_MS } from '../measure';
import { aPack, judged, level, reading, START, total } from '../testing/histories';
import type { PackRecord } from '../record';
import { PRESET_RULES, PRESETS, RULE_FIELDS, ruleValue } from '../rules';
import { figuresOf, RULE_TEXTS, ruleValueWords, sentence } from '.';

const lipo = aPack();
const reader = (hours: number) => ({ now: START + hours * HOUR_MS, zone: 'UTC' });

/** What is said of these records some hours after the start, 2 March 08:00. */
function said(
  records: readonly PackRecord[],
  hours: number,
  pack = lipo,
  rules = PRESET_RULES['even-keel'],
): string[] {
  const assessment = judged(pack, records, hours, rules);
  return assessment.findings.map((finding) => sentence(finding, reader(hours), assessment.mayFly === 'no'));
}

it('says what a custodian would say, with numbers, limit, hour and job', () => {
  expect(said([reading(0, level(lipo, 4200))], 39)).toEqual([
    'The pack rests at 4.20 V a cell, above its storage band (3.70–3.85 V), for 39 h of 48 h allowed: due in 9 h (tomorrow 08:00). Put it to storage: take out 1.98 Ah, to 3.80 V a cell (15.20 V the pack).',
  ]);
  expect(said([reading(0, level(lipo, 4200))], 51)[0]).toContain('overdue by 3 h (since today 08:00)');
});

it('names the lowest cell and what to put in, once', () => {
  expect(said([reading(0, [3460, 3450, 3440, 3450])], 0.5)).toEqual([
    'Cell 3 rests at 3.44 V, under the 3.50 V recharge-soon floor. Bring it up to storage now: put in 1.24 Ah at up to 3.3 A, to 3.80 V a cell (15.20 V the pack).',
    'The pack rests at 3.44 V a cell, below its storage band (3.70–3.85 V), for under 1 h of 24 h allowed: due in 23 h (tomorrow 08:00).',
  ]);
});

it('gives no advice about a pack that is out of use', () => {
  const sentences = said([reading(0, [3700, 3700, 2950, 3700])], 1);
  expect(sentences).toEqual([
    'The pack was over-discharged to 2.95 V a cell: the rules say to retire such a pack. A custodian decides.',
    'Cell 3 rested at 2.95 V today 08:00, below the 3.00 V damage floor: out of use. Nobody may charge or fly it.',
    'Cell 3 rests 750 mV below the highest; the rules say to retire it over 100 mV after balancing.',
  ]);
  expect(sentences.join(' ')).not.toMatch(/put in|bring|balance it/i);
});

it('words the school that recovers', () => {
  expect(said([reading(0, level(lipo, 2950))], 1, lipo, PRESET_RULES['ready-state'])[0]).toMatch(
    /supervised recovery, by a custodian/,
  );
});

it.each([
  [
    [4150, 4125, 4150, 4150],
    'Cell 2 rests 25 mV below the highest; up to 20 mV is within tolerance. Balance it at the next charge.',
  ],
  [
    [4150, 4150, 4150, 4099],
    'Cell 4 rests 51 mV below the highest; over 50 mV is a caution. Balance it at the next charge.',
  ],
  [
    [3850, 3850, 3740, 3850],
    'Cell 3 rests 110 mV below the highest; the rules say to retire it over 100 mV after balancing. Balance it and read it again: still over that, it is to be retired.',
  ],
])('spread %j', (cells, expected) => {
  expect(said([reading(0, cells)], 1)).toContain(expected);
});

it('tells spread in charge where the volts alone would not', () => {
  expect(said([reading(0, [3850, 3850, 3850, 3810], { meterErrorMv: 1 })], 1)[0]).toMatch(
    /at least 1\d % of charge apart; over 5 % is a caution/,
  );
});

it('says from when a pack can be read', () => {
  expect(said([reading(0, level(lipo, 3600), { condition: 'loaded' })], 0.2)).toContain(
    'The latest reading, today 08:00, was under load; that decides neither storage nor spread. Read it rested from today 08:30.',
  );
});

it('keeps an over-discharge in mind', () => {
  const event = reading(0, [3300, 3150, 3300, 3300]);
  expect(said([event], 1)[0]).toBe(
    'Cell 2 rested at 3.15 V today 08:00, under the 3.20 V over-discharge line. Charge it to storage at once and read it again.',
  );
  expect(said([event, reading(5, level(lipo, 3800))], 6)).toEqual([
    'Cell 2 rested at 3.15 V today 08:00, under the 3.20 V over-discharge line; the lowest cell read 3.80 V today 13:00.',
  ]);
});

it('speaks of the average where there are no cells to name', () => {
  const nimh = aPack({ chemistry: 'nimh', series: 6 });
  expect(said([total(0, 5700)], 1, nimh)[0]).toBe(
    'The average cell rests at 0.95 V, under the 1.00 V recharge-soon floor. Top it up now.',
  );
});

it('every finding has a rule text and, but for the unmeasured, numbers', () => {
  const packs: [PackRecord[], number][] = [
    [[reading(0, level(lipo, 4200))], 1],
    [[reading(0, [2950, 3700, 3700, 3700])], 1],
    [[reading(0, level(lipo, 3150))], 1],
    [[reading(0, level(lipo, 4340))], 1],
    [[reading(0, level(lipo, 3800))], 24 * 40],
    [[reading(0, level(lipo, 3800), { condition: 'settling' })], 1],
  ];
  for (const [records, hours] of packs) {
    for (const finding of judged(lipo, records, hours).findings) {
      expect(RULE_TEXTS[finding.rule].why.length).toBeGreaterThan(40);
      if (finding.rule !== 'unmeasured') expect(figuresOf(finding, reader(hours)).length).toBeGreaterThan(0);
    }
  }
});

it('every rule of every preset has a value in words, and every title is used once', () => {
  for (const preset of PRESETS) {
    for (const field of RULE_FIELDS) {
      expect(ruleValueWords(field, ruleValue(PRESET_RULES[preset], field))).toMatch(/\S/);
    }
  }
  expect(new Set(RULE_FIELDS.map(({ topic, title }) => `${topic} ${title}`)).size).toBe(RULE_FIELDS.length);
});
