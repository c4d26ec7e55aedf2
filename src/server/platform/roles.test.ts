import { execFile } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { promisify } from 'node:util';
import { Client } from 'pg';
import { openRegister } from '../app';
import { addPack, addType, emptyDatabase, openTestApp, readingBody } from '../testing/testApp';

/** Jest cannot load what runs before anything is installed, so that runs by itself here, too. */
async function letServerIn(ownerUrl: string): Promise<string> {
  const script = `import('./scripts/roles.mjs').then((roles) => roles.letServerIn('${ownerUrl}')).then(console.log)`;
  const { stdout } = await promisify(execFile)(process.execPath, ['-e', script]);
  return stdout.trim();
}

/** A register as `npm start` opens one: its owner has made the tables, and the server comes in by a role of its own. */
async function openAsServer() {
  const owner = await emptyDatabase();
  await (await openRegister(owner)).close();
  const server = await letServerIn(owner);
  return { owner, server, test: await openTestApp({ url: server }) };
}

const answers = async (url: string, sql: string) => {
  const client = new Client({ connectionString: url });
  try {
    await client.connect();
    return (await client.query<{ answer: unknown }>(sql)).rows.map(({ answer }) => answer);
  } finally {
    await client.end();
  }
};

it('the server works by a role that is no superuser and owns nothing', async () => {
  const { server, test } = await openAsServer();
  try {
    const custodian = await test.as('custodian');
    const { id: packId } = await addPack(custodian, (await addType(custodian)).id, 'A-1');
    const records = [readingBody([3_810, 3_810, 3_810, 3_810])];
    await custodian.post('/api/records').send({ packId, records }).expect(201);
    expect(
      await answers(
        server,
        `select current_user || ' ' || rolsuper || rolcreatedb || rolcreaterole as answer
         from pg_roles where rolname = current_user`,
      ),
    ).toEqual(['malle_server falsefalsefalse']);
    expect(
      await answers(server, `select tablename as answer from pg_tables where tableowner = current_user`),
    ).toEqual([]);
    // The evidence is looked at in a temporary table.
    await custodian.post('/api/evidence/verification').send({ checkpoint: null }).expect(201);
  } finally {
    await test.close();
  }
});

it('what the server knows switches no trigger off, changes no table and reads no file', async () => {
  const { server, test } = await openAsServer();
  try {
    for (const statement of [
      'alter table record disable trigger all',
      'set session_replication_role = replica',
      'drop trigger record_is_append_only on record',
      'truncate record cascade',
      'drop table record',
      'alter table record add column other text',
      'create table other (id int)',
      'create function public.other() returns int language sql as $$ select 1 $$',
      `alter role malle password 'other'`,
      'set role malle',
      `copy record to program 'cat'`,
      `select pg_read_file('pg_hba.conf')`,
    ])
      await expect(answers(server, statement)).rejects.toMatchObject({ code: '42501' });
  } finally {
    await test.close();
  }
});

it('it deletes from the tables its own sources delete from, and from no other', async () => {
  const { owner, server, test } = await openAsServer();
  await test.close();
  const granted = `select table_name as answer from information_schema.role_table_grants
    where grantee = 'malle_server' and privilege_type = 'DELETE' order by 1`;
  // The libraries that keep sessions and wrong tries delete from theirs.
  const meant = new Set<unknown>(['user_session', 'sign_in_throttle']);
  for (const file of readdirSync('src/server', { recursive: true, encoding: 'utf8' }))
    if (file.endsWith('.ts') && !/test|migrations/.test(file))
      for (const [, table] of readFileSync(`src/server/${file}`, 'utf8').matchAll(/delete from (\w+)/gi))
        meant.add(table);
  expect(await answers(owner, granted)).toEqual([...meant].sort());
  for (const table of ['person', 'pack', 'place', 'photo', 'round', 'charge_curve', 'pack_state', 'setting'])
    await expect(answers(server, `delete from ${table}`)).rejects.toMatchObject({ code: '42501' });
  // A register that was let in by an earlier version is narrowed.
  await answers(owner, 'grant delete on all tables in schema public to malle_server');
  await letServerIn(owner);
  expect(await answers(owner, granted)).toEqual([...meant].sort());
});

it('later tables are the server’s to write in, too', async () => {
  const { owner, server, test } = await openAsServer();
  await test.close();
  await answers(owner, 'create table later (id int generated always as identity, said text)');
  await answers(server, `insert into later (said) values ('x')`);
  expect(await answers(server, 'select said as answer from later')).toEqual(['x']);
});

it('without the right password nobody comes in', async () => {
  const { server, test } = await openAsServer();
  await test.close();
  for (const password of ['', 'a guess']) {
    const url = new URL(server);
    url.password = password;
    await expect(answers(url.href, 'select 1')).rejects.toThrow(/password/);
  }
});

it('a server that finds no tables, and may not make them, says who may', async () => {
  await expect(openRegister(await letServerIn(await emptyDatabase()))).rejects.toThrow(/npm run migrate/);
});

it('several may let the server in at once', async () => {
  const owner = await emptyDatabase();
  const urls = await Promise.all([1, 2, 3, 4].map(() => letServerIn(owner)));
  expect(new Set(urls).size).toBe(1);
});
