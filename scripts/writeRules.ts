import { writeFileSync } from 'node:fs';
import { instrumentsSchema } from './instrumentsReference';
import { recordSchema, recordsReference } from './recordsReference';
import { rulesReference } from './rulesReference';

writeFileSync('docs/rules.md', rulesReference());
writeFileSync('docs/records.md', recordsReference());
writeFileSync('docs/record.schema.json', recordSchema());
writeFileSync('docs/instruments.schema.json', instrumentsSchema());
