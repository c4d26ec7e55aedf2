import { v7 as newId } from 'uuid';
import exifr from 'exifr';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import type { PackDetails } from '../../contract';
import type { PhotoId } from '../../core/measure';
import { addPack, addType, inspectionPayload, NOW, openTestApp, reasons } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let pilot: TestAgent;
let pack: PackDetails;
beforeAll(async () => {
  test = await openTestApp();
  const custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  pack = await addPack(custodian, (await addType(custodian)).id, 'PH-1');
});
afterAll(() => test.close());

const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#a33' } });
/** A photo as a phone makes it: lying on its side, saying so, and where it was taken. */
const fromAPhone = () =>
  picture(2400, 1200)
    .withMetadata({ orientation: 6 })
    .withExifMerge({
      IFD0: { Make: 'a phone' },
      IFD3: {
        GPSLatitudeRef: 'N',
        GPSLatitude: '52/1 22/1 0/1',
        GPSLongitudeRef: 'E',
        GPSLongitude: '4/1 53/1 0/1',
      },
    })
    .jpeg()
    .toBuffer();
const send = (bytes: Buffer, id = newId(), type = 'image/jpeg') =>
  pilot.put(`/api/photos/${id}`).set('content-type', type).send(bytes);
const kept = async (id: string, size = '') =>
  (await pilot.get(`/api/photos/${id}${size}`).expect(200)).body as Buffer;

it('comes back small, upright, and without where it was taken', async () => {
  const sent = await fromAPhone();
  const before = (await exifr.parse(sent, { gps: true })) as { latitude: number };
  expect(before.latitude).toBeCloseTo(52.37, 1);
  const id = newId();
  await send(sent, id).expect(204);
  const back = await kept(id);
  expect(await exifr.parse(back, true)).toBeUndefined();
  expect(back.includes('a phone')).toBe(false);
  expect(await sharp(back).metadata()).toMatchObject({ format: 'jpeg', width: 800, height: 1600 });
  expect(await sharp(await kept(id, '/thumbnail')).metadata()).toMatchObject({ width: 240, height: 240 });
});

it.each(['png', 'webp'] as const)('takes a %s', async (format) => {
  const id = newId();
  await send(await picture(60, 40).toFormat(format).toBuffer(), id, `image/${format}`).expect(204);
  expect(await sharp(await kept(id)).metadata()).toMatchObject({ format: 'jpeg', width: 60 });
});

describe('is refused when it is', () => {
  const cases: [string, () => Promise<Buffer> | Buffer][] = [
    [
      'an executable with a picture’s name',
      () => Buffer.from('\x7fELF\x02\x01\x01 and more of a program'.repeat(50)),
    ],
    [
      'a drawing that could hold scripts',
      () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
    ],
    ['a picture broken off', async () => (await fromAPhone()).subarray(0, 900)],
    ['an animation', () => picture(20, 20).gif().toBuffer()],
  ];
  it.each(cases)('%s', async (_what, bytes) => {
    const { body } = await send(await bytes()).expect(422);
    expect(body).toMatchObject({ type: '/problems/no-photo', detail: 'Send a JPEG, PNG or WebP picture.' });
  });
  it('nothing at all, or far too much', async () => {
    await send(Buffer.alloc(0)).expect(422);
    await send(Buffer.alloc(13_000_000, 1)).expect(413);
  });
});

it('is harmless to send twice, and never replaced under its id', async () => {
  const id = newId();
  const bytes = await picture(30, 30).jpeg().toBuffer();
  await Promise.all([1, 2, 3].map(() => send(bytes, id).expect(204)));
  await send(await picture(31, 31).jpeg().toBuffer(), id).expect(409);
});

it('is for people of the register: sent by those who inspect, seen by all who read', async () => {
  const bytes = await picture(30, 30).jpeg().toBuffer();
  const id = newId();
  await send(bytes, id).expect(204);
  await test
    .anybody()
    .put(`/api/photos/${newId()}`)
    .set('content-type', 'image/jpeg')
    .send(bytes)
    .expect(401);
  await test.anybody().get(`/api/photos/${id}`).expect(401);
  const reader = await test.as('reader');
  await reader.put(`/api/photos/${newId()}`).set('content-type', 'image/jpeg').send(bytes).expect(403);
  await reader.get(`/api/photos/${id}`).expect(200);
  await reader.get(`/api/photos/${newId()}`).expect(404);
});

it('a record may name only photos that have arrived', async () => {
  const photo = newId() as PhotoId;
  const wrong = { swelling: { answer: 'note', note: 'a dent?', photoIds: [photo] } } as const;
  const record = {
    id: newId(),
    at: NOW,
    kind: 'inspection',
    supersedes: null,
    payload: inspectionPayload({}, wrong),
  };
  const { body } = await pilot
    .post('/api/records')
    .send({ packId: pack.id, records: [record] })
    .expect(422);
  expect(Object.values(reasons(body))).toEqual(['This photo has not arrived; send it first.']);
  await send(await picture(30, 30).jpeg().toBuffer(), photo).expect(204);
  await pilot
    .post('/api/records')
    .send({ packId: pack.id, records: [record] })
    .expect(201);
});
