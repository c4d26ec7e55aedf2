import type TestAgent from 'supertest/lib/agent';
import { inflateRawSync } from 'node:zlib';
import type { LaterRow, OfflinePack, PackDetails } from '../../contract';
import { DAY_MS, HOUR_MS } from '../../core/measure';
import type { PackId } from '../../core/measure';
import {
  addPack,
  addType,
  incidentBody,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { packRows } from './rows';

let test: TestApp;
let custodian: TestAgent;
let typeId: string;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

const write = (packId: string, ...records: object[]) =>
  custodian.post('/api/records').send({ packId, records }).expect(201);
const offlinePacks = async (...ids: string[]) =>
  (
    await custodian
      .get('/api/offline-packs')
      .query({ ids: ids.join(',') })
      .expect(200)
  ).body as OfflinePack[];
const laterRows = async (...ids: string[]) =>
  (
    await custodian
      .get('/api/offline-rows')
      .query(ids.length > 0 ? { ids: ids.join(',') } : {})
      .expect(200)
  ).body as LaterRow[];
const unpacked = ({ packed }: OfflinePack) =>
  JSON.parse(inflateRawSync(Buffer.from(packed, 'base64')).toString('utf8')) as PackDetails;

describe('packs kept where there is no network', () => {
  it('are the packs as their pages show them, but for what others taught, with the state they are in', async () => {
    const packs = [await addPack(custodian, typeId, 'OF-01'), await addPack(custodian, typeId, 'OF-02 Ü')];
    await write(packs[0]!.id, readingBody([4180, 4180, 4180, 4180]));
    await write(
      packs[1]!.id,
      recordBody('note', { text: 'Scratch on the wrap; “see photo” – 30 °C, ½ full.' }),
    );
    const kept = await offlinePacks(...packs.map(({ id }) => id));
    expect(kept).toHaveLength(2);
    for (const one of kept) {
      const { siblings, ...shown } = (await custodian.get(`/api/packs/${one.id}`)).body as PackDetails;
      expect(siblings).toEqual({});
      expect(unpacked(one)).toEqual(shown);
      expect([one.seq, one.version]).toEqual([shown.records.length, shown.version]);
    }
  });

  it('one that is unknown is left out, and too many at once are refused', async () => {
    const { id } = await addPack(custodian, typeId, 'OF-03');
    const unknown = id.replace(/.{12}$/, '0'.repeat(12));
    expect((await offlinePacks(id, unknown)).map((one) => one.id)).toEqual([id]);
    await custodian
      .get('/api/offline-packs')
      .query({ ids: Array.from({ length: 201 }, () => id).join(',') })
      .expect(422);
    await custodian.get('/api/offline-packs').expect(422);
    await test.anybody().get('/api/offline-packs').query({ ids: id }).expect(401);
  });
});

describe('what time alone will make of packs', () => {
  it('is at every moment of three weeks what the list will say then', async () => {
    const ids: string[] = [];
    const add = async (tag: string, more = {}) => {
      const { id } = await addPack(custodian, typeId, tag, more);
      ids.push(id);
      return id;
    };
    // Charged and left, charged already too long, read at storage long ago, on watch after a drop, never read.
    await write(await add('LA-01'), readingBody([4190, 4190, 4190, 4190], { at: NOW - HOUR_MS }));
    const old = { receivedAt: NOW - 200 * DAY_MS };
    await write(await add('LA-02', old), readingBody([4150, 4150, 4150, 4150], { at: NOW - 20 * HOUR_MS }));
    await write(await add('LA-03', old), readingBody([3840, 3840, 3840, 3840], { at: NOW - 80 * DAY_MS }));
    const dropped = await add('LA-04');
    await custodian
      .post('/api/incidents')
      .send(incidentBody([dropped]))
      .expect(201);
    await add('LA-05', { receivedAt: NOW - 25 * DAY_MS, inServiceAt: NOW - 25 * DAY_MS });

    const told = await laterRows(...ids);
    expect(new Set(told.map(({ row }) => row.tag)).size).toBeGreaterThanOrEqual(2);
    const em = () => test.app.database.entities();
    const now = await packRows(em(), NOW, ids as PackId[]);
    const moments = [
      ...told.flatMap(({ from }) => [from - 1, from, from + 1]),
      ...Array.from({ length: 42 }, (_, half) => NOW + half * 12 * HOUR_MS),
    ];
    for (const moment of moments) {
      const latest = new Map(
        told.filter(({ from }) => from <= moment).map(({ row }) => [row.id, row] as const),
      );
      const expected = await packRows(em(), moment, ids as PackId[]);
      expect(now.map((row) => latest.get(row.id) ?? row)).toEqual(expected);
    }
    expect(told.every(({ from }) => from > NOW && from <= NOW + 21 * DAY_MS)).toBe(true);
  });

  it('of all packs comes as of those named, and is gone for one that was written to', async () => {
    const { id } = await addPack(custodian, typeId, 'LA-06');
    await write(id, readingBody([4190, 4190, 4190, 4190], { at: NOW - HOUR_MS }));
    const [first] = await laterRows(id);
    expect(first).toBeDefined();
    expect((await laterRows()).find(({ row }) => row.id === id)).toEqual(first);
    await write(id, readingBody([3840, 3840, 3840, 3840], { at: NOW }));
    expect((await laterRows(id)).some(({ row }) => row.seq === first!.row.seq)).toBe(false);
  });
});
