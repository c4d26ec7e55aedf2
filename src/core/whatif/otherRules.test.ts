import { assess, changedParts } from '../assess';
import type { Gravest, RuleId, RulesPart, Severity } from '../assess';
import { caseFile } from '../assess/caseFile';
import { RULES } from '../assess/judges';
import { seededRandom } from '../cellsim';
import { CHEMISTRY } from '../chemistry';
import { DAY_MS } from '../measure';
import type { PackFacts } from '../pack';
import { fold } from '../record';
import type { PackRecord } from '../record';
import { PRESETS, PRESET_RULES, RULE_FIELDS, withRuleValue } from '../rules';
import type { HouseRules, RuleField } from '../rules';
import { randomHistory } from '../testing/randomHistories';
import { standingAfter, standingTold, standingUnder } from '.';
import type { Told } from '.';

const HISTORIES = 200;
/** Moments after the last record: at once, in a while, after a winter, and when nobody knows any more. */
const LATER_DAYS = [0, 9, 120, 500];

/** Whether a record leaves it to the rules what becomes of its pack: not what holds a pack under any of them. */
function isMild(record: PackRecord, { chemistry, capacityMah }: PackFacts): boolean {
  const fullMv = CHEMISTRY[chemistry].fullMv ?? 1450;
  if (record.kind === 'reading' && record.payload.volts.of === 'cells')
    return record.payload.volts.cellsMv.every((mv) => mv > 0.87 * fullMv && mv <= fullMv);
  if (record.kind === 'charge') return (record.payload.movedMah ?? 0) < capacityMah / 2;
  if (record.kind === 'flight') return (record.payload.hottestC ?? 0) < 58;
  return record.kind === 'received' || record.kind === 'resistance' || record.kind === 'moved';
}

const partOf = ({ path }: RuleField) => /^(health\.)?\w+/.exec(path)![0];
/** The fields of each part of the house rules. */
const PARTS = [...new Set(RULE_FIELDS.map(partOf))].map((part) =>
  RULE_FIELDS.filter((field) => partOf(field) === part),
);

/** One field of the house rules, at one of its ends or somewhere between. */
function withOneChanged(rules: HouseRules, field: RuleField, random: () => number): HouseRules {
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  if (field.kind === 'choice') return withRuleValue(rules, field, one(field.options));
  const { low, high, whole } = field;
  const between = low + random() * (high - low);
  return withRuleValue(rules, field, one([low, high, whole ? Math.round(between) : between]));
}

/** Checklists have no field; an answer means something else. */
function withOtherMeanings({ checklists, ...rules }: HouseRules): HouseRules {
  const changed = Object.entries(checklists).map(([occasion, items]) => [
    occasion,
    items.map((item) => ({ ...item, failMeans: item.failMeans === 'hold' ? 'advise' : 'hold' })),
  ]);
  return { ...rules, checklists: Object.fromEntries(changed) as HouseRules['checklists'] };
}

function toldOf(history: ReturnType<typeof fold>, rules: HouseRules, now: number): Told {
  const { verdict, storage, findings } = assess(history, rules, now);
  const running = storage.state === 'high' || storage.state === 'low' ? storage : null;
  const found: Partial<Record<RuleId, Severity>> = {};
  for (const { rule, severity } of findings) found[rule] ??= severity;
  return { verdict, dueAt: running?.dueAt ?? null, found: found satisfies Gravest };
}

/** Every history at every moment, with each way in which its rules are changed. */
function* changes() {
  const random = seededRandom(61);
  for (let seed = 0; seed < HISTORIES; seed++) {
    const { pack, records: all, rules } = randomHistory(seed, { steps: 4 + Math.floor(random() * 30) });
    const records = seed % 3 === 0 ? all : all.filter((record) => isMild(record, pack));
    const now = records.at(-1)!.at + LATER_DAYS[seed % LATER_DAYS.length]! * DAY_MS;
    const shuffled = <T>(list: readonly T[]) => [...list].sort(() => random() - 0.5);
    const others = [
      // One field, more of them together, and all of one part.
      ...[1, 2, 5, 12].map((count) => shuffled(RULE_FIELDS).slice(0, count)),
      ...shuffled(PARTS).slice(0, 8),
    ].map((fields) => fields.reduce((changed, field) => withOneChanged(changed, field, random), rules));
    const school = PRESET_RULES[PRESETS[seed % PRESETS.length]!];
    for (const after of [...others, withOtherMeanings(rules), school])
      yield { pack, records, rules, after, now, seed };
  }
}

it('judging only what a change of rules touches gives the verdict and the clock of judging all', () => {
  const seen = { verdicts: 0, clocks: 0, same: 0 };
  for (const { pack, records, rules, after, now, seed } of changes()) {
    const told = toldOf(fold(pack, records), rules, now);
    const changed = changedParts(rules, after, pack.chemistry);
    const history = fold(pack, records);
    const whole = standingTold(toldOf(fold(pack, records), after, now), now);
    expect({ seed, ...standingAfter(history, told, changed, after, now) }).toEqual({ seed, ...whole });
    expect({ seed, ...standingUnder(fold(pack, records), after, now) }).toEqual({ seed, ...whole });
    const was = standingTold(told, now);
    if (was.verdict !== whole.verdict) seen.verdicts += 1;
    if (was.clock !== whole.clock) seen.clocks += 1;
    if (changed.size === 0) seen.same += 1;
  }
  // The changes were such that something came of them.
  expect(seen.verdicts).toBeGreaterThan(8);
  expect(seen.clocks).toBeGreaterThan(1);
  expect(seen.same).toBeGreaterThan(8);
});

it('a rule finds the same where none of the parts changed that it goes by, and only what is its own', () => {
  for (const { pack, records, rules, after, now, seed } of changes()) {
    const changed = [...changedParts(rules, after, pack.chemistry)];
    const [before, then] = [rules, after].map((these) => caseFile(fold(pack, records), these, now));
    for (const { judge, ids, reads } of RULES) {
      const found = judge(before!);
      for (const { rule } of found) expect(ids).toContain(rule);
      if (!changed.some((part) => reads.has(part)))
        expect({ seed, ids, changed, found: judge(then!) }).toEqual({ seed, ids, changed, found });
    }
  }
});

/** The house rules, noting which parts of them are looked at. */
function noted(rules: HouseRules, seen: Set<string>): HouseRules {
  const noting = <Part extends object>(part: Part, prefix: string): Part =>
    new Proxy(part, {
      get: (target, key) => {
        if (prefix === '' && key === 'health') return noting(rules.health, 'health.');
        if (typeof key === 'string') seen.add(`${prefix}${key}`);
        return Reflect.get(target, key) as unknown;
      },
    });
  return noting(rules, '');
}

it('a rule looks at no part of the house rules but its own', () => {
  const looked = new Set<string>();
  for (let seed = 0; seed < 90; seed++) {
    const { pack, records, rules } = randomHistory(seed, { steps: 60 });
    for (const { judge, ids, reads } of RULES) {
      // A history of its own for each, since what one asked for is kept for the next.
      const seen = new Set<string>();
      const now = records.at(-1)!.at + LATER_DAYS[seed % LATER_DAYS.length]! * DAY_MS;
      judge(caseFile(fold(pack, records), noted(rules, seen), now));
      for (const part of seen) looked.add(part);
      // Which readings may decide is asked for every rule; one that looks at none of them need not care.
      const strange = [...seen].filter((part) => part !== 'restMinutes' && !reads.has(part as RulesPart));
      expect({ seed, ids, strange }).toEqual({ seed, ids, strange: [] });
    }
  }
  expect(looked.size).toBeGreaterThan(25);
});
