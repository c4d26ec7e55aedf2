import { writeFileSync } from 'node:fs';
import { rulesReference } from './rulesReference';

writeFileSync('docs/rules.md', rulesReference());
