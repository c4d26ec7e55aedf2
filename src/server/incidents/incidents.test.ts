import { v7 as newId } from 'uuid';
import type TestAgent from 'supertest/lib/agent';
import type { IncidentAnswer, IncidentRow, PackDetails, PackRow, TodayAnswer } from '../../contract';
import { answersTo } from '../../core/admission';
import { assess } from '../../core/assess';
import { HOUR_MS, MINUTE_MS } from '../../core/measure';
import { BLANK_FLIGHT, fold } from '../../core/record';
import { PRESET_RULES } from '../../core/rules';
import { packRows } from '../packs/rows';
import {
  addPack,
  addType,
  incidentBody,
  inspectionPayload,
  LIPO_4S,
  NOW,
  openTestApp,
  readingBody,
  recordBody,
  reasons,
} from '../testing/testApp';
import type { TestApp } from '../testing/testApp';

let test: TestApp;
let custodian: TestAgent;
let pilot: TestAgent;
let typeId: string;
let made = 0;

beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  pilot = await test.as('pilot');
  typeId = (await addType(custodian)).id;
});
afterAll(() => test.close());

/** A sound pack, read an hour before anything happens to it. */
async function soundPack(): Promise<PackDetails> {
  const pack = await addPack(custodian, typeId, `CR-${++made}`);
  const record = readingBody([3800, 3800, 3800, 3800], { at: NOW - 10 * HOUR_MS });
  await custodian
    .post('/api/records')
    .send({ packId: pack.id, records: [record] })
    .expect(201);
  return pack;
}
const row = async (id: string) => ((await custodian.get(`/api/packs?ids=${id}`)).body as PackRow[])[0]!;
const write = (agent: TestAgent, packId: string, ...records: object[]) =>
  agent.post('/api/records').send({ packId, records });
const follow = (agent: TestAgent, id: string, kind: string, payload: object) =>
  agent
    .post('/api/incidents')
    .send({ id, entries: [{ id: newId(), at: NOW, kind, payload }], packRecords: [] });

it('holds every pack it names at once, and starts the watch everybody sees', async () => {
  const packs = [await soundPack(), await soundPack()];
  const body = incidentBody(
    packs.map(({ id }) => id),
    { what: 'into the dyke' },
    NOW - 20 * MINUTE_MS,
  );
  const { body: answer } = await pilot.post('/api/incidents').send(body).expect(201);
  expect(answer as IncidentAnswer).toMatchObject({
    closed: null,
    tasks: [],
    report: { what: 'into the dyke' },
  });
  for (const { id } of packs)
    expect(await row(id)).toMatchObject({ verdict: 'hold', mayFly: 'no', watchUntil: NOW + 40 * MINUTE_MS });
  const reader = await test.as('reader');
  const today = (await reader.get('/api/today').expect(200)).body as TodayAnswer;
  expect(today.watches.map(({ tag, until }) => [tag, until])).toEqual(
    packs.map(({ tag }) => [tag, NOW + 40 * MINUTE_MS]),
  );
  expect(today.held.map(({ tag, next }) => [tag, next?.do])).toEqual(
    packs.map(({ tag }) => [tag, 'keep-off']),
  );
});

it('lands once, however often and by however many connections it is sent', async () => {
  const pack = await soundPack();
  const body = incidentBody([pack.id]);
  const answers = await Promise.all([1, 2, 3, 4].map(() => pilot.post('/api/incidents').send(body)));
  expect(answers.map(({ status }) => status)).toEqual([201, 201, 201, 201]);
  const { body: details } = await custodian.get(`/api/packs/${pack.id}`);
  expect((details as PackDetails).records.filter(({ kind }) => kind === 'incident')).toHaveLength(1);
  const { body: list } = await custodian.get(`/api/incidents?pack=${pack.id}`);
  expect((list as IncidentRow[]).map(({ packs }) => packs)).toEqual([[{ id: pack.id, tag: pack.tag }]]);
  const other = { ...body, entries: [{ ...body.entries[0]!, at: NOW }] };
  await pilot.post('/api/incidents').send(other).expect(409);
});

it('two reports of the same packs by two people at once keep both, and neither waits for ever', async () => {
  const ids = [(await soundPack()).id, (await soundPack()).id];
  const answers = await Promise.all([
    pilot.post('/api/incidents').send(incidentBody(ids)),
    custodian.post('/api/incidents').send(incidentBody([...ids].reverse())),
  ]);
  expect(answers.map(({ status }) => status)).toEqual([201, 201]);
});

it('a kind that holds nothing leaves the pack as it was, and says so in its records', async () => {
  const pack = await soundPack();
  await pilot
    .post('/api/incidents')
    .send(incidentBody([pack.id], { kind: 'unattended', holds: false }))
    .expect(201);
  expect(await row(pack.id)).toMatchObject({ verdict: 'fit', watchUntil: null });
});

it('is refused at its field when it names what nobody knows, and then nothing of it is kept', async () => {
  const pack = await soundPack();
  const body = incidentBody([pack.id, newId()]);
  const { body: problem } = await pilot.post('/api/incidents').send(body).expect(422);
  expect(reasons(problem)).toEqual({
    'entries.0.payload.packIds': 'This pack is not in the register, or has not arrived yet.',
  });
  expect(await row(pack.id)).toMatchObject({ verdict: 'fit' });
  const future = incidentBody([pack.id], {}, NOW + HOUR_MS);
  const { body: early } = await pilot.post('/api/incidents').send(future).expect(422);
  expect(reasons(early)['entries.0.at']).toBe('This time has not come yet.');
});

it('is followed up by whoever looks after the packs, and closed only when nothing is open', async () => {
  const incident = incidentBody();
  await pilot.post('/api/incidents').send(incident).expect(201);
  const ownerId = ((await custodian.get('/api/session')).body as { person: { id: string } }).person.id;
  const task = { id: newId(), text: 'Look at the mount', ownerId, dueAt: NOW + HOUR_MS };
  await follow(pilot, incident.id, 'task', task).expect(403);
  await follow(pilot, incident.id, 'told', { text: 'It spun first.', photoIds: [] }).expect(201);
  await follow(custodian, incident.id, 'task', task).expect(201);
  const listed = (await custodian.get('/api/today')).body as TodayAnswer;
  expect(listed.tasks).toEqual([
    expect.objectContaining({
      id: task.id,
      text: task.text,
      ownerId,
      dueAt: task.dueAt,
      incidentKind: 'crash',
    }),
  ]);
  const { body } = await follow(custodian, incident.id, 'closed', { note: 'done' }).expect(422);
  expect((body as { errors: { message: string }[] }).errors.map(({ message }) => message)).toEqual([
    'Name the cause first; “unknown” is one.',
    '1 follow-up is not done yet.',
  ]);
  await follow(custodian, incident.id, 'cause', { cause: 'mechanical', text: null }).expect(201);
  await follow(custodian, incident.id, 'task-done', { taskId: task.id, note: null }).expect(201);
  await follow(custodian, incident.id, 'closed', { note: 'The mount is torqued now.' }).expect(201);
  await follow(custodian, incident.id, 'lesson', { text: 'too late' }).expect(422);
  expect(((await custodian.get('/api/today')).body as TodayAnswer).tasks).toEqual([]);
});

it('its log is never changed: the database refuses', async () => {
  const incident = incidentBody();
  await pilot.post('/api/incidents').send(incident).expect(201);
  const em = () => test.app.database.entities();
  await expect(em().execute(`update incident_entry set payload = '{}'`)).rejects.toThrow(/append-only/);
  await expect(em().execute('delete from incident_entry')).rejects.toThrow(/append-only/);
});

describe('while a pack is on hold', () => {
  let pack: PackDetails;
  let incident: ReturnType<typeof incidentBody>;
  beforeEach(async () => {
    pack = await soundPack();
    incident = incidentBody([pack.id], {}, NOW - 30 * MINUTE_MS);
    await pilot.post('/api/incidents').send(incident).expect(201);
  });

  it('nobody charges it, flies it or takes it out, whichever way it comes', async () => {
    const { body } = await write(
      custodian,
      pack.id,
      recordBody('flight', { ...BLANK_FLIGHT, minutes: 5 }),
    ).expect(422);
    expect(Object.values(reasons(body))[0]).toMatch(/on hold at that time/);
    // A flight that landed before the crash arrives late: it is evidence.
    await write(
      pilot,
      pack.id,
      recordBody('flight', { ...BLANK_FLIGHT, minutes: 5 }, NOW - 2 * HOUR_MS),
    ).expect(201);
    const round = { id: newId(), kind: 'free', title: 'x', checklist: false, placeId: null, fliesAt: null };
    await custodian
      .post('/api/rounds')
      .send({ ...round, packIds: [pack.id] })
      .expect(201);
    const work = { packId: pack.id, outcome: 'done', reason: null, at: NOW };
    await custodian
      .post(`/api/rounds/${round.id}/rows`)
      .send({ ...work, records: [recordBody('flight', { ...BLANK_FLIGHT, minutes: 5 })] })
      .expect(422);
    const place = { name: `Cabinet ${newId()}`, kind: 'cabinet', fireResistant: true };
    const { body: cabinet } = await custodian.post('/api/places').send(place).expect(201);
    const { body: bin } = await custodian
      .post('/api/places')
      .send({ ...place, name: `Bin ${newId()}`, setApart: true })
      .expect(201);
    const move = (placeId: string) => recordBody('moved', { placeId, slot: null, holderId: null });
    await write(pilot, pack.id, move((cabinet as { id: string }).id)).expect(422);
    await write(pilot, pack.id, move((bin as { id: string }).id)).expect(201);
  });

  it('its watch is ended early by no pilot, and by no one without a reason', async () => {
    const ended = (reason: string) => recordBody('watch-ended', { incidentId: incident.id, reason });
    await write(pilot, pack.id, ended('cold')).expect(403);
    const { body } = await write(custodian, pack.id, ended('  ')).expect(422);
    expect(reasons(body)).toEqual({ 'records.0.payload.reason': 'The reason is missing.' });
    await write(custodian, pack.id, ended('Cold and quiet under the thermometer.')).expect(201);
    expect(await row(pack.id)).toMatchObject({ watchUntil: NOW, verdict: 'hold' });
    await write(custodian, pack.id, ended('again')).expect(422);
  });

  it('it is not released without its inspection, by API or by a late record', async () => {
    const seq = (await row(pack.id)).seq;
    const records = ((await custodian.get(`/api/packs/${pack.id}`)).body as PackDetails).records;
    const answers = [
      { rule: 'incident', records: records.filter(({ kind }) => kind === 'incident').map(({ id }) => id) },
    ];
    const what = { to: 'release', answers, watch: { until: NOW + 100 * HOUR_MS } };
    const release = (basedOnSeq: number, at = NOW) =>
      recordBody('decision', { basedOnSeq, reason: 'looks fine', what }, at);
    const { body } = await write(custodian, pack.id, release(seq)).expect(422);
    expect(Object.values(reasons(body))[0]).toMatch(/^Not yet: .*Inspect it by the after-crash list/);
    // An inspection dated before the crash, or during the watch, is no evidence, however late it arrives.
    const look = (at: number) => recordBody('inspection', inspectionPayload({ occasion: 'after-crash' }), at);
    await write(pilot, pack.id, look(NOW - HOUR_MS), look(NOW - 10 * MINUTE_MS)).expect(201);
    await write(custodian, pack.id, release(seq + 2)).expect(422);
    await write(custodian, pack.id, release(seq + 2, NOW - 50 * HOUR_MS)).expect(422);
    await write(pilot, pack.id, release(seq + 2)).expect(403);
    expect(await row(pack.id)).toMatchObject({ verdict: 'hold' });
  });

  it('two people deciding from stale pages: one wins, the other is told what changed', async () => {
    const { seq } = await row(pack.id);
    const retire = recordBody('decision', {
      basedOnSeq: seq,
      reason: 'bent',
      what: { to: 'retire', because: ['incident'], secondWanted: false },
    });
    const hold = recordBody('decision', { basedOnSeq: seq, reason: 'later', what: { to: 'hold' } });
    const deputy = await test.as('deputy');
    const answers = await Promise.all([write(custodian, pack.id, retire), write(deputy, pack.id, hold)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
    const lost = answers.find(({ status }) => status === 409)!.body as { detail: string };
    expect(lost.detail).toMatch(/1 record came: Decision/);
  });
});

it('a pack kept on caution until a day is out of use again from that day on, though nothing was written', async () => {
  const pack = await soundPack();
  await write(
    custodian,
    pack.id,
    recordBody('flight', BLANK_FLIGHT, NOW - 5 * HOUR_MS),
    readingBody([3800, 3800, 3550, 3800], { at: NOW - 4 * HOUR_MS }),
  ).expect(201);
  const advised = await row(pack.id);
  expect(advised).toMatchObject({ verdict: 'retire-advised', next: { do: 'set-apart' } });
  const { records } = (await custodian.get(`/api/packs/${pack.id}`)).body as PackDetails;
  const facts = { ...LIPO_4S, id: pack.id, fieldPack: false, smart: null, inServiceAt: null };
  const history = fold({ ...facts, placeTemperatures: [] }, records);
  const answers = answersTo(assess(history, PRESET_RULES['even-keel'], NOW).findings);
  const what = { to: 'release', answers, watch: { until: NOW + 10 * HOUR_MS } };
  const payload = { basedOnSeq: advised.seq, reason: 'one more survey', what };
  await write(custodian, pack.id, recordBody('decision', payload)).expect(201);
  const standing = async (moment: number) => {
    const [at] = await packRows(test.app.database.entities(), moment, [pack.id]);
    return at!;
  };
  expect(await standing(NOW + 9 * HOUR_MS)).toMatchObject({ verdict: 'watch', outSince: null });
  expect(await standing(NOW + 10 * HOUR_MS)).toMatchObject({
    verdict: 'retire-advised',
    mayFly: 'no',
    next: { do: 'set-apart', dueAt: null },
    outSince: NOW - 4 * HOUR_MS,
  });
});

it('where the rules want two names, the second comes from another person’s session', async () => {
  const pack = await soundPack();
  const { body: rules } = await custodian.get('/api/rules');
  const [inForce] = (rules as { versions: { version: number }[] }).versions;
  const changes = [{ path: 'retirementNames', value: 2 }];
  await custodian
    .post('/api/rules')
    .send({ basedOn: inForce!.version, preset: 'even-keel', changes, reason: 'two look' })
    .expect(201);
  const retire = (secondWanted: boolean, basedOnSeq: number) =>
    recordBody('decision', { basedOnSeq, reason: 'worn', what: { to: 'retire', because: [], secondWanted } });
  const { seq } = await row(pack.id);
  const { body } = await write(custodian, pack.id, retire(false, seq)).expect(422);
  expect(Object.values(reasons(body))[0]).toMatch(/two names/);
  const decided = retire(true, seq);
  await write(custodian, pack.id, decided).expect(201);
  expect(await row(pack.id)).toMatchObject({
    verdict: 'retire-advised',
    mayFly: 'no',
    next: { do: 'second-name' },
  });
  const second = () =>
    recordBody('confirmation', { basedOnSeq: seq + 1, decisionId: decided.id, reason: null });
  const { body: own } = await write(custodian, pack.id, second()).expect(422);
  expect(Object.values(reasons(own))[0]).toMatch(/must come from another person/);
  await write(pilot, pack.id, second()).expect(403);
  const deputy = await test.as('deputy');
  await write(deputy, pack.id, second()).expect(201);
  expect(await row(pack.id)).toMatchObject({ verdict: 'retired', next: { do: 'mark-red' } });
});
