import { PRESETS, PRESET_RULES, RULE_FIELDS, changedFields, ruleRefusals, ruleValue, withRuleValue } from '.';
import type { HouseRules } from '.';

const EVEN = PRESET_RULES['even-keel'];
const figures = RULE_FIELDS.filter((field) => field.kind === 'figure');

/** Every value in a rule set, by path. */
function leaves(at: object, path = ''): string[] {
  return Object.entries(at).flatMap(([key, value]: [string, unknown]) => {
    const here = path ? `${path}.${key}` : key;
    return typeof value === 'object' && value !== null ? leaves(value, here) : [here];
  });
}

it('every value of a rule set can be changed through a field, and every field stands for one', () => {
  // NiMH has no over-discharge line, the preset’s name is no rule, and checklists are lists with an editor of their own.
  const expected = leaves(EVEN).filter(
    (path) => path !== 'preset' && path !== 'floors.nimh.overDischargeMv' && !path.startsWith('checklists.'),
  );
  expect(RULE_FIELDS.map(({ path }) => path).sort()).toEqual(expected.sort());
});

it.each(PRESETS)('%s may be adopted as it stands', (preset) => {
  expect(ruleRefusals(PRESET_RULES[preset])).toEqual([]);
});

it.each(figures)('$title holds its limits and no further', (field) => {
  const refused = (value: number) =>
    ruleRefusals(withRuleValue(EVEN, field, value)).some(
      ({ code, path }) => code === 'out-of-range' && path === field.path,
    );
  const step = field.whole ? 1 : 0.01;
  expect(refused(field.low)).toBe(false);
  expect(refused(field.high)).toBe(false);
  expect(refused(field.low - step)).toBe(true);
  expect(refused(field.high + step)).toBe(true);
  expect(refused(Number.NaN)).toBe(true);
});

const rulesWith = (changes: Readonly<Record<string, number | string>>) =>
  Object.entries(changes).reduce<HouseRules>(
    (rules, [path, value]) => withRuleValue(rules, { path }, value),
    EVEN,
  );

it('a storage target outside the chemistry’s safe range is refused with the range', () => {
  const [why] = ruleRefusals(rulesWith({ 'storage.lipo.targetMv': 3900 }));
  expect(why).toMatchObject({
    code: 'out-of-range',
    path: 'storage.lipo.targetMv',
    field: { low: 3800, high: 3850 },
  });
});

it('pairs stand in order', () => {
  const at = (changes: Readonly<Record<string, number>>) =>
    ruleRefusals(rulesWith(changes)).map(({ path }) => path);
  expect(at({ 'storage.lipo.bandLowMv': 3810 })).toEqual(['storage.lipo.bandLowMv']);
  expect(at({ 'storage.lipo.bandLowMv': 3800 })).toEqual([]);
  expect(at({ 'floors.lipo.damageMv': 3250 })).toEqual(['floors.lipo.damageMv']);
  expect(at({ 'spread.toleranceMv': 50 })).toEqual(['spread.toleranceMv']);
  expect(at({ 'health.capacityPercent.retire': 85 })).toEqual(['health.capacityPercent.retire']);
  expect(at({ 'heat.useWatchC': 60 })).toEqual(['heat.useWatchC']);
});

it('wholes are whole and choices are chosen', () => {
  expect(ruleRefusals(rulesWith({ 'idle.everyDays': 30.5 }))).toMatchObject([{ code: 'not-whole' }]);
  expect(ruleRefusals(rulesWith({ 'charge.homeC': 0.75 }))).toEqual([]);
  expect(ruleRefusals(rulesWith({ overDischarged: 'pray' }))).toMatchObject([{ code: 'not-a-choice' }]);
});

it('a changed field changes nothing else, and is found again', () => {
  const field = RULE_FIELDS.find(({ path }) => path === 'health.irGrowth.watch')!;
  const changed = withRuleValue(EVEN, field, 1.4);
  expect(ruleValue(changed, field)).toBe(1.4);
  expect(ruleValue(EVEN, field)).toBe(1.5);
  expect(changed.storage).toBe(EVEN.storage);
  expect(changedFields(EVEN, changed)).toEqual([field]);
  expect(changedFields(EVEN, EVEN)).toEqual([]);
});
