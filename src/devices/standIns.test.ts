import type TestAgent from 'supertest/lib/agent';
import type { CurveAnswer, DeviceAnswer } from '../contract';
import { capacityAh, percentOf } from '../core/cellsim';
import { lipo4S } from '../server/testing/bench';
import { addPack, recordBody } from '../server/testing/testApp';
import { addDevice, openBenchWithDoor, runningCharge } from '../server/testing/device';
import type { BenchWithDoor } from '../server/testing/device';
import { until } from '../server/testing/until';
import type { ChargerFault } from './standCharger';
import { StandIns } from './standIns';
import type { MeterFault } from './standMeter';
import type { ReaderFault } from './standReader';

/** Each way a stand-in can misbehave, through the whole chain: instrument, door, database, and what a browser is told. */

let bench: BenchWithDoor;
let custodian: TestAgent;
let pilot: TestAgent;
let door: BenchWithDoor['door'];
let tags = 0;
const open: StandIns[] = [];

beforeAll(async () => {
  bench = await openBenchWithDoor();
  ({ custodian, pilot, door } = bench);
});
afterAll(async () => {
  for (const one of open) one.close();
  await bench.close();
});

async function untilShown(id: string, holds: (device: DeviceAnswer) => boolean): Promise<DeviceAnswer> {
  const shown = async () =>
    ((await pilot.get('/api/devices').expect(200)).body as DeviceAnswer[]).find((one) => one.id === id)!;
  return until(shown, holds);
}

describe('the meter', () => {
  const withFault = async (fault: MeterFault) => {
    const { device, secret } = await addDevice(custodian, 'meter');
    const packs = [
      { tag: 'SI-1', chemistry: 'lipo', series: 4, capacityAh: 3.3, cellsMv: [3841, 3832, 3850, 3790] },
    ] as const;
    const standIns = new StandIns({ url: door.url, meterKey: secret, chargers: [], packs });
    open.push(standIns);
    standIns.meter!.fault = fault;
    await untilShown(device.id, ({ isOpen }) => isOpen);
    standIns.read('SI-1');
    return { id: device.id, standIns };
  };
  it.each<[MeterFault, number, RegExp | null]>([
    ['none', 4, null],
    ['repeats', 4, null],
    ['rubbish', 4, /no JSON/],
    ['half lines', 4, /no JSON/],
    ['loose plug', 3, null],
  ])('%s', async (fault, cells, problem) => {
    const before = await bench.records();
    const { id, standIns } = await withFault(fault);
    const seen = await untilShown(
      id,
      (one) => one.meter !== null && (problem === null || one.problem !== null),
    );
    expect(seen.meter!.cellsMv).toHaveLength(cells);
    expect(Math.abs(seen.meter!.cellsMv![0]! - 3841)).toBeLessThan(15);
    if (problem) expect(seen.problem).toMatch(problem);
    standIns.read(null);
    await untilShown(id, ({ meter }) => meter === null);
    expect(await bench.records()).toBe(before);
    standIns.close();
  });
});

describe('the charger', () => {
  /** A job that runs in the register, and the stand-in set as its card says, started at sixty times the pace. */
  const charging = async ({
    fault = 'none' as ChargerFault,
    setting = {},
    cellsMv = [3600, 3600, 3600, 3600] as number[] | null,
  }) => {
    const { id, secret, pack, jobId } = await runningCharge(bench, `SC-${(tags += 1)}`);
    const standIns = new StandIns({
      url: door.url,
      meterKey: null,
      chargers: [{ name: 'C', key: secret, channels: ['1', '2'], watts: { each: 300, all: 300 } }],
      packs: [{ tag: pack.tag, chemistry: 'lipo', series: 4, capacityAh: 3.3, cellsMv }],
    });
    open.push(standIns);
    standIns.speed = 300;
    const { charger: stand } = standIns.chargers[0]!;
    await untilShown(id, ({ isOpen }) => isOpen);
    standIns.plug(stand, '1', pack.tag);
    Object.assign(stand.channel('1')!, { fault, setting: { ...lipo4S, ...setting } });
    stand.start('1');
    return { id, standIns, stand, pack, jobId };
  };
  const channel = ({ channels }: DeviceAnswer) => channels.find((one) => one.channel === '1');
  const codes = (device: DeviceAnswer) => (channel(device)?.alarms ?? []).map(({ code }): string => code);
  const curve = async (jobId: string) =>
    (await pilot.get(`/api/charging/jobs/${jobId}/curve`).expect(200)).body as CurveAnswer;

  it('charges to its end with nobody called, and its curve measures the pack', async () => {
    const { id, standIns, pack, jobId } = await charging({});
    const alarms = new Set<string>();
    const done = await untilShown(id, (device) => {
      for (const code of codes(device)) alarms.add(code);
      return channel(device)?.state === 'ended' && channel(device)?.point?.amps === 0;
    });
    expect(channel(done)).toMatchObject({ phase: 'ended', stopped: false });
    expect([...alarms]).toEqual([]);
    const drawn = await curve(jobId);
    const truth = standIns.truth(pack.tag);
    expect(percentOf(truth.cells[0]!)).toBeGreaterThan(98);
    const capacity = (truth.cells.reduce((sum, cell) => sum + capacityAh(cell), 0) / 4) * 1000;
    expect(Math.abs(drawn.capacityMah!.value / capacity - 1)).toBeLessThan(0.03);
    standIns.close();
  });

  it.each<[ChargerFault, object, string, boolean]>([
    ['never stops', {}, 'over-top', true],
    ['none', { topMv: 4350, chemistry: 'lihv' }, 'setting', true],
    ['none', { amps: 6.6 }, 'setting', true],
  ])('that %s, set to %j, is stopped by the register: %s', async (fault, setting, code, stops) => {
    const { id, standIns, stand } = await charging({ fault, setting });
    const seen = await untilShown(
      id,
      (device) => codes(device).includes(code) && channel(device)?.stopped === stops,
    );
    expect(channel(seen)).toMatchObject({ stopped: true });
    await untilShown(id, (device) => channel(device)?.state === 'ended');
    expect(stand.channel('1')!.state).toBe('ended');
    standIns.close();
  });

  it.each<[ChargerFault, object, number[] | null, string, RegExp]>([
    ['times out', {}, [3600, 3600, 3600, 3600], 'error', /TIME LIMIT/],
    ['none', { cells: 3 }, [3600, 3600, 3600, 3600], 'error', /CELL COUNT/],
    ['none', {}, [3000, 3600, 3600, 3600], 'error', /LOW VOLTAGE/],
  ])('that %s, set to %j, with %j, says so: %s', async (fault, setting, cellsMv, code, text) => {
    const { id, standIns } = await charging({ fault, setting, cellsMv });
    const seen = await untilShown(id, (device) => codes(device).includes(code));
    expect(JSON.stringify(channel(seen)!.alarms)).toMatch(text);
    standIns.close();
  });

  it('that gives less than it is set to is seen to, and is no alarm', async () => {
    const { id, standIns } = await charging({ fault: 'gives less' });
    const seen = await untilShown(id, (device) => channel(device)?.phase === 'reduced');
    expect(codes(seen)).toEqual([]);
    standIns.close();
  });

  it('that ends after the quick phase leaves a curve that says so', async () => {
    const { id, standIns, jobId } = await charging({
      fault: 'quick phase only',
      cellsMv: [4100, 4100, 4100, 4100],
    });
    // Slowly, so that it is seen in the moment a cell comes to the top.
    standIns.speed = 20;
    await untilShown(id, (device) => channel(device)?.state === 'ended');
    const { points } = await curve(jobId);
    expect(points.findLast(({ amps }) => amps > 0.1)!.amps).toBeGreaterThan(1);
    standIns.close();
  });

  it.each<ChargerFault>(['loses contact', 'repeats', 'rubbish'])(
    'that %s still draws one whole curve',
    async (fault) => {
      const { id, standIns, jobId, stand } = await charging({ fault });
      await untilShown(id, (device) => (channel(device)?.point?.seconds ?? 0) > 2_400);
      const seconds = (await curve(jobId)).points.map((point) => point.seconds);
      expect(seconds).toEqual([...seconds].sort((a, b) => a - b));
      expect(new Set(seconds).size).toBe(seconds.length);
      expect((await curve(jobId)).points.every(({ mv, amps }) => mv.length === 4 && amps < 4)).toBe(true);
      // Nothing of what was said while the line was broken is missing.
      expect(Math.max(...seconds.slice(1).map((one, i) => one - seconds[i]!))).toBeLessThan(600);
      expect(stand.channel('1')!.state).toBe('running');
      standIns.close();
    },
  );
});

describe('the reader of smart packs', () => {
  /** A smart pack on a reader that misbehaves in one way. */
  const withFault = async (fault: ReaderFault) => {
    const { device, secret } = await addDevice(custodian, 'memory-reader');
    const smart = { autoStorage: true, autoStorageAfterHours: 48 };
    const [tag, other] = [`SM-${(tags += 1)}`, `SM-${(tags += 1)}`];
    const pack = await addPack(custodian, bench.typeId, tag, { smart });
    const otherPack = await addPack(custodian, bench.typeId, other, { smart });
    const facts = { chemistry: 'lipo', series: 4, capacityAh: 3.3, cellsMv: null } as const;
    const standIns = new StandIns({
      url: door.url,
      meterKey: null,
      readerKey: secret,
      chargers: [],
      packs: [
        { ...facts, tag, ownCycles: 40 },
        { ...facts, tag: other, ownCycles: 7 },
      ],
    });
    open.push(standIns);
    standIns.reader!.fault = fault;
    await untilShown(device.id, ({ isOpen }) => isOpen);
    standIns.reader!.plug(tag);
    const save = (to: typeof pack, { memory: shows }: DeviceAnswer) =>
      pilot.post('/api/records').send({
        packId: to.id,
        records: [
          recordBody('memory', {
            did: 'read',
            memory: shows!.memory,
            adapterId: null,
            remarks: null,
            measured: { deviceId: device.id, readingId: shows!.readingId },
          }),
        ],
      });
    return { id: device.id, reader: standIns.reader!, pack, otherPack, save, standIns };
  };
  const set = (id: string, { memory: shows }: DeviceAnswer, settings: object) =>
    custodian.post(`/api/devices/${id}/write`).send({ readingId: shows!.readingId, ...settings });

  it.each<[ReaderFault, RegExp | null]>([
    ['none', null],
    ['repeats', null],
    ['rubbish', /no JSON/],
  ])(
    'that %s is read, set and read back, and nothing of it becomes a record by itself',
    async (fault, problem) => {
      const before = await bench.records();
      const { id, reader, pack, save, standIns } = await withFault(fault);
      const seen = await untilShown(
        id,
        (one) => one.memory !== null && (problem === null || one.problem !== null),
      );
      expect(seen.memory!.memory).toMatchObject({ number: `N-${pack.tag}`, cycles: 40, overDischarges: 0 });
      if (problem) expect(seen.problem).toMatch(problem);
      await set(id, seen, { storage: { isOn: true, afterHours: 24, mv: 3820 } }).expect(204);
      const back = await untilShown(id, ({ memory }) => memory?.memory.storage?.afterHours === 24);
      expect(back.memory!.readingId).not.toBe(seen.memory!.readingId);
      // What was on the reader when the settings were chosen is there no more.
      await set(id, seen, { topMv: 4100 }).expect(409);
      expect(await bench.records()).toBe(before + 2);
      await save(pack, back).expect(201);
      reader.unplug();
      await untilShown(id, ({ memory }) => memory === null);
      await set(id, back, { topMv: 4100 }).expect(409);
      standIns.close();
    },
  );

  it('that says another pack’s memory: the register knows whose it is', async () => {
    const { id, reader, pack, otherPack, save, standIns } = await withFault('none');
    const mine = await untilShown(id, ({ memory }) => memory?.memory.number === `N-${pack.tag}`);
    await save(pack, mine).expect(201);
    reader.fault = 'says another pack’s memory';
    reader.plug(otherPack.tag);
    const wrong = await untilShown(
      id,
      ({ memory }) => memory !== null && memory.readingId !== mine.memory!.readingId,
    );
    expect(wrong.memory!.memory.number).toBe(`N-${pack.tag}`);
    const { body } = await save(otherPack, wrong).expect(422);
    expect(JSON.stringify(body)).toContain(`the memory of ${pack.tag}`);
    standIns.close();
  });

  it('that does not keep what is written shows the old settings', async () => {
    const { id, standIns } = await withFault('does not keep what is written');
    const seen = await untilShown(id, ({ memory }) => memory !== null);
    await set(id, seen, { storage: { isOn: true, afterHours: 24 } }).expect(204);
    await new Promise((done) => setTimeout(done, 1_500));
    expect((await untilShown(id, ({ memory }) => memory !== null)).memory!.memory.storage).toMatchObject({
      afterHours: 120,
    });
    standIns.close();
  });

  it('that has no data contact shows nothing, and says nothing of faults', async () => {
    const { id, standIns } = await withFault('has no data contact');
    await new Promise((done) => setTimeout(done, 1_500));
    expect((await untilShown(id, ({ isOpen }) => isOpen)).memory).toBeNull();
    standIns.close();
  });

  it('an update is waited for, and puts every setting back', async () => {
    const { id, reader, standIns } = await withFault('none');
    const seen = await untilShown(id, ({ memory }) => memory !== null);
    await set(id, seen, { storage: { isOn: true, afterHours: 24 } }).expect(204);
    await untilShown(id, ({ memory }) => memory?.memory.storage?.afterHours === 24);
    reader.update();
    const during = await untilShown(id, ({ memory }) => (memory?.updating ?? 0) > 10);
    await set(id, during, { topMv: 4100 }).expect(409);
    const after = await untilShown(
      id,
      ({ memory }) => memory?.updating === null && memory.memory.firmware === '1.05',
    );
    expect(after.memory!.memory.storage).toMatchObject({ afterHours: 120 });
    standIns.close();
  });

  it('that was changed by a hand is no reading of the device, and a plain pack has no memory', async () => {
    const { id, pack, standIns } = await withFault('none');
    const seen = await untilShown(id, ({ memory }) => memory !== null);
    const payload = (changed: object) => ({
      did: 'read',
      memory: { ...seen.memory!.memory, ...changed },
      adapterId: null,
      remarks: null,
    });
    const write = (packId: string, body: object) =>
      pilot.post('/api/records').send({ packId, records: [recordBody('memory', body)] });
    const measured = { deviceId: id, readingId: seen.memory!.readingId };
    await write(pack.id, { ...payload({ cycles: 41 }), measured }).expect(422);
    await write(pack.id, payload({ cycles: 41 })).expect(201);
    const plain = await addPack(custodian, bench.typeId, `PL-${(tags += 1)}`);
    await write(plain.id, payload({ number: null })).expect(422);
    standIns.close();
  });
});
