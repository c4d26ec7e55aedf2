import { instrumentsSchema } from './instrumentsReference';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { recordSchema, recordsReference } from './recordsReference';
import { rulesReference } from './rulesReference';

const kept = (name: string) => readFileSync(join(__dirname, '..', 'docs', name), 'utf8');

it('docs/rules.md says what the rules say; run `npm run rules` after changing one', () => {
  expect(kept('rules.md')).toBe(rulesReference());
});

it('docs/records.md and its schema say what the record kinds say; run `npm run rules` after changing one', () => {
  expect(kept('records.md')).toBe(recordsReference());
  expect(kept('record.schema.json')).toBe(recordSchema());
  expect(kept('instruments.schema.json')).toBe(instrumentsSchema());
});
