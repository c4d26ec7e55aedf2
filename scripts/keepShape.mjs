// node scripts/keepShape.mjs NAME: keeps a small register as this version of Malle lays it down, tables and all, for the test that
// every register ever released still opens (src/server/testing/shapes). Run before a migration is added, never after.
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { databaseUrl, ensureDependencies, runScript } from './prepare.mjs';
import { findBinaries } from './postgres.mjs';

/** Few, and of every kind: worn and retired, never read, crashed, a field pack. */
const KEPT = ['TX-06', 'IQ-12', 'IQ-09', 'FP-02'];

const name = process.argv[2];
if (!name) throw new Error('Say what to call it: the newest migration’s number.');
ensureDependencies();
const url = process.env.DATABASE_URL ?? (await databaseUrl('malle_shape', { fresh: true }));
if (!process.env.DATABASE_URL) runScript('src/demo/main.ts', [], { DATABASE_URL: url });

const bin = findBinaries();
const list = KEPT.map((tag) => `'${tag}'`).join(', ');
const others = `(select id from pack where tag not in (${list}))`;
const columns = (column) =>
  execFileSync(join(bin, 'psql'), [
    url,
    '-Atc',
    `select table_name from information_schema.columns where column_name = '${column}' and table_schema = 'public'`,
  ])
    .toString()
    .split('\n')
    .filter(Boolean);
const prune = [
  // The ledger refuses to lose a record; a copy of it may.
  'set session_replication_role = replica;',
  ...columns('pack_id').map((table) => `delete from ${table} where pack_id in ${others};`),
  `delete from pack where tag not in (${list});`,
  // A change of rules that a new version must bring over.
  `insert into rule_set select version + 1, jsonb_set(rules, '{idle,everyDays}', '21'), adopted_at, adopted_by, 'A register of shape ${name}'
     from rule_set where version = 1;`,
];
execFileSync(join(bin, 'psql'), [url, '-q', '-v', 'ON_ERROR_STOP=1'], { input: prune.join('\n') });
const dump = execFileSync(join(bin, 'pg_dump'), ['--inserts', '--no-owner', '--no-privileges', url], {
  maxBuffer: 1 << 28,
}).toString();
const plain = dump.replaceAll(/^\\.*$/gm, '');
writeFileSync(`src/server/testing/shapes/${name}.sql.gz`, gzipSync(plain, { level: 9 }));
