import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { Client } from 'pg';
import { v7 as newId } from 'uuid';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import type { CheckpointAnswer, PackDetails } from '../../contract';
import { addPack, addType, emptyDatabase, openTestApp, readingBody, SIGNING_KEY } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

/** The commands themselves, as whoever runs the register calls them. */

const ROOT = join(__dirname, '..', '..', '..');
const folder = mkdtempSync(join(tmpdir(), 'malle-backup-'));
const photoId = newId();
let test: TestApp;
let custodian: TestAgent;
let pack: PackDetails;
let photo: Buffer;
let checkpoint: CheckpointAnswer;

/** What signed cookies before this register had a key. */
const COOKIE_SECRET = 'c2lnbnMgY29va2llcywgYmVmb3JlIHRoZXJlIHdhcyBhIGtleQ==';

beforeAll(async () => {
  test = await openTestApp();
  await rows(test.url, `insert into setting values ('cookie-secret', '"${COOKIE_SECRET}"') returning key`);
  custodian = await test.as('custodian');
  pack = await addPack(custodian, (await addType(custodian)).id, 'BK-1');
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [readingBody([3850, 3850, 3840, 3850])] })
    .expect(201);
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a33' } })
    .jpeg()
    .toBuffer();
  await custodian.put(`/api/photos/${photoId}`).set('content-type', 'image/jpeg').send(picture).expect(204);
  photo = (await custodian.get(`/api/photos/${photoId}`).expect(200)).body as Buffer;
  const { body } = await custodian.post('/api/evidence/checkpoints').send({}).expect(201);
  checkpoint = body as CheckpointAnswer;
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await test.close();
});

function command(name: 'backup' | 'restore', args: readonly string[], url = test.url) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', `src/server/commands/${name}.ts`, ...args],
    {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, DATABASE_URL: url, MALLE_SIGNING_KEY: SIGNING_KEY },
    },
  );
  return { status, said: `${stdout}${stderr}` };
}

const backups = (of: string) => readdirSync(of).sort();

/** The application on what was read back. */
async function restored(path: string, ...more: string[]): Promise<TestApp> {
  const url = await emptyDatabase();
  const { status, said } = command('restore', [path, ...more], url);
  expect(said).toContain('1 packs and 2 records are back, and everything holds');
  expect(status).toBe(0);
  return openTestApp({ url, withPeople: false });
}

it('holds everything that was there, and what comes back is that register', async () => {
  const of = join(folder, 'plain');
  const { status, said } = command('backup', [of]);
  expect(said).toMatch(/Read back: 1 packs, 2 records, everything holds/);
  expect(status).toBe(0);
  const [name] = backups(of);
  const text = gunzipSync(readFileSync(join(of, name!))).toString();
  // Nobody who finds it comes in with it.
  for (const { sid } of await rows(test.url, 'select sid from user_session'))
    expect(text).not.toContain(sid as string);
  expect(text).not.toContain(COOKIE_SECRET);

  const back = await restored(join(of, name!));
  await custodian.get('/api/packs').expect(200);
  await back.anybody().get('/api/packs').expect(401);
  const again = await back.as('custodian');
  const strip = ({ body }: { body: unknown }) => body as PackDetails;
  expect(strip(await again.get(`/api/packs/${pack.id}`))).toEqual(
    strip(await custodian.get(`/api/packs/${pack.id}`)),
  );
  expect((await again.get(`/api/photos/${photoId}`).expect(200)).body).toEqual(photo);
  const { text: taken, number } = checkpoint;
  const { body } = await again.post('/api/evidence/verification').send({ checkpoint: taken }).expect(201);
  expect(body).toMatchObject({ findings: [], against: number });
  // The text is for any PostgreSQL; where this one can, states are compressed as they were.
  expect(text).not.toMatch(/set compression/i);
  const compression = `select attname, attcompression from pg_attribute where attrelid = 'pack_state'::regclass order by attname`;
  expect(await rows(back.url, compression)).toEqual(await rows(test.url, compression));
  await back.close();
});

it('is encrypted to a key that is elsewhere', async () => {
  const identity = age('generateIdentity()');
  const of = join(folder, 'sealed');
  const { said } = command('backup', [of, '--for', age(`identityToRecipient('${identity}')`)]);
  const [name] = backups(of);
  expect(said).toContain(name);
  const path = join(of, name!);
  expect(readFileSync(path).includes('BK-1')).toBe(false);
  const keys = join(folder, 'key.txt');
  writeFileSync(keys, `# made for a test\n${identity}\n`);
  await (await restored(path, '--identity', keys)).close();

  const empty = await emptyDatabase();
  expect(command('restore', [path], empty)).toMatchObject({
    status: 1,
    said: expect.stringContaining('--identity'),
  });
  writeFileSync(keys, age('generateIdentity()'));
  expect(command('restore', [path, '--identity', keys], empty).status).toBe(1);
  // Cut in the middle, it is not taken by halves.
  const cut = join(of, 'cut.sql.gz.age');
  writeFileSync(cut, readFileSync(path).subarray(0, -400));
  writeFileSync(keys, identity);
  expect(command('restore', [cut, '--identity', keys], empty).status).toBe(1);
  expect(await rows(empty, `select 1 from information_schema.tables where table_schema = 'public'`)).toEqual(
    [],
  );
});

it('is refused where it broke off, is none, or would overwrite a register', async () => {
  const of = join(folder, 'odd');
  command('backup', [of, '--unproven']);
  const path = join(of, backups(of)[0]!);
  const empty = await emptyDatabase();
  const whole = gunzipSync(readFileSync(path));
  const cut = join(of, 'cut.sql.gz');
  writeFileSync(cut, gzipSync(whole.subarray(0, whole.length - 300)));
  expect(command('restore', [cut], empty)).toMatchObject({
    status: 1,
    said: expect.stringContaining('broke off'),
  });
  writeFileSync(cut, gzipSync('select 1;'));
  expect(command('restore', [cut], empty)).toMatchObject({
    status: 1,
    said: expect.stringContaining('no backup'),
  });
  writeFileSync(cut, 'not even packed');
  expect(command('restore', [cut], empty).status).toBe(1);
  // A line that PostgreSQL does not take takes the rest along.
  writeFileSync(
    cut,
    gzipSync(whole.toString().replace(/\n-- The end/, '\nselect from nowhere;\n-- The end')),
  );
  expect(command('restore', [cut], empty)).toMatchObject({
    status: 1,
    said: expect.stringContaining('nowhere'),
  });
  expect(await rows(empty, `select 1 from information_schema.tables where table_schema = 'public'`)).toEqual(
    [],
  );
  expect(command('restore', [path])).toMatchObject({
    status: 1,
    said: expect.stringContaining('holds something already'),
  });
  expect(command('restore', []).status).toBe(2);
  expect(command('backup', [of, '--keep', '0']).status).toBe(2);
});

it('leaves the newest so many, and no half of one when it breaks off', async () => {
  const of = join(folder, 'many');
  for (let i = 0; i < 3; i += 1) {
    command('backup', [of, '--unproven', '--keep', '2']);
    // The name tells the second.
    await new Promise((resolve) => setTimeout(resolve, 1_100));
  }
  writeFileSync(join(of, 'notes.txt'), 'not a backup');
  expect(backups(of)).toHaveLength(3);
  const before = backups(of);
  expect(command('backup', [of], `${test.url}_nowhere`).status).toBe(1);
  expect(backups(of)).toEqual(before);
});

it('that does not hold is said to be one that does not', async () => {
  const [{ verdict }] = (await rows(test.url, 'select verdict from pack_state')) as [{ verdict: string }];
  await rows(test.url, `update pack_state set verdict = 'watch'`);
  const { status, said } = command('backup', [join(folder, 'touched')]);
  expect({ status, said }).toMatchObject({
    status: 1,
    said: expect.stringContaining('BK-1: the lists say of it'),
  });
  await rows(test.url, `update pack_state set verdict = '${verdict}'`);
});

async function rows(url: string, statement: string): Promise<Record<string, unknown>[]> {
  const client = new Client({ connectionString: url });
  await client.connect();
  const { rows: found } = await client.query<Record<string, unknown>>(statement);
  await client.end();
  return found;
}

/** What the package answers: it ships as a module only, and is not for the tests' own loader. */
function age(asked: string): string {
  const code = `import * as age from 'age-encryption'; console.log(await age.${asked})`;
  return spawnSync(process.execPath, ['--input-type=module', '-e', code], {
    cwd: ROOT,
    encoding: 'utf8',
  }).stdout.trim();
}
