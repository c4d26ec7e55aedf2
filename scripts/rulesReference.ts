import { CHEMISTRIES, CHEMISTRY } from '../src/core/chemistry';
import { PRESET_RULES, PRESET_TITLES, PRESETS } from '../src/core/rules';
import { RULE_TEXTS, ruleRows, volts } from '../src/core/wording';

/** The rule reference as Markdown, made from the rules themselves. */
export function rulesReference(): string {
  const rows = PRESETS.map((preset) => ruleRows(PRESET_RULES[preset]));
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
    `| rule | ${PRESETS.map((preset) => PRESET_TITLES[preset]).join(' | ')} |`,
    `| --- | ${PRESETS.map(() => '---').join(' | ')} |`,
    ...rows[0]!.map(({ title }, i) => `| ${title} | ${rows.map((preset) => preset[i]!.value).join(' | ')} |`),
    '',
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
