import { PRESET_RULES } from '../../core/rules';
import { emptyBench } from './prefill';
import {
  benchFigures,
  boardSum,
  chargeTimeSum,
  currentSum,
  effectiveSum,
  giveBackSum,
  hoverOffSum,
  lastDischargeSum,
  loadSum,
  refillSum,
  rotationSum,
  minutesWords,
  sagSum,
  storageSum,
  supplySum,
  timerSum,
} from './sums';
import type { BenchDraft, Sum } from './sums';

const RULES = PRESET_RULES['even-keel'];
const READER = { now: Date.UTC(2026, 2, 2, 8), zone: 'UTC' };
const figures = (more: Partial<BenchDraft> = {}) =>
  benchFigures({ ...emptyBench(RULES), capacity: '5000', cells: '4.20', milliohm: '4', ...more });
const result = (sum: Sum) => (sum.state === 'done' ? sum.result : `wants ${sum.wants}`);
const formula = (sum: Sum) => (sum.state === 'done' ? sum.formula : '');

it('the last discharge through a lamp or a resistor, and the lamp that would burn out', () => {
  const lamp = { series: '3', capacity: '2200', cells: '3.85', lampV: '12', loadW: '21' };
  expect(result(lastDischargeSum(figures(lamp)))).toMatch(/^4\d min to empty, 1\.7\d? A and 20 W at first$/);
  const burnt = lastDischargeSum(figures({ ...lamp, series: '6' }));
  expect(formula(burnt)).toContain('A lamp rated 12 V burns out on a pack of 22.2 V');
  const resistor = { ...lamp, lampV: '', loadOhm: '10', loadW: '50' };
  expect(result(lastDischargeSum(figures(resistor)))).toContain('1.2 A and 13 W at first');
  expect(result(lastDischargeSum(figures()))).toMatch(/^wants /);
});

it('the charging current names the limit that decided, and rounds down', () => {
  expect(result(currentSum(figures({ labelC: '2' })))).toBe('5 A: the rules’ rate decides');
  expect(result(currentSum(figures({ labelC: '0.5' })))).toBe('2.5 A: the label decides');
  expect(result(currentSum(figures({ labelC: '2', channelA: '3' })))).toBe('3 A: the channel’s amps decide');
  const watts = currentSum(figures({ labelC: '2', channelW: '50' }));
  expect(result(watts)).toBe('2.9 A: the channel’s watts decide');
  expect(formula(watts)).toContain('50 W ÷ 16.8 V = 3 A');
});

it('a label that states no rate counts as 1C', () => {
  expect(result(currentSum(figures({ houseC: '2' })))).toBe('5 A: the label decides');
});

it('charging time is told phase by phase', () => {
  const sum = chargeTimeSum(figures({ cells: '3.73' }));
  expect(result(sum)).toMatch(/^5\d min$/);
  expect(formula(sum)).toContain('then balancing: 0.0 min');
});

it('a small load takes a big pack many hours, and the alternatives are named', () => {
  const sum = storageSum(
    figures({ capacity: '16 Ah', series: '6', dischargeA: '5', dischargeW: '20' }),
    RULES,
    null,
    READER,
  );
  expect(result(sum)).toMatch(/^Take out 9.60 Ah: 11 h \d\d min, to 3.80 V a cell, 22.80 V the pack$/);
  expect(sum.state === 'done' && sum.also).toContain('hovering it off is quicker');
});

it('next use decides: within the allowance it is left charged', () => {
  const soon = storageSum(figures(), RULES, READER.now + 20 * 3_600_000, READER);
  expect(soon.state === 'done' && soon.also).toContain('Leave it charged');
  const late = storageSum(figures(), RULES, READER.now + 60 * 3_600_000, READER);
  expect(late.state === 'done' && late.also).toContain('Put it to storage, due in 48 h');
});

it('the 80/20 timer lands at per-cell and pack volts, rested and in the hover', () => {
  expect(result(timerSum(figures({ averageA: '20', dropMv: '160' })))).toBe(
    '12 min, landing at 3.73 V a cell rested, 14.92 V the pack; 3.57 V a cell in the hover, 14.28 V the pack',
  );
});

it('load, sag, hover-off and what is left of the rating', () => {
  expect(result(loadSum(figures({ continuousC: '20', sustainedA: '50' })))).toBe(
    '50 %: within half its rating: good for a long life',
  );
  expect(result(sagSum(figures({ punchA: '100' }), RULES))).toBe(
    'Sags 400 mV a cell; keep 5 % in it for such a punch',
  );
  expect(result(sagSum(figures({ punchA: '300' }), RULES))).toContain('even full it would dip below 3.20 V');
  expect(result(hoverOffSum(figures({ hoverA: '20' }), RULES))).toBe('9.0 min of hover');
  expect(result(hoverOffSum(figures({ hoverA: '20', cells: '3.75' }), RULES))).toBe('Nothing to hover off');
  expect(result(effectiveSum(figures({ continuousC: '20', baseline: '3.2' })))).toBe('16.0C left of 20C');
});

it('what is missing is asked for, what is no figure is named at its field', () => {
  expect(result(timerSum(figures()))).toContain('average amps');
  expect(figures({ capacity: 'big', averageA: 'x', series: '4.5', cells: '9.99' }).errors).toMatchObject({
    capacity: expect.any(String) as string,
    averageA: expect.any(String) as string,
    series: expect.any(String) as string,
  });
  expect(figures({ hoverA: '-3' }).errors.hoverA).toBe('This is more than nothing.');
});

it('nickel has no storage job and no taper', () => {
  const nickel = figures({ chemistry: 'nimh', series: '6', cells: '8.4' });
  expect(result(storageSum(nickel, RULES, null, READER))).toContain('no storage voltage');
  expect(result(chargeTimeSum(nickel))).toContain('peak');
});

it('minutes are told as people say them', () => {
  expect([7.25, 48.4, 641].map(minutesWords)).toEqual(['7.3 min', '48 min', '10 h 41 min']);
});

it('a parallel board is set to the sum, and packs too far apart are not joined', () => {
  expect(result(boardSum(figures({ labelC: '2' })))).toMatch(/^wants /);
  expect(result(boardSum(figures({ labelC: '2', boardPacks: '3' })))).toBe('Set 15 A');
  const near = figures({ labelC: '2', boardPacks: '3', apartMv: '40' });
  expect(result(boardSum(near))).toBe('Set 15 A; 5 A flows as they are joined');
  const apart = figures({ labelC: '2', boardPacks: '3', apartMv: '41' });
  expect(result(boardSum(apart))).toBe('Do not join them: 5.1 A would flow, more than 1C (5 A)');
});

it('two packs share a supply, or go one after the other', () => {
  // 2 × 5 A × 16.8 V ÷ 0.88 = 191 W.
  expect(result(supplySum(figures({ supplyW: '200' })))).toBe('Two at 5 A each: 191 of 200 W');
  expect(result(supplySum(figures({ supplyW: '100' })))).toBe(
    'Two at 2.6 A each, or one after the other at 5 A',
  );
  expect(result(supplySum(figures()))).toMatch(/^wants /);
});

it('what is given back to a field pack needs room there', () => {
  // (100 − 40) % of 5 Ah at 16 V, less what the charger keeps.
  expect(result(giveBackSum(figures({ fieldWh: '100' }), RULES))).toBe('42 Wh arrive: 2 such packs fit');
  expect(result(giveBackSum(figures({ fieldWh: '40' }), RULES))).toBe(
    'The field pack has no room: 42 Wh into 40 Wh',
  );
  expect(result(giveBackSum(figures({ cells: '3.80', fieldWh: '100' }), RULES))).toMatch(/^wants /);
});

it('packs that keep a craft flying: by the day as it is flown, with the formula beside it', () => {
  const day = {
    flightMin: '12',
    coolMin: '20',
    chargeMin: '35',
    handlingMin: '5',
    benchChannels: '3',
    dayHours: '4',
  };
  expect(result(rotationSum(figures(day)))).toBe('6 packs for 20 flights, and one spare');
  expect(formula(rotationSum(figures(day)))).toBe('1 + ⌈(20 + 35 + 5) ÷ 12⌉ = 6');
  const slow = rotationSum(figures({ ...day, benchChannels: '1' }));
  expect(slow).toMatchObject({
    also: expect.stringContaining('The channels fill a pack in 35 min') as string,
  });
  expect(result(rotationSum(figures({ ...day, flightMin: '' })))).toMatch(/^wants /);
  expect(result(rotationSum(figures({ ...day, flightMin: '0.001' })))).toBe(
    'wants a day of at most 200 flights',
  );
  expect(result(rotationSum(figures({ ...day, benchChannels: '1e9' })))).toMatch(/^wants |^6 packs/);
});

it('a field pack’s refills, and from how many further flights on it is the cheaper', () => {
  const field = { series: '4', fieldPackWh: '1000', usablePercent: '80', fieldPrice: '440', packPrice: '80' };
  // 5 Ah × 14.8 V × 80 % = 59 Wh a refill.
  expect(result(refillSum(figures(field)))).toBe('11 refills a day');
  expect(refillSum(figures(field))).toMatchObject({
    also: expect.stringContaining('from 6 further flights on') as string,
  });
  expect(refillSum(figures({ ...field, fieldPrice: '4400' }))).toMatchObject({
    also: expect.stringContaining('more packs are cheaper') as string,
  });
  expect(result(refillSum(figures({ ...field, refillWh: '900' })))).toBe('It fills not one pack');
});
