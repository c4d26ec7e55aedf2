import { execFileSync } from 'node:child_process';
import { generateKeyPairSync } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import jsQR from 'jsqr';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import type { CheckpointAnswer, EvidenceAnswer, VerificationAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import { openApp } from '../app';
import { clockFrom } from '../platform/clock';
import { logAt } from '../platform/log';
import { isSigned, openSigner } from '../platform/signing';
import {
  addPack,
  addType,
  bytesOf,
  NOW,
  openTestApp,
  readingBody,
  reasons,
  SIGNING_KEY,
  testConfig,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { keepCheckpoints } from '.';
import { makeCheckpoint } from './checkpoints';
import { checkpointText, holds, readCheckpoint, statementText } from './statement';
import { rootOf } from './tree';

let test: TestApp;
let custodian: TestAgent;
const folder = mkdtempSync(join(tmpdir(), 'malle-evidence-'));

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  await addPack(custodian, (await addType(custodian)).id, 'EV-1');
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await test.close();
});

const make = async () =>
  (await custodian.post('/api/evidence/checkpoints').send({}).expect(201)).body as CheckpointAnswer;
const look = async (checkpoint: string | null, agent = custodian) =>
  (await agent.post('/api/evidence/verification').send({ checkpoint }).expect(201))
    .body as VerificationAnswer;
const evidence = async () => (await custodian.get('/api/evidence').expect(200)).body as EvidenceAnswer;

describe('a checkpoint', () => {
  it('is made when something changed, and otherwise is the one there is', async () => {
    const first = await make();
    expect(await make()).toEqual(first);
    const { body: packs } = await custodian.get('/api/packs').expect(200);
    const packId = (packs as { id: string }[])[0]!.id;
    await custodian
      .post('/api/records')
      .send({ packId, records: [readingBody([3850, 3850, 3850, 3850])] })
      .expect(201);
    const second = await make();
    expect(second.number).toBe(first.number + 1);
    expect(second.root).not.toBe(first.root);
    expect((await evidence()).checkpoints.slice(0, 2)).toEqual([second, first]);
  });

  it('is a text that stands for itself: signed by the register’s key, and kept anywhere', async () => {
    const { text, number, root } = await make();
    const read = readCheckpoint(text)!;
    expect(read.said).toMatchObject({ number, root });
    expect(read.key).toBe(openSigner(SIGNING_KEY).publicKey);
    expect(holds(read)).toBe(true);
    const { text: file } = await custodian.get(`/api/evidence/checkpoints/${number}.txt`).expect(200);
    expect(file).toBe(text);
    for (const odd of ['0', '-1', '1.5', 'x', '99999999999999999999', String(number + 1)])
      await custodian.get(`/api/evidence/checkpoints/${odd}.txt`).expect(404);
  });

  it('is made once when many ask at the same moment', async () => {
    await custodian.post('/api/instruments').send({ name: 'A meter', errorMv: 5 }).expect(201);
    const made = await Promise.all(Array.from({ length: 8 }, make));
    expect(new Set(made.map(({ text }) => text)).size).toBe(1);
  });

  it('is read through a scanner that ends lines in its own way, and not when a letter is another', async () => {
    const { text } = await make();
    const read = readCheckpoint(text);
    expect(readCheckpoint(`\r\n${text.replaceAll('\n', ' \r\n\r\n')}`)).toEqual(read);
    for (const odd of [
      '',
      'x',
      text.slice(0, -110),
      text.replace('leaves ', 'leaves 0'),
      text.replace('number ', 'nummer '),
      `${text}${text}`,
    ])
      expect(readCheckpoint(odd)).toBeNull();
    const other = text.replace(/^root (.)/m, (_, first) => `root ${first === '0' ? '1' : '0'}`);
    expect(holds(readCheckpoint(other)!)).toBe(false);
  });
});

it('stands on paper as a code that an independent reader reads', async () => {
  const { bytes } = await bytesOf(
    custodian.get(`/api/reports.pdf?from=${NOW - 9 * DAY_MS}&to=${NOW}&asOf=${NOW}`),
  );
  writeFileSync(join(folder, 'report.pdf'), bytes);
  execFileSync('pdftoppm', ['-r', '150', '-png', join(folder, 'report.pdf'), join(folder, 'report')]);
  const sheets = readdirSync(folder).filter((name) => name.endsWith('.png'));
  const read = await Promise.all(
    sheets.map(async (name) => {
      const { data, info } = await sharp(join(folder, name))
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      return jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data;
    }),
  );
  expect(read.find((text) => text !== undefined)).toBe((await make()).text);
});

describe('a look at the register', () => {
  it('finds nothing where nothing was changed past it, and is told until the next', async () => {
    const { text, number } = await make();
    const found = await look(text);
    expect(found).toMatchObject({ at: NOW, packs: 1, against: number, findings: [] });
    expect((await evidence()).last).toEqual(found);
  });

  it('takes no text that is no checkpoint', async () => {
    const { body } = await custodian
      .post('/api/evidence/verification')
      .send({ checkpoint: 'lorem' })
      .expect(422);
    expect(reasons(body)).toEqual({ checkpoint: expect.stringContaining('not the text of a checkpoint') });
    await custodian
      .post('/api/evidence/verification')
      .send({ checkpoint: 'x'.repeat(3_000) })
      .expect(422);
    await custodian.post('/api/evidence/verification').send({}).expect(422);
  });

  it('is for custodians and safety officers', async () => {
    for (const role of ['deputy', 'pilot', 'reader'] as const) {
      const agent = await test.as(role);
      await agent.get('/api/evidence').expect(403);
      await agent.post('/api/evidence/verification').send({ checkpoint: null }).expect(403);
      await agent.post('/api/evidence/checkpoints').send({}).expect(403);
    }
    expect((await look(null, await test.as('officer'))).findings).toEqual([]);
  });

  it('says what a superuser did, through the page as in the test of each edit', async () => {
    const { text } = await make();
    const em = test.app.database.entities();
    await em.execute(`update person set name = 'Somebody Else' where login = 'reader'`);
    expect((await look(text)).findings).toEqual([
      { what: 'The person Somebody Else', why: 'it was changed, and the log does not say so', heldAt: NOW },
    ]);
    await em.execute(`update person set name = 'The reader' where login = 'reader'`);
    expect((await look(text)).findings).toEqual([]);
  });
});

describe('the key', () => {
  it('is made once, for its owner alone, and signs the same ever after', () => {
    const path = join(folder, 'deep', 'signing.key');
    const signer = openSigner(path);
    expect(statSync(path).mode & 0o077).toBe(0);
    const again = openSigner(path);
    expect(again.publicKey).toBe(signer.publicKey);
    expect(isSigned('words', signer.publicKey, again.sign('words'))).toBe(true);
    expect(isSigned('other words', signer.publicKey, signer.sign('words'))).toBe(false);
    expect(isSigned('words', 'no key', signer.sign('words'))).toBe(false);
  });

  it('is refused where the file holds something else', () => {
    const path = join(folder, 'rsa.key');
    const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
    writeFileSync(path, privateKey.export({ type: 'pkcs8', format: 'pem' }));
    expect(() => openSigner(path)).toThrow(/no Ed25519 key/);
  });

  it('is not there: nothing is signed, everything else works, and the page says so', async () => {
    const app = await openApp(testConfig(test.url, { signingKey: null }), logAt('silent'));
    const other: TestApp = { ...test, app };
    const agent = (await import('supertest')).default.agent(other.app.express);
    await agent
      .post('/api/session')
      .send({ login: 'custodian', password: 'a password for tests' })
      .expect(201);
    expect(((await agent.get('/api/evidence').expect(200)).body as EvidenceAnswer).canSign).toBe(false);
    await agent.post('/api/evidence/checkpoints').send({}).expect(404);
    await agent.post('/api/evidence/verification').send({ checkpoint: null }).expect(201);
    await app.close();
  });

  it('another one shows', async () => {
    await custodian.post('/api/instruments').send({ name: 'Another meter', errorMv: 5 }).expect(201);
    const em = test.app.database.entities();
    const foreign = (await makeCheckpoint(em, openSigner(join(folder, 'foreign.key')), NOW + DAY_MS))!;
    const { findings } = await look(null);
    expect(findings).toEqual([
      {
        what: `Checkpoint ${foreign.number}`,
        why: 'it is signed by another key than this register’s',
        heldAt: null,
      },
    ]);
  });
});

it('checkpoints are put where the register is not, as they are made', async () => {
  const away = join(folder, 'away');
  const keeping = keepCheckpoints(test.app.database, openSigner(SIGNING_KEY), {
    clock: clockFrom(NOW + 2 * DAY_MS),
    log: logAt('silent'),
    folder: away,
    mail: null,
  });
  await keeping.stop();
  const [name] = readdirSync(away);
  expect(readCheckpoint(readFileSync(join(away, name!), 'utf8'))!.said.number).toBe(
    (await evidence()).checkpoints[0]!.number,
  );
  expect(existsSync(away)).toBe(true);
});

describe('the tree', () => {
  it.each([1, 2, 3, 4, 5, 7, 8, 33])(
    'of %i things has another root when any of them is another, gone or renamed',
    (count) => {
      const things = new Map(Array.from({ length: count }, (_, i) => [`thing/${i}`, `digest ${i}`]));
      const root = rootOf(things);
      expect(rootOf(new Map([...things].reverse()))).toBe(root);
      for (const [name, digest] of things) {
        expect(rootOf(new Map(things).set(name, `${digest}.`))).not.toBe(root);
        const fewer = new Map(things);
        fewer.delete(name);
        expect(rootOf(fewer)).not.toBe(root);
        expect(rootOf(fewer.set(`${name}.`, digest))).not.toBe(root);
      }
    },
  );

  it('of nothing is the digest of nothing', () => {
    expect(rootOf(new Map())).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });
});

it('a statement says every figure, and is read back as it was', () => {
  const said = { register: 'r', number: 3, at: NOW, leaves: 12, root: 'ab', changed: 'cd', before: 'ef' };
  const signed = { statement: statementText(said), key: 'k', signature: 's' };
  expect(readCheckpoint(checkpointText(signed))).toEqual({ ...signed, said });
});
