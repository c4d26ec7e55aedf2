import { gunzipSync, gzipSync } from 'node:zlib';
import request from 'supertest';
import type TestAgent from 'supertest/lib/agent';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { ARCHIVE_ORDER, ARCHIVE_TABLES } from '../../contract';
import type { PackDetails, PackRow, RulesHistoryAnswer, SessionAnswer } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import { verifyLedger } from '../ledger';
import {
  addPack,
  addType,
  importBody,
  incidentBody,
  inspectionPayload,
  NOW,
  openTestApp,
  PASSWORD,
  readingBody,
  recordBody,
  recyclerBody,
  roundBody,
  bytesOf,
} from '../testing/testApp';
import { addCharger, addCraft, dayForm, gateBody, jobBody, spanForm } from '../testing/bench';
import { addDevice, openSocket, TestDevice } from '../testing/device';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';

let test: TestApp;
let custodian: TestAgent;
let written: Buffer;
let packs: PackDetails[];

/** A register with something in every table that an archive has. */
beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  const { id: placeId } = await made('/places', {
    name: 'Fire cabinet',
    kind: 'cabinet',
    fireResistant: true,
    celsius: 18.5,
  });
  await made('/instruments', { name: 'Bench meter', errorMv: 3 });
  const { id: recyclerId } = await made('/recyclers', recyclerBody());
  const type = await addType(custodian, { name: 'Quad “4S”', price: 42.5 });
  const delivery = {
    id: newId(),
    typeId: type.id,
    packs: [{ id: newId(), recordId: newId(), tag: 'AR-0' }],
    owner: null,
    homePlaceId: placeId,
    fieldPack: false,
    smart: null,
    receivedAt: NOW - 40 * DAY_MS,
    source: 'A van',
  };
  await made('/deliveries', delivery);
  packs = [
    await addPack(custodian, type.id, 'AR-1', { smart: { autoStorage: true, autoStorageAfterHours: 48 } }),
    await addPack(custodian, type.id, 'AR-2'),
  ];
  const [one, two] = packs as [PackDetails, PackDetails];
  await made('/flying-days', dayForm(type.id));
  const craft = await addCraft(custodian);
  await made(`/craft/${craft.id}/changes`, { at: NOW - DAY_MS, what: 'Other propellers', newBaseline: true });
  await made('/attendance', spanForm(test.people.pilot));
  const charger = await addCharger(custodian);
  await records(one.id, [readingBody([3853, 3851, 3850, 3840], { at: NOW - 2 * HOUR_MS })]);
  const job = jobBody(charger.id, [one.id]);
  await made('/charging/jobs', job);
  await custodian.post(`/api/charging/jobs/${job.id}/start`).send(gateBody(test.people.pilot)).expect(200);
  await devicesAtWork(charger.id);
  const photoId = newId();
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: 'teal' } })
    .png()
    .toBuffer();
  await custodian.put(`/api/photos/${photoId}`).set('content-type', 'image/png').send(picture).expect(204);
  await records(one.id, [
    readingBody([3853, 3851, 3850, 3840], {}, { remarks: 'Ümlaut, “quotes”, emoji 🔋 and a \\ backslash' }),
  ]);
  const failed = inspectionPayload();
  const items = failed.items.map((item, i) => (i === 0 ? { ...item, photoIds: [photoId] } : item));
  await records(two.id, [recordBody('inspection', { ...failed, items }, NOW - HOUR_MS)]);
  await custodian
    .put(`/api/packs/${two.id}`)
    .send({
      tag: 'AR-2b',
      typeId: type.id,
      owner: null,
      homePlaceId: null,
      inServiceAt: null,
      fieldPack: false,
      smart: null,
      version: 1,
    })
    .expect(200);
  const incident = incidentBody([two.id]);
  await made('/incidents', incident);
  const task = { id: newId(), text: 'Look at the craft', ownerId: test.people.pilot, dueAt: NOW + DAY_MS };
  await made('/incidents', {
    ...incident,
    packRecords: [],
    entries: [{ id: newId(), at: NOW, kind: 'task', payload: task }],
  });
  await made('/consignments', { id: newId(), recyclerId });
  const round = await made('/rounds', roundBody({ packIds: [one.id] }));
  await custodian
    .post(`/api/rounds/${round.id}/rows`)
    .send({ packId: one.id, records: [], outcome: 'skipped', reason: 'Not here.', at: NOW })
    .expect(201);
  const bookId = (await made('/imports', importBody({ kind: 'history' }))).id;
  await made(`/imports/${bookId}/records`, {
    packId: one.id,
    records: [readingBody([3800, 3800, 3800, 3790], { at: NOW - 3 * HOUR_MS })],
  });
  const { body: rules } = await custodian.get('/api/rules');
  await made('/rules', {
    basedOn: (rules as { versions: { version: number }[] }).versions[0]!.version,
    preset: 'even-keel',
    changes: [{ path: 'idle.everyDays', value: 33 }],
    reason: 'Closer looks',
  });
  // Its packs are judged under the new rules before anybody compares.
  await until(
    async () => (await custodian.get('/api/rules')).body as RulesHistoryAnswer,
    ({ judged, packs: all }) => judged === all,
  );
  written = await archiveOf(custodian);
});
afterAll(() => test.close());

/** A meter that read a pack, and a charger that told how the running job went. */
async function devicesAtWork(chargerId: string): Promise<void> {
  const door = await openSocket(test);
  const meter = await addDevice(custodian, 'meter', { name: 'AR meter' });
  const charger = await addDevice(custodian, 'charger', { equipmentId: chargerId });
  for (const [secret, line] of [
    [meter.secret, { type: 'reading', contact: 1, cellsMv: [3853, 3851] }],
    [
      charger.secret,
      {
        type: 'charge',
        channel: '1',
        state: 'running',
        seconds: 1,
        amps: 1,
        movedMah: 1,
        cellsMv: [3853, 3851, 3850, 3840],
      },
    ],
  ] as const) {
    const device = await TestDevice.connect(door.url, secret);
    await device.told(line);
    await device.close();
  }
  await door.close();
}

async function made(path: string, body: object) {
  return (await custodian.post(`/api${path}`).send(body).expect(201)).body as { id: string };
}
const records = (packId: string, list: object[]) => made('/records', { packId, records: list });

async function archiveOf(agent: TestAgent, path = '/archive'): Promise<Buffer> {
  return (await bytesOf(agent.get(`/api${path}`))).bytes;
}

const linesOf = (archive: Buffer) => gunzipSync(archive).toString().trimEnd().split('\n');

/** A new register on an empty database, and what it answers to this archive. */
async function readInto(archive: Buffer) {
  const other = await openTestApp({ withPeople: false });
  const answer = await request(other.app.express)
    .put('/api/archive')
    .set('content-type', 'application/gzip')
    .send(archive);
  return { other, answer };
}

async function why(archive: Buffer | readonly string[]): Promise<string> {
  const packed = Buffer.isBuffer(archive) ? archive : gzipSync(`${archive.join('\n')}\n`);
  const { other, answer } = await readInto(packed);
  try {
    expect(answer.status).toBe(422);
    const { body: session } = await request(other.app.express).get('/api/session');
    // Nothing of it stayed: the register can be begun, or read into, as before.
    expect(session).toMatchObject({ state: 'setup', custodians: [] });
    return (answer.body as { detail: string }).detail;
  } finally {
    await other.close();
  }
}

it('has every table, each line as its schema says, and nothing that lets anybody in', () => {
  const lines = linesOf(written);
  const counted = new Map<string, number>();
  for (const line of lines.slice(1, -1)) {
    const [table, row] = Object.entries(JSON.parse(line) as Record<string, unknown>)[0]!;
    ARCHIVE_TABLES[table as keyof typeof ARCHIVE_TABLES].parse(row);
    counted.set(table, (counted.get(table) ?? 0) + 1);
  }
  // A device comes without its key.
  expect(counted.get('device')).toBe(2);
  // Nothing was recycled, corrected or moved by new rules here; all else is there.
  const empty = ARCHIVE_ORDER.filter((table) => !counted.has(table));
  expect(empty).toEqual(['verdict_move', 'consignment_correction', 'import_pack']);
  expect(JSON.parse(lines.at(-1)!)).toMatchObject({ manifest: { rows: Object.fromEntries(counted) } });
  expect(lines.join('\n')).not.toMatch(/argon2|password_hash|calendar_key|malle_/);
});

it('read into an empty register it is the same register: ledger, verdicts, and its own archive to the byte', async () => {
  const before = (await custodian.get('/api/packs').expect(200)).body as PackRow[];
  const { other, answer } = await readInto(written);
  try {
    expect(answer.body).toEqual({ packs: 3, records: before.reduce((sum, { seq }) => sum + seq, 0) });
    const browser = request.agent(other.app.express);
    const { custodians } = (await browser.get('/api/session')).body as SessionAnswer & {
      custodians: { id: string; name: string }[];
    };
    expect(custodians).toMatchObject([{ name: 'The custodian' }]);
    await browser
      .post('/api/setup')
      .send({ name: 'A thief', login: 'thief', password: PASSWORD })
      .expect(409);
    await browser
      .post('/api/setup/claim')
      .send({ personId: test.people.pilot, password: PASSWORD })
      .expect(409);
    await browser
      .post('/api/setup/claim')
      .send({ personId: custodians[0]!.id, password: 'short' })
      .expect(422);
    await browser
      .post('/api/setup/claim')
      .send({ personId: custodians[0]!.id, password: PASSWORD })
      .expect(201);
    await request(other.app.express)
      .post('/api/setup/claim')
      .send({ personId: custodians[0]!.id, password: PASSWORD })
      .expect(409);
    expect((await browser.get('/api/packs').expect(200)).body).toEqual(before);
    expect(gunzipSync(await archiveOf(browser)).equals(gunzipSync(written))).toBe(true);
    expect((await verifyLedger(other.app.database.entities())).broken).toEqual([]);
    const tags = await browser.get('/api/packs/by-tag/AR-2').expect(200);
    expect((tags.body as PackDetails).tag).toBe('AR-2b');
    // A register that holds something takes no archive.
    await request(other.app.express)
      .put('/api/archive')
      .set('content-type', 'application/gzip')
      .send(written)
      .expect(409);
  } finally {
    await other.close();
  }
});

describe('is refused with the place', () => {
  const changed = (table: string, change: (row: Record<string, unknown>) => void, nth = 0) => {
    const lines = linesOf(written);
    const places = lines.flatMap((line, i) => (line.startsWith(`{"${table}":`) ? [i] : []));
    const at = places[nth]!;
    const said = JSON.parse(lines[at]!) as Record<string, Record<string, unknown>>;
    change(said[table]!);
    lines[at] = JSON.stringify(said);
    return { lines, line: at + 1 };
  };

  it('when it is cut short, damaged, empty or no archive', async () => {
    expect(await why(linesOf(written).slice(0, -1))).toMatch(/cut short: after line \d+/);
    expect(await why(written.subarray(0, written.length - 200))).toMatch(
      /damaged or cut short after line \d+|cut short/,
    );
    const flipped = Buffer.from(written);
    flipped[Math.floor(flipped.length / 2)]! ^= 0xff;
    expect(await why(flipped)).toMatch(/line \d+|damaged/i);
    expect(await why(Buffer.from('not packed'))).toMatch(/damaged or cut short after line 0/);
    // Forty kilobytes on the way, and a line that goes on for ever once unpacked.
    expect(await why(gzipSync(Buffer.alloc(64 * 1024 * 1024, 'a')))).toMatch(
      /damaged or cut short after line 0/,
    );
    expect(await why(gzipSync(''))).toMatch(/empty/);
    expect(await why(['{"archive":"something"}'])).toMatch(/no archive of Malle/);
    expect(await why(['tag;type'])).toMatch(/no archive of Malle/);
  });

  it('when it was written by a newer Malle, or is of one pack', async () => {
    const [head, ...rest] = linesOf(written);
    const newer = JSON.stringify({ ...(JSON.parse(head!) as object), version: 2 });
    expect(await why([newer, ...rest])).toMatch(/newer Malle: form 2/);
    expect(await why(await archiveOf(custodian, `/archive/packs/${packs[0]!.id}`))).toMatch(/one pack/);
  });

  it('when a line is no line, of no table, or not as its schema says', async () => {
    const lines = linesOf(written);
    expect(await why(lines.with(4, '{"place"'))).toMatch(/Line 5 is not a line/);
    expect(await why(lines.with(4, '{"shelf":{}}'))).toMatch(/Line 5 is of no table/);
    const { lines: bad, line } = changed('pack', (row) => (row.field_pack = 'perhaps'));
    expect(await why(bad)).toMatch(new RegExp(`Line ${line}, pack: field_pack`));
  });

  it('when something was changed: by its block, or by the seal of the record where the manifest was made to fit', async () => {
    const { lines } = changed('person', (row) => (row.role = 'custodian'), 2);
    expect(await why(lines)).toMatch(/changed between lines 1 and \d+/);
    const { lines: record } = changed('record', (row) => (row.by = test.people.reader), 1);
    const { createHash } = await import('node:crypto');
    const body = record.slice(0, -1);
    const { manifest } = JSON.parse(record.at(-1)!) as {
      manifest: { blocks: { from: number; to: number; sha256: string }[] };
    };
    for (const block of manifest.blocks)
      block.sha256 = createHash('sha256')
        .update(
          body
            .slice(block.from - 1, block.to)
            .map((one) => `${one}\n`)
            .join(''),
        )
        .digest('hex');
    expect(await why([...body, JSON.stringify({ manifest })])).toMatch(
      /Record \d+ of AR-\S+ is not as it was sealed: its contents/,
    );
  });

  it('when a row is missing, twice, or names what is not there', async () => {
    const lines = linesOf(written);
    const at = lines.findIndex((line) => line.startsWith('{"record":'));
    expect(await why(lines.toSpliced(at, 1))).toMatch(/changed between lines/);
    expect(await why(lines.toSpliced(at, 0, lines[at]!))).toMatch(
      /Between lines \d+ and \d+, record: a row stands there twice/,
    );
    const { lines: orphan } = changed('pack', (row) => (row.type_id = newId()));
    expect(await why(orphan)).toMatch(/Between lines \d+ and \d+, pack: a row names what is not there/);
    expect(await why([...lines, lines[1]!])).toMatch(/behind the end/);
  });
});

it('one pack is handed on with its ledger and whatever its records name, and nobody else’s', async () => {
  const pack = packs[1]!;
  const lines = linesOf(await archiveOf(custodian, `/archive/packs/${pack.id}`));
  const rows = (table: string) =>
    lines
      .filter((line) => line.startsWith(`{"${table}":`))
      .map((line) => (JSON.parse(line) as Record<string, Record<string, unknown>>)[table]!);
  expect(rows('pack').map(({ tag }) => tag)).toEqual(['AR-2b']);
  expect(rows('record').every(({ pack_id }) => pack_id === pack.id)).toBe(true);
  expect([
    rows('photo').length,
    rows('incident').length,
    rows('pack_type').length,
    rows('consignment').length,
  ]).toEqual([1, 1, 1, 0]);
  expect(
    rows('pack_tag')
      .map(({ tag }) => tag)
      .sort(),
  ).toEqual(['AR-2', 'AR-2b']);
  expect(rows('person').map(({ name }) => name)).toContain('The custodian');
  await custodian.get(`/api/archive/packs/${newId()}`).expect(404);
  await (await test.as('deputy')).get('/api/archive').expect(403);
});
