import { PRESET_RULES } from '../rules';
import { fitSentence } from '../wording';
import { cutOffTask, fit, worstOutcome } from '.';
import type { CraftFacts, CutOff, FitCheck, FitOutcome, FitPack } from '.';

const rules = PRESET_RULES['even-keel'];

const quad: CraftFacts = {
  chemistries: ['lipo', 'lihv'],
  cells: { least: 4, most: 4 },
  capacityMah: { least: 4_000, most: 6_000 },
  massG: { least: null, most: 620 },
  sustainedA: 30,
  burstA: 90,
  connector: 'yellow 60 A',
  usualMinutes: 11,
  usualMah: 3_900,
  cutOff: { mode: 'lithium', cells: 4, cellMv: 3_300 },
  trainer: false,
  costly: true,
  overWater: false,
  overPeople: false,
};
const pack: FitPack = {
  chemistry: 'lipo',
  series: 4,
  capacityMah: 5_000,
  continuousC: 25,
  connector: 'Yellow 60 A ',
  massG: 540,
  measuredMah: 4_800,
  onWatch: false,
};

type Name = FitCheck['check'];
const adapters = [{ name: 'yellow to blue', from: 'yellow 60 A', to: 'blue 90 A' }];

/** What differs from a pack that fits, and the only check that says so. */
const GOLDEN: readonly (readonly [
  string,
  Partial<FitPack>,
  Partial<CraftFacts>,
  Name,
  FitOutcome,
  RegExp,
])[] = [
  [
    'another chemistry',
    { chemistry: 'liion' },
    { cutOff: { mode: 'lithium', cells: 4, cellMv: 2_900 } },
    'chemistry',
    'refused',
    /does not take Li-ion/,
  ],
  [
    'a cell too many',
    { series: 5 },
    { cutOff: { mode: 'lithium', cells: 5, cellMv: 3_300 } },
    'cells',
    'refused',
    /5 cells, the craft takes 4: more can burn it/,
  ],
  [
    'a cell too few',
    { series: 3 },
    { cutOff: { mode: 'lithium', cells: 3, cellMv: 3_300 } },
    'cells',
    'caution',
    /it will be weak/,
  ],
  [
    'a cut-off for a cell fewer',
    {},
    { cutOff: { mode: 'lithium', cells: 3, cellMv: 3_200 } },
    'cut-off',
    'refused',
    /3 × 3\.20 V is 2\.40 V for each of 4 cells; below 3\.00 V a cell is ruined/,
  ],
  [
    'a cut-off at the damage floor',
    {},
    { cutOff: { mode: 'lithium', cells: 4, cellMv: 3_000 } },
    'cut-off',
    'ok',
    /4 × 3\.00 V is 3\.00 V/,
  ],
  [
    'a cut-off just under it',
    {},
    { cutOff: { mode: 'lithium', cells: 4, cellMv: 2_999 } },
    'cut-off',
    'refused',
    /2\.999 V/,
  ],
  [
    'a cut-off for fewer that ruins nothing',
    {},
    { cutOff: { mode: 'lithium', cells: 3, cellMv: 4_000 } },
    'cut-off',
    'caution',
    /set for fewer cells/,
  ],
  [
    'a cut-off for a cell more',
    {},
    { cutOff: { mode: 'lithium', cells: 5, cellMv: 3_300 } },
    'cut-off',
    'caution',
    /4\.125 V for each of 4 cells: it trips before the 3\.50 V/,
  ],
  [
    'a cut-off at the landing volts',
    {},
    { cutOff: { mode: 'lithium', cells: 4, cellMv: 3_500 } },
    'cut-off',
    'ok',
    /3\.50 V/,
  ],
  [
    'a nickel cut-off',
    {},
    { cutOff: { mode: 'nickel' } },
    'cut-off',
    'refused',
    /never cuts a lithium pack off/,
  ],
  ['no cut-off', {}, { cutOff: { mode: 'none' } }, 'cut-off', 'caution', /has no cut-off/],
  [
    'a cut-off nobody looked at',
    {},
    { cutOff: { mode: 'unknown' } },
    'cut-off',
    'caution',
    /Nobody has written down/,
  ],
  ['exactly twice the load', { continuousC: 12.5 }, {}, 'load', 'ok', /rated for 60 A/],
  [
    'less than twice the load',
    { continuousC: 12.4 },
    {},
    'load',
    'refused',
    /twice the 30 A the craft draws is 60 A/,
  ],
  [
    'worn, so that it is less than twice',
    { continuousC: 12.5, measuredMah: 4_700 },
    {},
    'load',
    'refused',
    /58\.8 A/,
  ],
  ['no rate on the label', { continuousC: null }, {}, 'load', 'caution', /label states no rating/],
  [
    'a craft nobody has measured',
    {},
    { sustainedA: null },
    'load',
    'caution',
    /Nobody has written down what the craft draws/,
  ],
  [
    'the largest capacity',
    { capacityMah: 6_000, measuredMah: 6_000 },
    {},
    'capacity',
    'ok',
    /6000 mAh, suits/,
  ],
  [
    'too much capacity',
    { capacityMah: 6_001, measuredMah: 6_001 },
    {},
    'capacity',
    'refused',
    /is above the 6000 mAh the craft takes at most/,
  ],
  [
    'too little capacity',
    { capacityMah: 3_999, measuredMah: 3_999 },
    {},
    'capacity',
    'refused',
    /is below the 4000 mAh/,
  ],
  ['too heavy', { massG: 621 }, {}, 'mass', 'refused', /621 g, is above the 620 g/],
  ['never weighed', { massG: null }, {}, 'mass', 'caution', /Nobody has written down the pack’s mass/],
  [
    'an adapter between them',
    { connector: 'blue 90 A' },
    {},
    'connector',
    'ok',
    /with the adapter “yellow to blue”/,
  ],
  [
    'no adapter between them',
    { connector: 'red 30 A' },
    {},
    'connector',
    'refused',
    /no adapter between them/,
  ],
  ['a connector nobody wrote down', { connector: null }, {}, 'connector', 'caution', /pack’s connector/],
  ['on caution, on a costly craft', { onWatch: true }, {}, 'caution', 'refused', /the craft is a costly one/],
  [
    'on caution, over water',
    { onWatch: true },
    { costly: false, overWater: true },
    'caution',
    'refused',
    /over water/,
  ],
  ['on caution, over people', { onWatch: true }, { overPeople: true }, 'caution', 'refused', /over people/],
  [
    'on caution, where nothing is at stake',
    { onWatch: true },
    { costly: false },
    'caution',
    'ok',
    /on caution may fly/,
  ],
];

it.each(GOLDEN)('%s', (_name, packMore, craftMore, check, outcome, says) => {
  const checks = fit({ ...pack, ...packMore }, { ...quad, ...craftMore }, rules, adapters);
  const one = checks.find((candidate) => candidate.check === check)!;
  expect(one.outcome).toBe(outcome);
  expect(fitSentence(one)).toMatch(says);
  for (const other of checks.filter((candidate) => candidate.check !== check))
    expect(other.outcome).toBe('ok');
});

it('five cells on a cut-off set for four at 3.3 V are drained to 2.64 V each, and the cure is on the craft', () => {
  const craft = { ...quad, cells: { least: 4, most: 6 }, costly: false };
  const checks = fit({ ...pack, series: 5 }, craft, rules);
  expect(checks.find(({ check }) => check === 'cut-off')).toMatchObject({
    outcome: 'refused',
    cellMv: 2_640,
  });
  expect(worstOutcome(checks)).toBe('refused');
  expect(cutOffTask(checks, 'lipo', rules)).toEqual({ cells: 5, cellMv: 3_250 });
  const cured = fit(
    { ...pack, series: 5 },
    { ...craft, cutOff: { mode: 'lithium', cells: 5, cellMv: 3_250 } },
    rules,
  );
  expect(worstOutcome(cured)).toBe('ok');
  expect(cutOffTask(cured, 'lipo', rules)).toBeNull();
});

it('asks for no other cut-off where the pack would not fit anyhow', () => {
  const checks = fit({ ...pack, chemistry: 'liion', series: 5 }, quad, rules);
  expect(cutOffTask(checks, 'liion', rules)).toBeNull();
});

it('a nickel pack is cut off by the nickel mode, and by no lithium setting for its cells', () => {
  const transmitter: FitPack = {
    ...pack,
    chemistry: 'nimh',
    series: 8,
    capacityMah: 2_000,
    measuredMah: 2_000,
    continuousC: null,
  };
  const outcome = (cutOff: CutOff) =>
    fit(transmitter, { ...quad, chemistries: ['nimh'], cutOff }, rules).find(
      ({ check }) => check === 'cut-off',
    )!.outcome;
  expect(outcome({ mode: 'nickel' })).toBe('ok');
  expect(outcome({ mode: 'lithium', cells: 3, cellMv: 3_200 })).toBe('caution');
});
