import fc from 'fast-check';
import { DEFAULT_CHECKLISTS, OCCASIONS } from '../inspection';
import { PRESETS, PRESET_RULES, readRules, ruleRefusals, ruleValue, RULE_FIELDS, withRuleValue } from '.';
import type { HouseRules, RuleValue } from '.';

const EVEN = PRESET_RULES['even-keel'];
/** What a disk, a hand or an older program may have left where a rule should be. */
const RUBBISH: readonly unknown[] = [
  null,
  '',
  'x',
  '50',
  true,
  [],
  ['read'],
  {},
  -1e9,
  1e9,
  0.123456,
  { watch: 5 },
];

/** A deep copy with what lies at a path replaced; without it, removed. */
function withAt(rules: HouseRules, path: string, ...value: readonly unknown[]): unknown {
  const copy = structuredClone(rules) as unknown as Record<string, unknown>;
  const names = path.split('.');
  const last = names.pop()!;
  const at = names.reduce((inner, name) => inner[name] as Record<string, unknown>, copy);
  if (value.length === 0) delete at[last];
  else at[last] = value[0];
  return copy;
}

/** Every path that holds something, branches with their leaves. */
function paths(at: object, path = ''): string[] {
  return Object.entries(at).flatMap(([name, value]: [string, unknown]) => {
    const here = path ? `${path}.${name}` : name;
    const inner =
      typeof value === 'object' && value !== null && !Array.isArray(value) ? paths(value, here) : [];
    return [here, ...inner];
  });
}

it.each(PRESETS)('%s is read back as it was kept', (preset) => {
  const kept = JSON.parse(JSON.stringify(PRESET_RULES[preset])) as unknown;
  expect(readRules(kept)).toEqual({ rules: PRESET_RULES[preset], mended: [] });
});

it('what a house changed is read back as changed', () => {
  const changed = withRuleValue(EVEN, { path: 'idle.everyDays' }, 21);
  expect(readRules(changed)).toEqual({ rules: changed, mended: [] });
});

it.each(paths(EVEN))(
  'rules written before %s existed take it from their preset, and nothing else',
  (path) => {
    const { rules, mended } = readRules(withAt(EVEN, path));
    expect(rules).toEqual(EVEN);
    expect(mended).toEqual(path === 'preset' ? ['preset'] : []);
  },
);

it.each(RULE_FIELDS.map(({ path }) => path))('%s that is no rule is the preset’s, and said to be', (path) => {
  const house = withRuleValue(EVEN, { path: 'idle.everyDays' }, 21);
  for (const rubbish of RUBBISH) {
    const kept = withAt(house, path, rubbish);
    const { rules, mended } = readRules(kept);
    const valid = ruleRefusals(withRuleValue(house, { path }, rubbish as RuleValue)).length === 0;
    if (valid) expect(mended).toEqual([]);
    else {
      expect(mended).toContain(path);
      expect(ruleValue(rules, { path })).toBe(ruleValue(EVEN, { path }));
    }
    expect(ruleRefusals(rules)).toEqual([]);
  }
});

it('a branch that is something else altogether is the preset’s', () => {
  for (const branch of ['heat', 'storage.lipo', 'health.irGrowth', 'checklists', 'checklists.after-crash']) {
    for (const rubbish of [null, 5, 'heat', [1, 2], []]) {
      const { rules, mended } = readRules(withAt(EVEN, branch, rubbish));
      expect(rules).toEqual(EVEN);
      expect(mended.every((path) => path.startsWith(branch))).toBe(true);
      expect(mended.length).toBeGreaterThan(0);
    }
  }
});

it('two that stand in the wrong order are both the preset’s: nobody knows which is wrong', () => {
  const kept = withAt(withRuleValue(EVEN, { path: 'heat.useHoldC' }, 52), 'heat.useWatchC', 58);
  const { rules, mended } = readRules(kept);
  expect(rules.heat).toEqual(EVEN.heat);
  expect([...mended].sort()).toEqual(['heat.useHoldC', 'heat.useWatchC']);
});

it('a checklist that cannot stand is the practice’s; the others stay the rules’ own', () => {
  const [own] = DEFAULT_CHECKLISTS['before-use'];
  const house = { ...EVEN, checklists: { ...DEFAULT_CHECKLISTS, 'before-use': [own!] } };
  for (const list of [
    [],
    [{ ...own, failMeans: 'advise' }],
    [{ ...own, photo: 'sometimes' }],
    [null],
    'look',
  ]) {
    const { rules, mended } = readRules(withAt(house, 'checklists.after-crash', list));
    expect(mended).toEqual(['checklists.after-crash']);
    expect(rules.checklists['after-crash']).toEqual(DEFAULT_CHECKLISTS['after-crash']);
    expect(rules.checklists['before-use']).toEqual([own]);
  }
});

it('anything at all is read as rules that may be adopted, with no value more or less than rules have', () => {
  const anything = fc.oneof(
    fc.anything(),
    fc.dictionary(fc.constantFrom(...paths(EVEN).filter((path) => !path.includes('.'))), fc.anything()),
    fc
      .array(fc.tuple(fc.constantFrom(...paths(EVEN)), fc.constantFrom(...RUBBISH)), { maxLength: 12 })
      .map((changes) =>
        changes.reduce<unknown>((rules, [path, value]) => {
          try {
            return withAt(rules as HouseRules, path, value);
          } catch {
            // An earlier change took away what this one would have changed.
            return rules;
          }
        }, EVEN),
      ),
  );
  fc.assert(
    fc.property(anything, (stored) => {
      const { rules } = readRules(stored);
      expect(ruleRefusals(rules)).toEqual([]);
      expect(paths(rules).sort()).toEqual(paths(EVEN).sort());
      for (const occasion of OCCASIONS) expect(rules.checklists[occasion].length).toBeGreaterThan(0);
    }),
    { numRuns: 300 },
  );
});
