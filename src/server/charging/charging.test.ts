import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { ChargingAnswer, EquipmentAnswer, PackDetails, PackRow } from '../../contract';
import { demandOf, Planning } from '../../core/charging';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { EVEN_KEEL } from '../../core/testing/histories';
import {
  addCharger,
  bench,
  chargerForm,
  dayForm,
  endBody,
  gateBody,
  jobBody,
  spanForm,
} from '../testing/bench';
import {
  addPack,
  addType,
  inspectionPayload,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let typeId: string;
let charger: EquipmentAnswer;
let tags = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  typeId = (await addType(custodian)).id;
  charger = await addCharger(custodian);
});
afterAll(() => test.close());

/** A pack that rests at these volts, ready for the bench. */
async function aPack(mv = 3850, type = typeId): Promise<PackDetails> {
  const pack = await addPack(custodian, type, `C-${++tags}`);
  const cells = Array.from({ length: 4 }, () => mv);
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [readingBody(cells)] })
    .expect(201);
  return pack;
}

const records = async (packId: string) =>
  ((await custodian.get(`/api/packs/${packId}`).expect(200)).body as PackDetails).records;
const errorsOf = (body: unknown) => (body as { errors?: { field: string; message: string }[] }).errors ?? [];

async function placed(packs: readonly PackDetails[], more: object = {}): Promise<string> {
  const body = jobBody(
    charger.id,
    packs.map(({ id }) => id),
    more,
  );
  await pilot.post('/api/charging/jobs').send(body).expect(201);
  return body.id;
}

async function started(packs: readonly PackDetails[], more: object = {}): Promise<string> {
  const id = await placed(packs, more);
  await pilot.post(`/api/charging/jobs/${id}/start`).send(gateBody(test.people.pilot)).expect(200);
  return id;
}

async function free(): Promise<void> {
  for (const { id, state, packIds } of (await bench(custodian)).jobs)
    if (state === 'running')
      await custodian
        .post(`/api/charging/jobs/${id}/end`)
        .send(
          endBody(packIds, { records: packIds.map((packId) => ({ packId, id: newId(), endCellsMv: null })) }),
        );
}

describe('what stands on the bench', () => {
  it.each([
    ['facts.channels', { channels: [] }],
    ['facts.cells.lipo.most', { cells: { lipo: { least: 6, most: 2 } } }],
    ['facts.cells', { cells: {} }],
    ['facts.balanceA', { balanceA: null }],
    ['facts.stepA', { stepA: 0 }],
    ['facts.supplyId', { supplyId: newId() }],
    ['facts.modes', { modes: [] }],
  ])('a charger with a wrong %s is refused there', async (field, facts) => {
    const { body, status } = await custodian.post('/api/equipment').send(chargerForm(facts as never));
    expect([status, errorsOf(body).map((one) => one.field)]).toEqual([422, expect.arrayContaining([field])]);
  });

  it('two channels of one name, a board whose map names a cell twice, and a name that is taken', async () => {
    const [channel] = charger.facts.kind === 'charger' ? charger.facts.channels : [];
    const twice = await custodian
      .post('/api/equipment')
      .send(chargerForm({ channels: [channel!, channel!] }));
    expect(errorsOf(twice.body)[0]!.message).toBe('Two channels have the same name.');
    const board = {
      kind: 'board',
      wiring: 'series',
      ports: 3,
      connector: null,
      lead: null,
      slotCells: [1, 2, 2],
      toleranceMv: 300,
    };
    const bad = await custodian.post('/api/equipment').send({ name: 'Strip', inUse: true, facts: board });
    expect(errorsOf(bad.body)[0]!.field).toBe('facts.slotCells');
    const taken = await custodian.post('/api/equipment').send({ ...chargerForm(), name: charger.name });
    expect(errorsOf(taken.body)).toEqual([{ field: 'name', message: 'There is one of this name already.' }]);
  });

  it('an edit from an older version is refused, and what a thing is does not change', async () => {
    const made = await addCharger(custodian);
    const form = chargerForm();
    await custodian
      .put(`/api/equipment/${made.id}`)
      .send({ ...form, version: 1 })
      .expect(200);
    await custodian
      .put(`/api/equipment/${made.id}`)
      .send({ ...form, version: 1 })
      .expect(409);
    const load = { kind: 'load', amps: 5, watts: 100, connectors: [] };
    await custodian
      .put(`/api/equipment/${made.id}`)
      .send({ ...form, facts: load, version: 2 })
      .expect(422);
  });
});

describe('who is there, and what flies', () => {
  it.each([
    ['to', { to: NOW - 60 * MINUTE_MS, from: NOW - 90 * MINUTE_MS }],
    ['to', { from: NOW + 60 * MINUTE_MS, to: NOW + 30 * MINUTE_MS }],
    ['to', { to: NOW + 30 * HOUR_MS }],
    ['personId', { personId: newId() }],
  ])('hours with a wrong %s are refused there', async (field, more) => {
    const { body, status } = await custodian
      .post('/api/attendance')
      .send({ ...spanForm(test.people.officer), ...more });
    expect([status, errorsOf(body)[0]?.field]).toEqual([422, field]);
  });

  it('nobody is there twice at a time, and a pilot speaks for nobody else', async () => {
    await pilot
      .post('/api/attendance')
      .send(spanForm(test.people.pilot, 0, 60))
      .expect(201);
    const again = await pilot.post('/api/attendance').send(spanForm(test.people.pilot, 59, 90));
    expect(errorsOf(again.body)[0]!.field).toBe('from');
    await pilot
      .post('/api/attendance')
      .send(spanForm(test.people.pilot, 60, 90))
      .expect(201);
    const other = await pilot.post('/api/attendance').send(spanForm(test.people.deputy));
    expect(errorsOf(other.body)[0]!.field).toBe('personId');
  });

  it('a flying day lies ahead, wants packs of known types, and is cancelled rather than taken away', async () => {
    const yesterday = await pilot
      .post('/api/flying-days')
      .send({ ...dayForm(typeId), at: NOW - 24 * HOUR_MS });
    expect(errorsOf(yesterday.body)[0]!.field).toBe('at');
    const unknown = await pilot.post('/api/flying-days').send(dayForm(newId()));
    expect(errorsOf(unknown.body)[0]!.field).toBe('wants.0.typeId');
    const day = (await pilot.post('/api/flying-days').send(dayForm(typeId)).expect(201)).body as {
      id: string;
    };
    await pilot
      .put(`/api/flying-days/${day.id}`)
      .send({ ...dayForm(typeId), cancelled: true, version: 1 })
      .expect(200);
    await pilot
      .put(`/api/flying-days/${day.id}`)
      .send({ ...dayForm(typeId), version: 1 })
      .expect(409);
    expect((await bench(pilot)).days.find(({ id }) => id === day.id)).toMatchObject({ cancelled: true });
  });
});

describe('what the bench sees of a pack', () => {
  const seen = async (id: string) => (await bench(custodian)).packs.find((pack) => pack.id === id)!;

  it('is barred while nobody has looked at it since its flight, and free once it has cooled', async () => {
    const pack = await aPack();
    expect((await seen(pack.id)).bar).toBeNull();
    const flight = {
      pilotId: null,
      craft: null,
      minutes: 8,
      landing: null,
      usedMah: 2000,
      hottestC: 40,
      ambientC: null,
      remarks: null,
    };
    await pilot
      .post('/api/records')
      .send({ packId: pack.id, records: [recordBody('flight', flight, NOW - 50 * MINUTE_MS)] })
      .expect(201);
    const read = readingBody([3700, 3700, 3700, 3690], { at: NOW - 10 * MINUTE_MS });
    await pilot
      .post('/api/records')
      .send({ packId: pack.id, records: [read] })
      .expect(201);
    expect(await seen(pack.id)).toMatchObject({ bar: 'look-first', freeFrom: NOW + 10 * MINUTE_MS });
    const look = inspectionPayload({ occasion: 'after-use' });
    await pilot
      .post('/api/records')
      .send({ packId: pack.id, records: [recordBody('inspection', look, NOW - MINUTE_MS)] })
      .expect(201);
    expect((await seen(pack.id)).bar).toBeNull();
  });

  it('is away while somebody has it, unknown while unread, and gone once retired', async () => {
    const pack = await aPack();
    const moved = recordBody('moved', { placeId: null, holderId: test.people.pilot }, NOW - MINUTE_MS);
    await pilot
      .post('/api/records')
      .send({ packId: pack.id, records: [moved] })
      .expect(201);
    expect((await seen(pack.id)).bar).toBe('away');
    const unread = await addPack(custodian, typeId, `C-${++tags}`);
    expect((await seen(unread.id)).bar).toBe('measure-first');
  });
});

describe('the plan that is kept', () => {
  it('is checked against the register, and only the latest version may be replaced', async () => {
    await custodian.post('/api/attendance').send(spanForm(test.people.custodian)).expect(201);
    const own = (await addType(custodian)).id;
    const packs = [await aPack(4180, own), await aPack(3850, own)];
    const day = (
      await custodian
        .post('/api/flying-days')
        .send({ ...dayForm(own, 2), at: NOW + 7 * HOUR_MS })
        .expect(201)
    ).body as { id: string };
    const answer = await bench(custodian);
    const jobs = jobsOf(answer, charger);
    const mine = jobs.filter(({ packIds }) => packs.some(({ id }) => packIds.includes(id)));
    expect(mine.length).toBeGreaterThan(0);

    const late = mine.map((job) => ({
      ...job,
      start: job.start + 12 * HOUR_MS,
      end: job.end + 12 * HOUR_MS,
    }));
    const refused = await custodian
      .put('/api/charging/plan')
      .send({ version: answer.version, jobs: late, leftOutIds: [] });
    expect([refused.status, errorsOf(refused.body)[0]?.message]).toEqual([
      422,
      expect.stringContaining('nobody attends'),
    ]);

    const kept = await custodian
      .put('/api/charging/plan')
      .send({ version: answer.version, jobs, leftOutIds: [] })
      .expect(200);
    expect((kept.body as ChargingAnswer).jobs.filter(({ state }) => state === 'planned')).toHaveLength(
      jobs.length,
    );
    const other = await pilot
      .put('/api/charging/plan')
      .send({ version: answer.version, jobs: [], leftOutIds: [] });
    expect(other.status).toBe(409);
    await custodian
      .put(`/api/flying-days/${day.id}`)
      .send({ ...dayForm(own), cancelled: true, version: 1 })
      .expect(200);
  });

  it('two browsers at once keep one plan', async () => {
    const { version } = await bench(custodian);
    const sent = await Promise.all(
      [custodian, pilot].map((agent) =>
        agent.put('/api/charging/plan').send({ version, jobs: [], leftOutIds: [] }),
      ),
    );
    expect(sent.map(({ status }) => status).sort()).toEqual([200, 409]);
  });
});

function jobsOf(answer: ChargingAnswer, output: EquipmentAnswer) {
  const days = answer.days.filter(({ cancelled }) => !cancelled);
  const { packs } = demandOf(answer.packs, days, answer.attended, EVEN_KEEL);
  const planning = new Planning({
    from: NOW,
    equipment: [output],
    attended: answer.attended,
    packs,
    running: [],
    locked: [],
    lastSettings: answer.lastSettings,
    rules: EVEN_KEEL,
  });
  return planning.plan({ explained: false }).jobs.map(({ packs: ones, ...job }) => ({
    ...job,
    id: newId(),
    packIds: ones.map(({ id }) => id),
    flightAt: null,
  }));
}

describe('a job from its start to its end', () => {
  afterEach(free);

  it('starts through the gate, remembers the setting, and writes the charge as it ends', async () => {
    const pack = await aPack();
    const id = await started([pack]);
    const running = await bench(custodian);
    expect(running.jobs.find((job) => job.id === id)).toMatchObject({
      state: 'running',
      start: NOW,
      end: NOW + HOUR_MS,
      attendantId: test.people.pilot,
    });
    expect(running.lastSettings).toContainEqual({
      equipmentId: charger.id,
      channel: '1',
      setting: jobBody('', []).setting,
    });
    const end = endBody([pack.id]);
    await pilot.post(`/api/charging/jobs/${id}/end`).send(end).expect(200);
    // The same once more, from a browser that heard no answer.
    await pilot.post(`/api/charging/jobs/${id}/end`).send(end).expect(200);
    const charges = (await records(pack.id)).filter(({ kind }) => kind === 'charge');
    expect(charges).toHaveLength(1);
    expect(charges[0]).toMatchObject({
      id: end.records[0]!.id,
      payload: {
        mode: 'balance',
        charger: `${charger.name}, channel 1`,
        settings: { chemistry: 'lipo', cells: 4, topMv: 4200, currentA: 3.3 },
        movedMah: 1500,
        bench: { equipmentId: charger.id, channel: '1', jobId: id, shareMah: null },
      },
    });
  });

  it.each([
    ['three cells detected on a 4S pack', { detectedCells: 3 }, 'sees 3 of 4 cells'],
    ['another chemistry on the display', { setChemistry: 'lihv' }, 'The display says LiHV'],
    ['a difference not ticked', { confirmed: [] }, 'tick it'],
    ['nobody with it', { attendantId: null }, 'who stays with it'],
    ['polarity not looked at', { polarity: false }, 'Red is on red'],
  ])('%s: refused with the reason, and nothing runs', async (_, answers, says) => {
    const other = await addCharger(custodian);
    const id = await placed([await aPack()], { equipmentId: other.id });
    const { status, body } = await pilot
      .post(`/api/charging/jobs/${id}/start`)
      .send(gateBody(test.people.pilot, answers));
    expect([
      status,
      errorsOf(body)
        .map(({ message }) => message)
        .join(' '),
    ]).toEqual([422, expect.stringContaining(says)]);
    expect((await bench(custodian)).jobs.find((job) => job.id === id)!.state).toBe('planned');
  });

  it('a pack, a channel and a board are in one running job, whatever two browsers send', async () => {
    const [one, two] = [await aPack(), await aPack()];
    const [first, second] = [await placed([one]), await placed([two])];
    const starts = await Promise.all(
      [first, second].map((id) =>
        pilot.post(`/api/charging/jobs/${id}/start`).send(gateBody(test.people.pilot)),
      ),
    );
    expect(starts.map(({ status }) => status).sort()).toEqual([200, 409]);
    const busy = starts[0]!.status === 200 ? one : two;
    const elsewhere = await placed([busy], { channel: '2' });
    await pilot.post(`/api/charging/jobs/${elsewhere}/start`).send(gateBody(test.people.pilot)).expect(409);
  });

  it('is handed over, and a job that does not run cannot be watched or ended', async () => {
    const pack = await aPack();
    const waiting = await placed([await aPack()]);
    await pilot
      .post(`/api/charging/jobs/${waiting}/watch`)
      .send({ attendantId: test.people.deputy })
      .expect(409);
    await pilot
      .post(`/api/charging/jobs/${waiting}/end`)
      .send(endBody([pack.id]))
      .expect(409);
    const id = await started([pack]);
    const answer = await pilot
      .post(`/api/charging/jobs/${id}/watch`)
      .send({ attendantId: test.people.deputy })
      .expect(200);
    expect((answer.body as ChargingAnswer).jobs.find((job) => job.id === id)).toMatchObject({
      attendantId: test.people.deputy,
      seenAt: NOW,
    });
  });

  it.each([
    ['at', { at: NOW - 2 * HOUR_MS }],
    ['at', { at: NOW + HOUR_MS }],
    ['records', { records: [{ packId: newId(), id: newId(), endCellsMv: null }] }],
    ['ending', { ending: 'blew up' }],
  ])('an end with a wrong %s is refused there, and the job goes on', async (field, more) => {
    const pack = await aPack();
    const id = await started([pack]);
    const { status, body } = await pilot.post(`/api/charging/jobs/${id}/end`).send(endBody([pack.id], more));
    expect([status, errorsOf(body)[0]?.field]).toEqual([422, field]);
    expect((await bench(custodian)).jobs.find((job) => job.id === id)!.state).toBe('running');
    expect((await records(pack.id)).some(({ kind }) => kind === 'charge')).toBe(false);
  });

  it('a parallel board shares the charge out by capacity, and that measures nobody', async () => {
    const board = {
      kind: 'board',
      wiring: 'parallel',
      ports: 4,
      connector: 'yellow 60 A',
      lead: 'yellow 60 A',
      slotCells: [],
      toleranceMv: 50,
    };
    const { id: boardId } = (
      await custodian
        .post('/api/equipment')
        .send({ name: 'Parallel board', inUse: true, facts: board })
        .expect(201)
    ).body as EquipmentAnswer;
    const packs = [await aPack(), await aPack()];
    const id = await started(packs, { boardId, setting: { ...jobBody('', []).setting, amps: 6.6 } });
    const ends = endBody(
      packs.map((pack) => pack.id),
      { records: packs.map((pack) => ({ packId: pack.id, id: newId(), endCellsMv: null })), movedMah: 3000 },
    );
    await pilot.post(`/api/charging/jobs/${id}/end`).send(ends).expect(200);
    for (const pack of packs) {
      const charge = (await records(pack.id)).find(({ kind }) => kind === 'charge');
      expect(charge?.payload).toMatchObject({ movedMah: null, bench: { shareMah: 1500 } });
    }
  });

  it('what a field pack gave is booked on the field pack too, as an estimate that carries its charge on', async () => {
    const pack = await aPack();
    const field = await addPack(custodian, typeId, `FP-${newId().slice(-6)}`, { fieldPack: true });
    const readings = [readingBody([4190, 4190, 4190, 4190])];
    await custodian.post('/api/records').send({ packId: field.id, records: readings }).expect(201);
    const holds = async () => {
      const { body } = await custodian.get('/api/packs').query({ ids: field.id }).expect(200);
      return (body as PackRow[])[0]!.socPercent!;
    };
    const before = await holds();
    const id = await started([pack]);
    const send = (fieldPack: object) =>
      pilot.post(`/api/charging/jobs/${id}/end`).send(endBody([pack.id], { fieldPack }));
    // A pack that is no field pack, and the pack itself, feed nothing.
    for (const packId of [(await aPack()).id, pack.id])
      expect(errorsOf((await send({ packId, recordId: newId() }).expect(422)).body)[0]!.field).toBe(
        'fieldPack',
      );
    const recordId = newId();
    const end = { packId: field.id, recordId };
    const body = endBody([pack.id], { fieldPack: end });
    await pilot.post(`/api/charging/jobs/${id}/end`).send(body).expect(200);
    // Sent again after a lost answer it is booked once.
    await pilot.post(`/api/charging/jobs/${id}/end`).send(body).expect(200);
    const booked = (await records(field.id)).filter(({ kind }) => kind === 'charge');
    expect(booked).toHaveLength(1);
    expect(booked[0]!.payload).toMatchObject({
      mode: 'discharge',
      movedMah: null,
      bench: { jobId: id, shareMah: Math.round(1500 / 0.85) },
    });
    expect(await holds()).toBeLessThan(before);
  });

  it('a storage job is pending until it was read rested', async () => {
    const pack = await aPack(3600);
    const setting = { ...jobBody('', []).setting, mode: 'storage', topMv: 3800 };
    const id = await started([pack], { do: 'raise', setting });
    await pilot
      .post(`/api/charging/jobs/${id}/end`)
      .send(
        endBody([pack.id], {
          records: [{ packId: pack.id, id: newId(), endCellsMv: [3800, 3800, 3800, 3800] }],
        }),
      )
      .expect(200);
    expect((await bench(custodian)).packs.find((one) => one.id === pack.id)!.storage).toBe('pending');
  });

  it('a pack that waited on its charger is noted as taken off late', async () => {
    const pack = await aPack();
    const id = await started([pack]);
    const em = test.app.database.entities();
    await em.execute('update charge_job set start_at = ?, end_at = ? where id = ?', [
      new Date(NOW - 90 * MINUTE_MS),
      new Date(NOW - 40 * MINUTE_MS),
      id,
    ]);
    const end = endBody([pack.id], { remarks: 'cold', minutes: null });
    await pilot.post(`/api/charging/jobs/${id}/end`).send(end).expect(200);
    const charge = (await records(pack.id)).find(({ kind }) => kind === 'charge');
    expect(charge?.payload).toMatchObject({
      remarks: 'cold; taken off 40 min after its expected end',
      minutes: null,
    });
  });

  it('a job put on by hand names a charger and packs that are there', async () => {
    const unknown = await pilot.post('/api/charging/jobs').send(jobBody(newId(), [(await aPack()).id]));
    expect(errorsOf(unknown.body)[0]!.field).toBe('equipmentId');
    const nobody = await pilot.post('/api/charging/jobs').send(jobBody(charger.id, [newId()]));
    expect(errorsOf(nobody.body)[0]!.field).toBe('packIds');
  });
});
