import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { rulesReference } from './rulesReference';

it('docs/rules.md says what the rules say; run `npm run rules` after changing one', () => {
  expect(readFileSync(join(__dirname, '..', 'docs', 'rules.md'), 'utf8')).toBe(rulesReference());
});
