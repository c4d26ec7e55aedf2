import { jsonSchemaOf, recordDraft } from '../src/contract';
import { ROLES } from '../src/core/lifecycle';
import { RECORD_KINDS } from '../src/core/record';
import type { RecordKind } from '../src/core/record';

const KINDS = Object.keys(RECORD_KINDS) as RecordKind[];

/** Every kind of record as Markdown, made from the registry itself. */
export function recordsReference(): string {
  const rows = KINDS.map((kind) => {
    const { says, writtenBy, correctable } = RECORD_KINDS[kind];
    const roles = ROLES.slice(0, ROLES.indexOf(writtenBy) + 1).join(', ');
    return `| \`${kind}\` | ${says} | ${roles} | ${correctable ? 'yes' : 'no'} |`;
  });
  const examples = KINDS.flatMap((kind) => [
    `### \`${kind}\``,
    '',
    '```json',
    JSON.stringify(RECORD_KINDS[kind].example, null, 2),
    '```',
    '',
  ]);
  return [
    '# Kinds of record',
    '',
    'Made from `src/core/record/kinds.ts` by `npm run rules`; a test holds it current. The JSON Schema of a record as its writer sends it',
    'is [record.schema.json](record.schema.json). What was not looked at is null. What cannot be corrected stands as written, and is',
    'answered by later records.',
    '',
    '| kind | what it says | written by | can be corrected |',
    '| --- | --- | --- | --- |',
    ...rows,
    '',
    '## A payload of each',
    '',
    ...examples,
  ].join('\n');
}

/** The JSON Schema of a record as its writer sends it. */
export function recordSchema(): string {
  const schema = jsonSchemaOf(recordDraft, 'ref');
  return `${JSON.stringify({ ...schema, title: 'A record for a pack’s ledger' }, null, 2)}\n`;
}
