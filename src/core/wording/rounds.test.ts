import { storagePlan } from '../charging';
import { checklistRefusals, DEFAULT_CHECKLISTS } from '../inspection';
import { HOUR_MS } from '../measure';
import type { PackRecord } from '../record';
import {
  aPack,
  charge,
  EVEN_KEEL,
  flight,
  inspection,
  judged,
  level,
  reading,
  received,
  START,
} from '../testing/histories';
import {
  checklistRefusalSentence,
  figuresOf,
  labelLines,
  seasonWords,
  sentence,
  storagePlanCaution,
  storagePlanWords,
  stowageWarningWords,
  unusualQuestion,
} from '.';

const lipo = aPack();
const DAYS = 24;
const reader = (hours: number) => ({ now: START + hours * HOUR_MS, zone: 'UTC' });

/** What is said by one rule of a pack with these records. */
function said(rule: string, hours: number, records: readonly PackRecord[], pack = lipo): string {
  const finding = judged(pack, records, hours).findings.find((one) => one.rule === rule);
  if (!finding) throw new Error(`${rule} found nothing`);
  return sentence(finding, reader(hours));
}

describe('what a look found', () => {
  it('swelling felt by a hand, measured, and a little growth', () => {
    const felt = inspection(1, 'scheduled', { swelling: 'soft', thicknessMm: 32 }, ['swelling']);
    expect(said('swollen', 2, [inspection(0, 'receipt', { thicknessMm: 30 }), felt])).toBe(
      'The pack was swollen, soft to the thumb, today 09:00, 32 mm thick, 6.7 % more than its 30 mm baseline: out of use. Nobody charges, presses or pierces the pack.',
    );
    const grown = (thicknessMm: number) => [
      inspection(0, 'receipt', { thicknessMm: 30 }),
      inspection(1, 'scheduled', { thicknessMm }),
    ];
    expect(said('swollen', 2, grown(31.6))).toBe(
      'The pack measured 31.6 mm thick, 5.3 % more than its 30 mm baseline today 09:00; from 5 % on it is a caution. Measure it again cold, and at every inspection.',
    );
    expect(said('swollen', 2, grown(33.3))).toMatch(
      /11 % more than its 30 mm baseline .*; from 10 % on it is on hold\.$/,
    );
  });

  it('failed items with their words, occasion and day', () => {
    const wrong = inspection(0, 'after-use', {}, ['connector']);
    expect(said('inspection-failed', 1, [wrong])).toBe(
      'The pack failed its inspection: main connector (after use, today 08:00). Put it right and inspect it again.',
    );
    const finding = judged(lipo, [wrong], 1).findings.find(({ rule }) => rule === 'inspection-failed')!;
    expect(figuresOf(finding, reader(1))).toEqual([{ label: 'Main connector', value: 'caution' }]);
  });
});

describe('what the calendar asks', () => {
  const stored = [received(-1), reading(0, level(lipo, 3800))];
  it('an inspection, a season’s start, a baseline', () => {
    expect(said('inspection-due', 61 * DAYS, [...stored, inspection(0)])).toBe(
      'The pack was last inspected 2 Mar 08:00; the rules say to inspect every 60 days. Inspect it.',
    );
    expect(said('inspection-due', 61 * DAYS, stored)).toMatch(
      /^The pack was never inspected; the rules say to inspect every 60 days/,
    );
    const flown = [...stored, charge(1), flight(2), reading(3, level(lipo, 3800))];
    expect(said('long-rest', 61 * DAYS, flown)).toBe(
      'The pack was not used since 2 Mar; after 60 days at rest the rules say to inspect a pack before its next use. Inspect it, then charge it first at 1C, balanced.',
    );
    expect(said('baseline-missing', 1, stored)).toBe(
      'The pack is new, and its baseline lacks three resistance readings, a thickness and its mass. Measure it by 16 Mar 07:00.',
    );
  });

  it('a pack that came badly', () => {
    const arrived = [received(-1), inspection(0, 'receipt'), reading(0.5, [3500, 3500, 3540, 3500])];
    expect(said('not-as-delivered', 1, arrived)).toBe(
      'The pack came at 3.50–3.54 V a cell, 200 mV outside its storage band and 40 mV apart where 20 is in tolerance: new packs arrive near storage volts and level. Do not charge it; send it back to the seller.',
    );
  });
});

describe('at the bench', () => {
  it('a storage job in full, and none for cells on both sides of the band', () => {
    const pack = aPack({ series: 6, capacityMah: 16_000 });
    const load = { amps: 5, watts: null };
    expect(storagePlanWords(storagePlan(pack, level(pack, 4200), EVEN_KEEL, load)!)).toBe(
      'Discharge 9.60 Ah at 5 A, about 115 min, to 3.80 V a cell, 22.80 V the pack',
    );
    const small = storagePlan(pack, level(pack, 4200), EVEN_KEEL, { amps: 0.4, watts: 5 })!;
    expect(storagePlanWords(small)).toMatch(/^Discharge 9.60 Ah at .* A, about \d\d h, to 3.80 V a cell/);
    expect(storagePlanCaution(small)).toMatch(/longer than anybody stays with it: fly it down/);
    expect(storagePlanCaution(storagePlan(pack, level(pack, 4200), EVEN_KEEL, load)!)).toBeNull();
    expect(
      storagePlanWords(storagePlan(pack, [3600, 4100, 4100, 4100, 4100, 4100], EVEN_KEEL, load)!),
    ).toMatch(/cell 2 would be overfilled/);
    expect(said('recharge-soon', 1, [reading(0, [3400, 4100, 4100, 4100])])).toMatch(
      /Balance it first, gently/,
    );
  });

  it('asks about what a slip of the finger would explain', () => {
    const moved = { code: 'moved', cell: 2, mv: 3020, beforeMv: 3850, beforeAt: START } as const;
    expect(unusualQuestion(moved, reader(24))).toBe(
      'Cell 2: 3.02 after 3.85 yesterday 08:00, with nothing logged between? Enter again to save it.',
    );
    expect(unusualQuestion({ code: 'apart', cell: 4, mv: 3020, othersMv: 3850 }, reader(0))).toMatch(
      /^Cell 4: 3\.02 beside 3\.85 in the others\?/,
    );
  });

  it.each([
    [{ step: 'charge', pass: 1, of: 3, spreadMv: 12 }, 'First charge: 1C, balanced. Cells 12 mV apart.'],
    [
      { step: 'charge', pass: 3, of: 3, spreadMv: 45 },
      'Still 45 mV apart. Discharge, then balance gently: pass 3 of 3.',
    ],
    [{ step: 'stopped', why: 'unbalanced' }, 'Stopped: the cells did not close. Retirement is recommended.'],
    [{ step: 'done', passes: 1 }, 'Ready.'],
    [{ step: 'done', passes: 2 }, 'Ready, after 2 passes.'],
  ] as const)('a season start: %#', (state, words) => {
    expect(seasonWords(state)).toBe(words);
  });
});

it('says how packs lie badly', () => {
  const packIds = ['a', 'b'] as never;
  expect(
    [
      { code: 'held-among-sound', packIds },
      { code: 'too-many', count: 9, capacity: 8 },
      { code: 'charged-in-the-warm', packIds, celsius: 34, limitC: 30 },
      { code: 'mixed-chemistries', chemistries: ['lipo', 'liion'] },
    ].map((why) => stowageWarningWords(why as Parameters<typeof stowageWarningWords>[0])),
  ).toEqual([
    '2 packs out of use among sound ones. Set apart.',
    '9 packs where 8 may lie.',
    '2 charged packs at 34 °C; from 30 °C is too warm.',
    'LiPo and Li-ion in one place; the rules keep them apart.',
  ]);
});

it('a label says what a hand needs, and of nickel that its charger is another', () => {
  expect(labelLines(aPack({ series: 6, capacityMah: 16_000 }), EVEN_KEEL)).toEqual([
    'LiPo 6S 16 Ah',
    '1C = 16 A',
    'Store at 22.80 V',
    '(3.80 V a cell)',
  ]);
  expect(labelLines(aPack({ chemistry: 'nimh', series: 6 }), EVEN_KEEL).at(-1)).toBe('NiMH charger only');
});

it('says what is wrong with a checklist', () => {
  const without = { ...DEFAULT_CHECKLISTS, 'before-use': DEFAULT_CHECKLISTS['before-use'].slice(1) };
  expect(checklistRefusals(without).map(checklistRefusalSentence)).toEqual([
    'The list before use must ask for swelling.',
  ]);
});
