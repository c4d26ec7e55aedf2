import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import { WebSocket } from 'ws';
import { PROTOCOL_VERSION } from '../../contract';
import type { DeviceAnswerLine, DeviceKind, NewDeviceAnswer } from '../../contract';
import { packedCurve } from '../../core/charging';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { addCharger, gateBody, jobBody, spanForm } from './bench';
import { addPack, addType, inspectionPayload, NOW, openTestApp, readingBody, recordBody } from './testApp';
import type { TestApp } from './testApp';
import { until } from './until';

/** A socket for instruments in front of a test's application. */
export async function openSocket({
  app,
}: Pick<TestApp, 'app'>): Promise<{ url: string; close(): Promise<void> }> {
  const server = createServer(app.express);
  server.on('upgrade', app.upgrade);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return {
    url: `ws://127.0.0.1:${(server.address() as AddressInfo).port}/api/instruments`,
    close: () => new Promise((done) => server.close(() => done())),
  };
}

/** A register with a door, somebody at the bench this evening, and a type of pack; and what a test asks again and again. */
export async function openBenchWithDoor() {
  const test = await openTestApp();
  const custodian = await test.as('custodian');
  const pilot = await test.as('pilot');
  const door = await openSocket(test);
  const typeId = (await addType(custodian)).id;
  await pilot.post('/api/attendance').send(spanForm(test.people.pilot)).expect(201);
  return {
    test,
    custodian,
    pilot,
    door,
    typeId,
    /** How many records the ledgers hold. */
    records: async (): Promise<number> => {
      const [row]: { count: string }[] = await test.app.database
        .entities()
        .execute('select count(*) from record');
      return Number(row!.count);
    },
    close: async () => {
      await test.close();
      await door.close();
    },
  };
}

/** A pack that is charged on channel 1 of a charger with a device, as the register has it; nothing has told of it yet. */
export async function runningCharge({ custodian, pilot, test, typeId }: BenchWithDoor, tag: string) {
  const charger = await addCharger(custodian);
  const { device, secret } = await addDevice(custodian, 'charger', { equipmentId: charger.id });
  const pack = await addPack(custodian, typeId, tag);
  const records = [
    recordBody('inspection', inspectionPayload(), NOW - 2 * HOUR_MS),
    readingBody([3600, 3600, 3600, 3600]),
  ];
  await custodian.post('/api/records').send({ packId: pack.id, records }).expect(201);
  const job = jobBody(charger.id, [pack.id], { end: NOW + 85 * MINUTE_MS });
  await pilot.post('/api/charging/jobs').send(job).expect(201);
  await pilot.post(`/api/charging/jobs/${job.id}/start`).send(gateBody(test.people.pilot)).expect(200);
  return { id: device.id, secret, pack, jobId: job.id };
}

export type BenchWithDoor = Awaited<ReturnType<typeof openBenchWithDoor>>;

/** A device as the register knows it, with its key. */
export async function addDevice(
  agent: TestAgent,
  kind: DeviceKind,
  more: object = {},
): Promise<NewDeviceAnswer> {
  const name = `Device ${newId()}`;
  const instrumentId =
    kind === 'meter'
      ? ((await agent.post('/api/instruments').send({ name, errorMv: 4 }).expect(201)).body as { id: string })
          .id
      : null;
  const equipmentId = kind === 'charger' && !('equipmentId' in more) ? (await addCharger(agent)).id : null;
  const form = { id: newId(), name, kind, instrumentId, equipmentId, patterns: [], ...more };
  return (await agent.post('/api/devices').send(form).expect(201)).body as NewDeviceAnswer;
}

/** An instrument that is connected: it says lines, and remembers what it was answered. */
export class TestDevice {
  readonly answers: DeviceAnswerLine[] = [];
  readonly run: string;
  #n = 0;
  #closed: Promise<void>;

  private constructor(
    private readonly socket: WebSocket,
    run: string,
  ) {
    this.run = run;
    socket.on('message', (data) =>
      this.answers.push(JSON.parse((data as Buffer).toString()) as DeviceAnswerLine),
    );
    this.#closed = new Promise((done) => socket.on('close', () => done()));
  }

  /** Connects and says hello; what was answered is in `answers`. */
  static async connect(url: string, key: string, hello: object = {}): Promise<TestDevice> {
    const socket = new WebSocket(url);
    await new Promise<void>((done, fail) => socket.on('open', done).on('error', fail));
    const { run = newId() } = hello as { run?: string };
    const device = new TestDevice(socket, run);
    device.raw({ type: 'hello', protocol: PROTOCOL_VERSION, key, run, ...hello });
    await device.until(() => device.answers.length > 0);
    return device;
  }

  /** Sends a line with the next number. */
  say(line: object): number {
    this.#n += 1;
    this.raw({ n: this.#n, ...line });
    return this.#n;
  }

  /** Sends a line and waits until it was taken or refused. */
  async told(line: object): Promise<DeviceAnswerLine> {
    const before = this.answers.length;
    this.say(line);
    await this.until(() => this.answers.length > before);
    return this.answers.at(-1)!;
  }

  raw(line: unknown): void {
    this.socket.send(typeof line === 'string' ? line : JSON.stringify(line));
  }

  async until(holds: () => boolean): Promise<void> {
    await until(
      () => this.answers.slice(-5),
      () => holds(),
    );
  }

  async close(): Promise<void> {
    this.socket.close();
    await this.#closed;
  }

  get closed(): Promise<void> {
    return this.#closed;
  }
}

/** A log of twenty minutes as a browser sends it. */
export const logBody = (packId: string, more: object = {}) => ({
  id: newId(),
  packId,
  name: 'log.csv',
  columnsKey: 't\tc1\tc2\tc3\tc4\tA',
  reading: { matching: ['time', 'cell', 'cell', 'cell', 'cell', 'amps'], unit: 's', decimals: 'point' },
  packed: Buffer.from(
    packedCurve(
      Array.from({ length: 20 }, (_, i) => ({
        seconds: i * 60,
        mv: Array<number>(4).fill(3700 + 20 * i),
        amps: 2,
        movedMah: i * 33,
        celsius: null,
      })),
    ),
  ).toString('base64'),
  ...more,
});
