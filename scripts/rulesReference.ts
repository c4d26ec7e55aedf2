import { CHEMISTRIES, CHEMISTRY } from '../src/core/chemistry';
import { DEFAULT_CHECKLISTS, OCCASIONS } from '../src/core/inspection';
import { PRESET_RULES, PRESET_TITLES, PRESETS, RULE_FIELDS, RULE_TOPICS, ruleValue } from '../src/core/rules';
import type { RuleField } from '../src/core/rules';
import {
  MEANING_WORDS,
  OCCASION_WORDS,
  RULE_TEXTS,
  ruleValueWords,
  TOPIC_TEXTS,
  volts,
} from '../src/core/wording';

/** The rule reference as Markdown, made from the rules themselves. */
export function rulesReference(): string {
  const lines = [
    '# Rule reference',
    '',
    'Made from the rules themselves by `npm run rules`; a test holds it current. Every threshold is a house rule.',
    '',
    '## What a finding can come from',
    '',
    ...Object.entries(RULE_TEXTS).flatMap(([id, { title, says, why }]) => [
      `### ${title} (\`${id}\`)`,
      '',
      says,
      '',
      `*Why.* ${why}`,
      '',
    ]),
    '## House rules in the three presets',
    '',
    ...RULE_TOPICS.flatMap((topic) => [
      `### ${TOPIC_TEXTS[topic].title}`,
      '',
      TOPIC_TEXTS[topic].why,
      '',
      `| rule | ${PRESETS.map((preset) => PRESET_TITLES[preset]).join(' | ')} | may be set |`,
      `| --- | ${PRESETS.map(() => '---').join(' | ')} | --- |`,
      ...RULE_FIELDS.filter((field) => field.topic === topic).map(fieldRow),
      '',
    ]),
    '## Checklists',
    '',
    'What a house starts with; it may add, order and drop items (never swelling), and ask for photos.',
    '',
    ...OCCASIONS.flatMap((occasion) => [
      `### ${capital(OCCASION_WORDS[occasion])}`,
      '',
      '| item | a failure means | photo |',
      '| --- | --- | --- |',
      ...DEFAULT_CHECKLISTS[occasion].map(
        ({ asks, failMeans, photo }) => `| ${asks} | ${MEANING_WORDS[failMeans]} | ${photo} |`,
      ),
      '',
    ]),
    '## What is true of a chemistry whatever the house says',
    '',
    '| chemistry | nominal | full, never above | storage targets any school defends | cells read one by one |',
    '| --- | --- | --- | --- | --- |',
    ...CHEMISTRIES.map((chemistry) => {
      const { name, nominalMv, fullMv, storageRangeMv, cellTaps } = CHEMISTRY[chemistry];
      const range = storageRangeMv
        ? `${volts(storageRangeMv.low)}–${volts(storageRangeMv.high)} V`
        : 'no voltage rule';
      return `| ${name} | ${volts(nominalMv)} V | ${fullMv ? `${volts(fullMv)} V` : 'by peak'} | ${range} | ${cellTaps ? 'yes' : 'no'} |`;
    }),
    '',
  ];
  return lines.join('\n');
}

function fieldRow(field: RuleField): string {
  const values = PRESETS.map((preset) => ruleValueWords(field, ruleValue(PRESET_RULES[preset], field)));
  const range =
    field.kind === 'choice'
      ? field.options.map((option) => ruleValueWords(field, option)).join(' or ')
      : `${ruleValueWords(field, field.low)} to ${ruleValueWords(field, field.high)}`;
  return `| ${field.title} | ${values.join(' | ')} | ${range} |`;
}

function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}
