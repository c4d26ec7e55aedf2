import { once } from 'node:events';
import type { IncomingMessage } from 'node:http';
import fc from 'fast-check';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import { WebSocket } from 'ws';
import type {
  CurveAnswer,
  DeviceAnswer,
  DeviceAnswerLine,
  NewDeviceAnswer,
  PackDetails,
} from '../../contract';
import { bell, chargeFor, newSimPack, seededRandom } from '../../core/cellsim';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { BLANK_CHARGE } from '../../core/record';
import { addCharger, endBody } from '../testing/bench';
import { Conversation } from './conversation';
import { addDevice, logBody, openBenchWithDoor, runningCharge, TestDevice } from '../testing/device';
import type { BenchWithDoor } from '../testing/device';
import { addPack, NOW, readingBody, reasons, recordBody } from '../testing/testApp';
import type { TestApp } from '../testing/testApp';
import { until } from '../testing/until';

let bench: BenchWithDoor;
let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let door: BenchWithDoor['door'];
let typeId: string;
let tags = 0;

beforeAll(async () => {
  bench = await openBenchWithDoor();
  ({ test, custodian, pilot, door, typeId } = bench);
});
afterAll(async () => {
  await bench.close();
});

const four = [3841, 3832, 3850, 3840];
const reading = (more: object = {}) => ({ type: 'reading', contact: 1, cellsMv: four, ...more });
const shown = async (id: string): Promise<DeviceAnswer> =>
  ((await pilot.get('/api/devices').expect(200)).body as DeviceAnswer[]).find((one) => one.id === id)!;
const newPack = (): Promise<PackDetails> => addPack(custodian, typeId, `DV-${(tags += 1)}`);

describe('a meter', () => {
  let meter: NewDeviceAnswer;
  let device: TestDevice;
  beforeAll(async () => {
    meter = await addDevice(custodian, 'meter');
    device = await TestDevice.connect(door.url, meter.secret, { software: 'a bridge' });
  });
  afterAll(() => device.close());

  it('is welcomed, and what it reads is shown', async () => {
    expect(device.answers[0]).toEqual({
      type: 'welcome',
      protocol: 1,
      name: meter.device.name,
      kind: 'meter',
      taken: 0,
      now: NOW,
    });
    expect(await device.told(reading())).toEqual({ type: 'taken', n: 1 });
    expect(await shown(meter.device.id)).toMatchObject({
      isOpen: true,
      software: 'a bridge',
      meter: { cellsMv: four, packMv: null, at: NOW },
    });
  });

  it('fills a record that says so; volts it never showed are refused', async () => {
    const pack = await newPack();
    await device.told(reading({ contact: 2, cellsMv: [3841, 3832, 3850, 3840] }));
    await device.told(reading({ contact: 2, cellsMv: [3843, 3832, 3850, 3838] }));
    const { meter: shows } = await shown(meter.device.id);
    const measured = { deviceId: meter.device.id, readingId: shows!.readingId };
    const write = (cellsMv: number[], by: object = measured) =>
      pilot
        .post('/api/records')
        .send({ packId: pack.id, records: [readingBody(cellsMv, {}, { measured: by })] });
    await write([3842, 3832, 3850, 3839]).expect(201);
    for (const cellsMv of [
      [3850, 3832, 3850, 3839],
      [3842, 3832, 3850],
      [3842, 3832, 3850, 3839, 3800],
    ]) {
      const { body } = await write(cellsMv).expect(422);
      expect(Object.values(reasons(body)).join()).toMatch(/device did not read|cells/);
    }
    const { body } = await write([3842, 3832, 3850, 3839], { ...measured, readingId: newId() }).expect(422);
    expect(reasons(body)['records.0.payload.measured']).toMatch('did not read');
    await write([3842, 3832, 3850, 3839], { ...measured, deviceId: newId() }).expect(422);
  });

  it('shows nothing once nothing is plugged in, and is gone when it goes', async () => {
    await device.told({ type: 'unplugged' });
    expect(await shown(meter.device.id)).toMatchObject({ isOpen: true, meter: null });
    const other = await addDevice(custodian, 'meter');
    const short = await TestDevice.connect(door.url, other.secret);
    await short.told(reading());
    await short.close();
    await until(
      () => shown(other.device.id),
      ({ isOpen }) => !isOpen,
    );
    expect(await shown(other.device.id)).toMatchObject({ isOpen: false, meter: null });
  });

  it('is taken by one page after the other', async () => {
    const [mine, theirs] = [newId(), newId()];
    const take = (agent: TestAgent, page: string) =>
      agent.post(`/api/devices/${meter.device.id}/take`).send({ page }).expect(200);
    await take(pilot, mine);
    await take(custodian, theirs);
    expect(await shown(meter.device.id)).toMatchObject({ takenPage: theirs, takenBy: test.people.custodian });
    const { body } = await pilot.post(`/api/devices/${meter.device.id}/take`).send({ page: 'x' }).expect(422);
    expect(reasons(body)).toHaveProperty('page');
  });

  it('repeats itself without harm, within a connection and after one', async () => {
    const run = newId();
    const first = await TestDevice.connect(door.url, (await addDevice(custodian, 'meter')).secret, { run });
    await first.close();
    const again = await addDevice(custodian, 'meter');
    const one = await TestDevice.connect(door.url, again.secret, { run });
    await one.told(reading());
    await one.told(reading({ cellsMv: [3800, 3800, 3800, 3800], contact: 2 }));
    one.raw({ ...reading({ cellsMv: [4200, 4200, 4200, 4200] }), n: 1 });
    await one.until(() => one.answers.filter(({ type }) => type === 'taken').length === 3);
    expect((await shown(again.device.id)).meter!.cellsMv).toEqual([3800, 3800, 3800, 3800]);
    await one.close();
    const back = await TestDevice.connect(door.url, again.secret, { run });
    expect(back.answers[0]).toMatchObject({ type: 'welcome', taken: 2 });
    await back.close();
    const restarted = await TestDevice.connect(door.url, again.secret);
    expect(restarted.answers[0]).toMatchObject({ type: 'welcome', taken: 0 });
    await restarted.close();
  });
});

describe('who is let in', () => {
  const refused = async (key: string, hello: object = {}): Promise<DeviceAnswerLine> => {
    const device = await TestDevice.connect(door.url, key, hello);
    await device.closed;
    return device.answers.at(-1)!;
  };
  it('is nobody without a key, with an ended one, or with another version', async () => {
    const { device, secret } = await addDevice(custodian, 'meter');
    expect(await refused('malle_device_nothing')).toMatchObject({
      type: 'end',
      message: expect.stringContaining('key'),
    });
    expect(await refused(secret, { protocol: 2 })).toMatchObject({
      message: expect.stringContaining('version 2'),
    });
    expect(await refused(secret, { run: 'x' })).toMatchObject({ message: expect.stringContaining('run') });
    expect(await refused(secret, { extra: 1 })).toMatchObject({ type: 'end' });
    await custodian.delete(`/api/devices/${device.id}`).expect(204);
    expect(await refused(secret)).toMatchObject({ type: 'end' });
    expect(await shown(device.id)).toMatchObject({ endedAt: NOW, hasKey: false });
  });

  it('is no page of a browser, with whatever key', async () => {
    const page = new WebSocket(door.url, { origin: new URL(door.url.replace('ws', 'http')).origin });
    const [, answer] = (await once(page, 'unexpected-response')) as [unknown, IncomingMessage];
    expect(answer.statusCode).toBe(403);
  });

  it('is one connection a key: a newer one takes over, and a new key or an end sends it away', async () => {
    const { device, secret } = await addDevice(custodian, 'meter');
    const old = await TestDevice.connect(door.url, secret);
    const fresh = await TestDevice.connect(door.url, secret);
    old.say(reading());
    await old.closed;
    expect(old.answers.at(-1)).toMatchObject({ type: 'end', message: expect.stringContaining('took over') });
    expect(await fresh.told(reading())).toMatchObject({ type: 'taken' });
    const { body } = await custodian.post(`/api/devices/${device.id}/key`).send({}).expect(201);
    await fresh.closed;
    const renewed = await TestDevice.connect(door.url, (body as NewDeviceAnswer).secret);
    expect(renewed.answers[0]).toMatchObject({ type: 'welcome' });
    await custodian.delete(`/api/devices/${device.id}`).expect(204);
    await renewed.closed;
  });

  it('keeps keys out of sight, and to custodians and deputies', async () => {
    const { secret } = await addDevice(custodian, 'meter');
    expect(JSON.stringify((await custodian.get('/api/devices')).body)).not.toContain(secret);
    await pilot.post('/api/devices').send({}).expect(403);
  });

  it('names what is wrong with a new device at its field', async () => {
    const send = (more: object) =>
      custodian.post('/api/devices').send({
        id: newId(),
        name: 'One',
        kind: 'meter',
        instrumentId: null,
        equipmentId: null,
        patterns: [],
        ...more,
      });
    expect(reasons((await send({}).expect(422)).body)).toHaveProperty('instrumentId');
    expect(reasons((await send({ kind: 'charger' }).expect(422)).body)).toHaveProperty('equipmentId');
    expect(reasons((await send({ instrumentId: newId() }).expect(422)).body)).toHaveProperty('instrumentId');
    expect(
      reasons((await send({ instrumentId: newId(), patterns: ['{volts}'] }).expect(422)).body),
    ).toHaveProperty(['patterns.0']);
    const charger = await addCharger(custodian);
    await addDevice(custodian, 'charger', { equipmentId: charger.id });
    const { body } = await send({ kind: 'charger', equipmentId: charger.id, name: 'Two' }).expect(422);
    expect(reasons(body)).toMatchObject({ equipmentId: expect.stringContaining('Another device') });
  });

  it('is not changed from an older page', async () => {
    const { device } = await addDevice(custodian, 'meter');
    const change = (version: number) =>
      custodian
        .put(`/api/devices/${device.id}`)
        .send({ version, name: `${device.name} b`, patterns: ['B {cells}'] });
    await change(1).expect(200);
    await change(1).expect(409);
  });
});

describe('a charge that comes from a file', () => {
  it('is kept with how its file was read, and the next file with the same columns is read the same way', async () => {
    const pack = await newPack();
    const columnsKey = `t\tV ${newId()}`;
    const ask = () => pilot.get('/api/log-reading').query({ columns: columnsKey }).expect(200);
    expect((await ask()).body).toEqual({ reading: null });
    const body = logBody(pack.id, { columnsKey });
    const { body: kept } = await pilot.post('/api/curves').send(body).expect(201);
    expect(kept).toMatchObject({ packIds: [pack.id], name: 'log.csv', deviceId: null });
    await pilot.post('/api/curves').send(body).expect(201);
    expect((await ask()).body).toEqual({ reading: body.reading });
    const charge = { ...BLANK_CHARGE, curveId: body.id };
    await pilot
      .post('/api/records')
      .send({ packId: pack.id, records: [recordBody('charge', charge)] })
      .expect(201);
  });

  it('bytes that are no curve are refused, and a curve of a pack nobody knows', async () => {
    const pack = await newPack();
    const odd = ['', 'AAAA', Buffer.from([1, 4, 200, 200, 200, 200, 7]).toString('base64'), 'no base64!'];
    for (const packed of odd) await pilot.post('/api/curves').send(logBody(pack.id, { packed })).expect(422);
    const { status } = await pilot.post('/api/curves').send(logBody(newId()));
    expect(status).toBe(422);
  });
});

describe('what is no line', () => {
  it('is refused with a reason, keeps the connection, and writes nothing', async () => {
    const { device, secret } = await addDevice(custodian, 'meter');
    const meter = await TestDevice.connect(door.url, secret);
    const lines: [unknown, RegExp][] = [
      ['{"type":"reading","n":1,"cel', /no JSON/],
      ['[1,2]', /type|object|expected/i],
      [{ type: 'spoon', n: 1 }, /type is/],
      [{ type: 'reading', n: 1 }, /contact/i],
      [{ ...reading({ cellsMv: [3.84, 3.83] }), n: 1 }, /whole|mV/],
      [{ ...reading({ cellsMv: [38400] }), n: 1 }, /cell/i],
      [{ ...reading({ cellsMv: [] }), n: 1 }, /No cell/],
      [{ type: 'reading', n: 1, contact: 1 }, /cells or the sum/],
      [{ ...reading({ volts: 3 }), n: 1 }, /not known/],
      [
        {
          type: 'charge',
          n: 1,
          channel: '1',
          state: 'running',
          seconds: 1,
          amps: 1,
          movedMah: 1,
          cellsMv: four,
        },
        /line of a charger/,
      ],
      ['x'.repeat(9_000), /too long/],
    ];
    for (const [line, why] of lines) {
      const before = meter.answers.length;
      meter.raw(line);
      await meter.until(() => meter.answers.length > before);
      const answer = meter.answers.at(-1) as Extract<DeviceAnswerLine, { type: 'refused' }>;
      expect(answer.type).toBe('refused');
      expect(`${answer.field} ${answer.message}`).toMatch(why);
    }
    expect(await meter.told(reading())).toMatchObject({ type: 'taken' });
    expect((await shown(device.id)).problem).toMatch(/too long/);
    await meter.close();
  });

  it('is dropped where there are too many, and told so once a second', async () => {
    const { secret } = await addDevice(custodian, 'meter');
    const meter = await TestDevice.connect(door.url, secret);
    const n = meter.say(reading());
    await meter.until(() => meter.answers.length > 1);
    // A line that was taken before is only answered: no machine is too slow to hear too many of them.
    const began = performance.now();
    for (let i = 0; i < 200; i += 1) meter.raw({ n, ...reading() });
    await meter.until(() => meter.answers.some(({ type }) => type === 'refused'));
    await new Promise((done) => setTimeout(done, 300));
    const refusals = meter.answers.filter(({ type }) => type === 'refused').length;
    expect(refusals).toBeLessThanOrEqual(1 + Math.ceil((performance.now() - began) / 1_000));
    await new Promise((done) => setTimeout(done, 1_100));
    expect(await meter.told(reading({ contact: 9 }))).toMatchObject({ type: 'taken' });
    await meter.close();
  });

  it('may have a clock that is wrong', async () => {
    const { device, secret } = await addDevice(custodian, 'meter');
    const meter = await TestDevice.connect(door.url, secret, { now: NOW - 5 * HOUR_MS });
    await meter.told(reading({ at: NOW - 5 * HOUR_MS - MINUTE_MS }));
    expect((await shown(device.id)).meter!.at).toBe(NOW - MINUTE_MS);
    await meter.told(reading({ at: NOW + 9 * HOUR_MS, contact: 2 }));
    expect((await shown(device.id)).meter!.at).toBe(NOW);
    await meter.close();
  });

  it.each([
    ['charger', 10_000, 100],
    ['memory-reader', 3_000, 20],
  ] as const)(
    'is whatever a generator thinks of a %s: %i lines, no record, no closed door',
    async (kind, numRuns, taken) => {
      const before = await bench.records();
      const { secret } = await addDevice(custodian, kind);
      const value = fc.oneof(
        fc.integer(),
        fc.double(),
        fc.string(),
        fc.constantFrom(null, true, [], {}, four, 'running', '1'),
        fc.array(fc.integer({ min: -9, max: 9_999 }), { maxLength: 30 }),
      );
      const line = fc.record(
        {
          type: fc.constantFrom('reading', 'charge', 'memory', 'text', 'unplugged', 'hello'),
          n: fc.oneof(fc.integer({ min: 1, max: 1e9 }), value),
          channel: fc.oneof(fc.constantFrom('1', '2'), value),
          state: fc.oneof(fc.constantFrom('idle', 'running', 'ended'), value),
          seconds: value,
          amps: value,
          movedMah: value,
          cellsMv: value,
          contact: value,
          text: fc.string({ maxLength: 500 }),
          storage: value,
          cycles: value,
          updating: value,
        },
        { requiredKeys: ['type', 'n'] },
      );
      const memory = fc.record({
        type: fc.constant('memory'),
        n: fc.integer({ min: 1, max: 1e6 }),
        contact: fc.integer({ min: 0, max: 9 }),
        storage: fc.record({ isOn: fc.boolean(), afterHours: fc.integer({ min: 10, max: 250 }) }),
        cycles: fc.integer({ min: -1, max: 200 }),
      });
      const charge = fc.record({
        type: fc.constant('charge'),
        n: fc.integer({ min: 1, max: 1e6 }),
        channel: fc.constantFrom('1', '2', 'A'),
        state: fc.constantFrom('idle', 'running', 'ended'),
        seconds: fc.integer({ min: 0, max: 9_999 }),
        amps: fc.double({ min: 0, max: 500, noNaN: true }),
        movedMah: fc.integer({ min: 0, max: 9_999 }),
        cellsMv: fc.array(fc.integer({ min: 0, max: 9_999 }), { minLength: 1, maxLength: 24 }),
      });
      const sound: fc.Arbitrary<object> = kind === 'charger' ? charge : memory;
      const nearly = fc.tuple(sound, fc.option(line)).map(([one, odd]) => JSON.stringify({ ...odd, ...one }));
      const any = fc.oneof(
        nearly,

        line.map((one) => JSON.stringify(one)),
        fc.json(),
        fc.string({ maxLength: 300 }),
      );
      const samples = fc.sample(any, { numRuns, seed: 7 });
      // The door lets in twenty lines a second; with a clock that runs as fast as they come, each of them is heard.
      let elapsed = 0;
      const here = {
        entities: () => test.app.database.entities(),
        now: () => NOW,
        elapsed: () => (elapsed += 60),
      };
      const answers = { taken: 0, refused: 0, welcome: 0, end: 0, stop: 0, write: 0 };
      const conversation = new Conversation(
        here,
        ({ type }) => (answers[type] += 1),
        () => undefined,
      );
      await conversation.hear(JSON.stringify({ type: 'hello', protocol: 1, key: secret, run: newId() }));
      for (const one of samples) await conversation.hear(one.replaceAll('\n', ' '));
      expect(answers).toMatchObject({ welcome: 1, end: 0 });
      expect(answers.refused).toBeGreaterThan(numRuns / 2);
      expect(answers.taken).toBeGreaterThan(taken);
      expect(await bench.records()).toBe(before);
      await pilot.get('/api/devices').expect(200);
      const after = await TestDevice.connect(door.url, secret);
      expect(after.answers[0]).toMatchObject({ type: 'welcome' });
      await after.close();
    },
  );
});

describe('a device that talks fast', () => {
  it('has twenty lines a second, and those of five seconds at once', async () => {
    const { secret } = await addDevice(custodian, 'meter');
    let elapsed = 1_000_000;
    const answers: DeviceAnswerLine[] = [];
    const conversation = new Conversation(
      { entities: () => test.app.database.entities(), now: () => NOW, elapsed: () => elapsed },
      (line) => answers.push(line),
      () => undefined,
    );
    await conversation.hear(JSON.stringify({ type: 'hello', protocol: 1, key: secret, run: newId() }));
    let n = 0;
    const says = async (lines: number) => {
      answers.length = 0;
      for (let i = 0; i < lines; i += 1)
        await conversation.hear(JSON.stringify({ type: 'unplugged', n: (n += 1) }));
      return [answers.filter(({ type }) => type === 'taken').length, answers.length];
    };
    // The lines of five seconds reach a busy server in one bunch.
    expect(await says(100)).toEqual([100, 100]);
    // What comes beyond them is refused once, and is not numbered as taken.
    expect(await says(30)).toEqual([0, 1]);
    expect(answers[0]).toMatchObject({
      type: 'refused',
      message: expect.stringContaining('20 lines a second'),
    });
    elapsed += 1_000;
    expect(await says(25)).toEqual([20, 21]);
    for (let second = 0; second < 10; second += 1) {
      elapsed += 1_000;
      expect(await says(20)).toEqual([20, 20]);
    }
    // A night of silence saves no more than five seconds.
    elapsed += 8 * 3_600_000;
    expect(await says(150)).toEqual([100, 101]);
    await conversation.gone();
  });
});

describe('a device that prints lines', () => {
  const lines = async (patterns: string[], kind: 'meter' | 'charger' = 'meter') => {
    const { device, secret } = await addDevice(custodian, kind, { patterns });
    const open = await TestDevice.connect(door.url, secret);
    return { id: device.id, open, print: (text: string) => open.told({ type: 'text', text }) };
  };
  it('is read by its patterns; another pack is another contact', async () => {
    const { id, open, print } = await lines(['BAT{skip}: {cells}', 'sum {pack}']);
    await print('BAT A: 3,841 3,832 3,850 3,840');
    const first = (await shown(id)).meter!;
    expect(first.cellsMv).toEqual(four);
    await print('BAT A: 3,842 3,832 3,850 3,840');
    expect((await shown(id)).meter!.readingId).toBe(first.readingId);
    await print('rubbish ###');
    await print('BAT A: 3,702 3,704');
    expect((await shown(id)).meter).toMatchObject({ cellsMv: [3702, 3704] });
    expect((await shown(id)).meter!.readingId).not.toBe(first.readingId);
    await print('BAT A: 0,000 0,000');
    expect((await shown(id)).meter).toBeNull();
    const { body } = await custodian.get(`/api/devices/${id}/lines`).expect(200);
    expect((body as { lines: string[] }).lines[0]).toBe('BAT A: 3,841 3,832 3,850 3,840');
    await open.close();
  });

  it('may print a line a cell, and is not believed in what it says wrong', async () => {
    const { id, open, print } = await lines(['C{no}={cell}']);
    for (const line of ['C1=3.841', 'C2=3.832', 'C1=3.842', 'C2=3.832', 'C1=99.9']) await print(line);
    expect((await shown(id)).meter!.cellsMv).toEqual([3842, 3832]);
    expect(await print('C2=1')).toMatchObject({ type: 'taken' });
    expect(await print('C1=3.8')).toMatchObject({ type: 'refused' });
    await open.close();
  });

  it('reads by a pattern that was changed meanwhile', async () => {
    const { id, open, print } = await lines(['A {cells}']);
    await print('B 3.841 3.832');
    expect((await shown(id)).meter).toBeNull();
    const { version, name } = await shown(id);
    await custodian
      .put(`/api/devices/${id}`)
      .send({ version, name, patterns: ['B {cells}'] })
      .expect(200);
    const { meter } = await until(
      async () => {
        await print('B 3.841 3.832');
        return shown(id);
      },
      (now) => now.meter !== null,
    );
    expect(meter!.cellsMv).toEqual([3841, 3832]);
    await open.close();
  });
});

describe('a charger', () => {
  const running = async (can: string[] = []) => {
    const charge = await runningCharge(bench, `DV-${(tags += 1)}`);
    return { ...charge, open: await TestDevice.connect(door.url, charge.secret, { can }) };
  };
  const line = (more: object = {}) => ({
    type: 'charge',
    channel: '1',
    state: 'running',
    seconds: 10,
    cellsMv: [3700, 3701, 3699, 3700],
    amps: 3.3,
    movedMah: 12,
    ...more,
  });
  const curveOf = async (jobId: string) =>
    (await pilot.get(`/api/charging/jobs/${jobId}/curve`).expect(200)).body as CurveAnswer;

  it('draws the job that runs on its channel, and the record of its end names the curve', async () => {
    const { open, jobId, pack } = await running();
    const sim = newSimPack({ chemistry: 'lipo', series: 4, labelAh: 3.3, mv: 3_600 }, seededRandom(5));
    const random = seededRandom(6);
    const settings = { amps: 3.3, topMv: 4200, cutOffC: 0.05, balanceA: 0.4 };
    let now = sim;
    let moved = 0;
    let seconds = 0;
    const said = (mv: readonly number[], amps: number, state = 'running') =>
      line({
        state,
        seconds,
        cellsMv: mv.map((one) => Math.round(one + bell(random))),
        amps: Math.round(amps * 100) / 100,
        movedMah: Math.round(moved * 1000),
      });
    // A connection has twenty lines a second: a charge of an hour is told in lines of twenty seconds, and the clock of the test does not wait.
    open.say(said(chargeFor(now, { ...settings, amps: 0 }, 0).mv, 0));
    for (let i = 0; ; i += 1) {
      seconds += 20;
      const moment = chargeFor(now, settings, 20);
      now = moment.pack;
      moved += moment.movedAh;
      if (moment.full) break;
      open.say(said(moment.mv, moment.amps));
      if (i % 15 === 14) await new Promise((done) => setTimeout(done, 1_000));
    }
    await new Promise((done) => setTimeout(done, 1_000));
    expect(await open.told(said(chargeFor(now, { ...settings, amps: 0 }, 0).mv, 0, 'ended'))).toMatchObject({
      type: 'taken',
    });
    const curve = await curveOf(jobId);
    expect(curve.packIds).toEqual([pack.id]);
    expect(curve.points.at(-1)!.seconds).toBe(seconds);
    expect(Math.abs(curve.capacityMah!.value / 3_333 - 1)).toBeLessThan(0.03);
    expect(curve.bytes).toBeLessThan(4_000);
    expect(open.answers.every(({ type }) => type !== 'refused')).toBe(true);
    await pilot
      .post(`/api/charging/jobs/${jobId}/end`)
      .send(endBody([pack.id]))
      .expect(200);
    const { body } = await pilot.get(`/api/packs/${pack.id}`).expect(200);
    const charge = (body as PackDetails).records.find(({ kind }) => kind === 'charge');
    expect(charge!.payload).toMatchObject({ curveId: curve.id });
    expect(((await pilot.get(`/api/curves/${curve.id}`).expect(200)).body as CurveAnswer).jobId).toBe(jobId);
    await open.close();
  });

  it('is stopped by the register itself where a charge must not go on, once', async () => {
    const { id, open, secret } = await running(['stop']);
    await open.told(line());
    await open.told(line({ seconds: 20, cellsMv: [4215, 4190, 4190, 4190] }));
    open.say(line({ seconds: 30, cellsMv: [4216, 4190, 4190, 4190] }));
    const stopped = () => open.answers.filter(({ type }) => type === 'stop');
    await until(stopped, (told) => told.length > 0);
    // A second one would come with it, or soon after.
    await new Promise((done) => setTimeout(done, 100));
    const stops = stopped();
    expect(stops).toEqual([{ type: 'stop', channel: '1', why: expect.stringContaining('above full') }]);
    const [channel] = (await shown(id)).channels;
    expect(channel).toMatchObject({ stopped: true, alarms: [{ code: 'over-top', asks: 'stop' }] });
    await open.close();
    // Why it was stopped outlives the connection, and nobody is told to stop again.
    const again = await TestDevice.connect(door.url, secret, { can: ['stop'], run: open.run });
    again.raw({ ...line({ seconds: 40, state: 'ended', amps: 0 }), n: 20 });
    await again.until(() => again.answers.some((one) => one.type === 'taken' && one.n === 20));
    expect((await shown(id)).channels[0]).toMatchObject({ stopped: true, alarms: [{ code: 'over-top' }] });
    expect(again.answers.filter(({ type }) => type === 'stop')).toEqual([]);
    await again.close();
  });

  it('that cannot be stopped is only warned of; one that can is stopped by a person', async () => {
    const dumb = await running();
    await dumb.open.told(line({ setting: { chemistry: 'lihv', topMv: 4350 } }));
    expect((await shown(dumb.id)).channels[0]).toMatchObject({
      stopped: false,
      alarms: [{ code: 'setting' }],
    });
    await pilot.post(`/api/devices/${dumb.id}/stop`).send({ channel: '1' }).expect(409);
    await dumb.open.close();
    const clever = await running(['stop']);
    await pilot.post(`/api/devices/${clever.id}/stop`).send({ channel: '1' }).expect(204);
    await clever.open.until(() => clever.open.answers.some(({ type }) => type === 'stop'));
    await clever.open.close();
  });

  it('goes on with its curve after the line was lost, or its own count began again', async () => {
    const { open, jobId, secret } = await running();
    await open.told(line());
    await open.told(line({ seconds: 60, state: 'idle', amps: 0 }));
    await open.close();
    const again = await TestDevice.connect(door.url, secret, { run: open.run });
    again.say({ ...line(), n: 1 });
    again.raw({ ...line({ seconds: 120 }), n: 10 });
    await again.until(() => again.answers.some((one) => one.type === 'taken' && one.n === 10));
    expect((await curveOf(jobId)).points.map(({ seconds }) => seconds)).toEqual([10, 60, 120]);
    again.raw({ ...line({ seconds: 5, state: 'idle' }), n: 11 });
    await again.until(() => again.answers.some((one) => one.type === 'taken' && one.n === 11));
    expect((await curveOf(jobId)).points.at(-1)!.seconds).toBe(125);
    await again.close();
  });

  it('that charges what no job stands for is shown, and draws nothing', async () => {
    const { id, open, jobId } = await running();
    await open.told(line({ channel: '2' }));
    expect((await shown(id)).channels).toMatchObject([{ channel: '2', jobId: null, alarms: [] }]);
    await pilot.get(`/api/charging/jobs/${jobId}/curve`).expect(404);
    await open.close();
  });
});
