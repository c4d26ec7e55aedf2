import { seededRandom } from '../cellsim';
import { DAY_MS } from '../measure';
import { fold } from '../record';
import { readRules, RULE_FIELDS, withRuleValue } from '../rules';
import type { HouseRules } from '../rules';
import { randomHistory } from '../testing/randomHistories';
import { assess, timeline } from '.';

/** What is worked out once for a history and used again must not depend on who asked before, or under which rules. */
describe('what is kept of a history', () => {
  /** The same rules with one limit moved to somewhere it may stand. */
  const moved = (rules: HouseRules, random: () => number): HouseRules => {
    const field = RULE_FIELDS[Math.floor(random() * RULE_FIELDS.length)]!;
    const value =
      field.kind === 'choice'
        ? field.options[Math.floor(random() * field.options.length)]!
        : Math.round(field.low + random() * (field.high - field.low));
    return readRules(withRuleValue(rules, { path: field.path }, value)).rules;
  };

  it.each(Array.from({ length: 60 }, (_, seed) => seed))(
    'says the same as a history nobody has asked about: %i',
    (seed) => {
      const { pack, records, rules } = randomHistory(seed + 5_000);
      const random = seededRandom(seed + 1);
      const history = fold(pack, records);
      const last = history.lastRecordAt!;
      let asked = rules;
      for (let times = 0; times < 12; times += 1) {
        // Rules go back to what they were as often as they go on.
        asked = random() < 0.3 ? rules : moved(asked, random);
        const now = last + Math.round((random() - 0.1) * 400) * DAY_MS;
        expect(assess(history, asked, now)).toEqual(assess(fold(pack, records), asked, now));
      }
      expect(timeline(history, rules, last)).toEqual(timeline(fold(pack, records), rules, last));
    },
  );
});
