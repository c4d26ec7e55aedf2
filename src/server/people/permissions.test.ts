import { v7 as newId } from 'uuid';
import { mayDo, ROLES } from '../../core/lifecycle';
import { BLANK_CHARGE, BLANK_FLIGHT, BLANK_RETURNED, BLANK_TAKEN_OUT, RECORD_KINDS } from '../../core/record';
import type { Action, Role } from '../../core/lifecycle';
import type TestAgent from 'supertest/lib/agent';
import {
  addPack,
  addType,
  NOW,
  openTestApp,
  packBody,
  PASSWORD,
  readingBody,
  importBody,
  incidentBody,
  inspectionPayload,
  recyclerBody,
  roundBody,
} from '../testing/testApp';
import { addCharger, chargerForm, craftForm, dayForm, jobBody, spanForm } from '../testing/bench';
import type { TestApp } from '../testing/testApp';

/** Every action as a request that would succeed, sent by every role: the server decides, whatever a screen offers. */

let test: TestApp;
let typeId: string;
let packId: string;
let receiptId: string;
const agents = new Map<Role, TestAgent>();

beforeAll(async () => {
  test = await openTestApp();
  for (const role of ROLES) agents.set(role, await test.as(role));
  const custodian = agents.get('custodian')!;
  typeId = (await addType(custodian)).id;
  const smart = { autoStorage: true, autoStorageAfterHours: 48 };
  const pack = await addPack(custodian, typeId, 'P-1', { smart });
  packId = pack.id;
  receiptId = pack.records[0]!.id;
});
afterAll(() => test.close());

const record = (agent: TestAgent, body: object) =>
  agent.post('/api/records').send({ packId, records: [{ id: newId(), at: NOW, supersedes: null, ...body }] });

async function fresh(agent: TestAgent, path: string): Promise<{ version: number }> {
  const { body } = await agents.get('custodian')!.get(path);
  return body as { version: number };
}

/** What succeeds only at the right moment of a pack's life: here it must be let as far as that is judged. */
const GATED = {
  'record.incident': {
    kind: 'incident',
    payload: { incidentId: newId(), kind: 'crash', holds: true },
  },
  'record.watch-ended': { kind: 'watch-ended', payload: { incidentId: newId(), reason: 'cold and quiet' } },
  'record.inspection-asked': {
    kind: 'inspection-asked',
    payload: { reason: 'a sibling failed', incidentId: newId() },
  },
  'record.decision': {
    kind: 'decision',
    payload: { basedOnSeq: 10_000, reason: 'sound', what: { to: 'release', answers: [], watch: 'none' } },
  },
  'record.confirmation': {
    kind: 'confirmation',
    payload: { basedOnSeq: 10_000, decisionId: newId(), reason: null },
  },
  'record.recovery': {
    kind: 'recovery',
    payload: { step: 'looked', feels: 'cool', cellsMv: null },
  },
  'record.disposal': { kind: 'disposal', payload: { step: 'insulated', how: 'tape' } },
} as const;
type GatedAction = keyof typeof GATED;

const REQUESTS: Readonly<
  Record<
    Exclude<Action, 'record.received' | 'record.correct.any' | GatedAction>,
    (agent: TestAgent) => Promise<{ status: number }>
  >
> = {
  'register.read': (agent) => Promise.resolve(agent.get('/api/packs')),
  'record.reading': (agent) =>
    Promise.resolve(
      agent.post('/api/records').send({ packId, records: [readingBody([3800, 3800, 3800, 3800])] }),
    ),
  'record.resistance': async (agent) =>
    record(agent, {
      kind: 'resistance',
      payload: { irMilliohm: [4, 4, 4, 4], temperatureC: 20, instrument: null, remarks: null },
    }),
  'record.charge': async (agent) => record(agent, { kind: 'charge', payload: BLANK_CHARGE }),
  'record.flight': async (agent) => record(agent, { kind: 'flight', payload: BLANK_FLIGHT }),
  'record.inspection': async (agent) => record(agent, { kind: 'inspection', payload: inspectionPayload() }),
  'device.edit': (agent) => Promise.resolve(agent.get(`/api/devices/${newId()}/lines`)),
  'equipment.edit': (agent) => Promise.resolve(agent.post('/api/equipment').send(chargerForm())),
  'craft.edit': (agent) => Promise.resolve(agent.post('/api/craft').send(craftForm())),
  'flying-day.hand-out': async (agent) => {
    const { body } = await agents.get('custodian')!.post('/api/flying-days').send(dayForm(typeId));
    const { id, version } = body as { id: string; version: number };
    return agent.put(`/api/flying-days/${id}/hand-out`).send({ version, lines: [] });
  },
  'flying-day.edit': (agent) => Promise.resolve(agent.post('/api/flying-days').send(dayForm(typeId))),
  'bench.attend': async (agent) => {
    // Everybody speaks for themselves.
    const { body } = await agent.get('/api/session');
    const me = (body as { person?: { id: string } }).person?.id ?? newId();
    return agent.post('/api/attendance').send(spanForm(me));
  },
  'bench.plan': async (agent) => {
    const { version } = await fresh(agent, '/api/charging');
    return agent.put('/api/charging/plan').send({ version, jobs: [], leftOutIds: [] });
  },
  'bench.charge': async (agent) => {
    const { id } = await addCharger(agents.get('custodian')!);
    return agent.post('/api/charging/jobs').send(jobBody(id, [packId]));
  },
  'round.work': (agent) => Promise.resolve(agent.post('/api/rounds').send(roundBody())),
  'record.moved': async (agent) =>
    record(agent, { kind: 'moved', payload: { placeId: null, holderId: null } }),
  'record.taken-out': async (agent) => record(agent, { kind: 'taken-out', payload: BLANK_TAKEN_OUT }),
  'record.returned': async (agent) => record(agent, { kind: 'returned', payload: BLANK_RETURNED }),
  'record.memory': async (agent) => record(agent, { kind: 'memory', payload: RECORD_KINDS.memory.example }),
  'record.note': async (agent) => record(agent, { kind: 'note', payload: { text: 'seen' } }),
  'record.correction': async (agent) => {
    const note = await record(agent, { kind: 'note', payload: { text: 'a slip' } });
    const supersedes = (note.body as { records?: { id: string }[] }).records?.[0]?.id ?? receiptId;
    return record(agent, {
      kind: 'correction',
      supersedes,
      payload: { reason: 'a slip', replacement: null },
    });
  },
  'rules.adopt': async (agent) => {
    const { body } = await agents.get('custodian')!.get('/api/rules');
    const [inForce] = (body as { versions: { version: number }[] }).versions;
    return agent.post('/api/rules').send({
      basedOn: inForce!.version,
      preset: 'even-keel',
      changes: [{ path: 'idle.everyDays', value: 20 + inForce!.version }],
      reason: 'Closer looks this season',
    });
  },
  'pack.create': async (agent) => agent.post('/api/packs').send(packBody(typeId, newId().slice(-12))),
  'pack.edit': async (agent) => {
    const { version } = await fresh(agent, `/api/packs/${packId}`);
    const facts = {
      tag: 'P-1',
      typeId,
      owner: null,
      homePlaceId: null,
      inServiceAt: null,
      fieldPack: false,
      smart: { autoStorage: true, autoStorageAfterHours: 48 },
    };
    return agent.put(`/api/packs/${packId}`).send({ ...facts, version });
  },
  'type.edit': async (agent) => agent.post('/api/pack-types').send({ ...(await typeForm()), name: newId() }),
  'place.edit': async (agent) =>
    agent.post('/api/places').send({ name: newId(), kind: 'shelf', fireResistant: false }),
  'instrument.edit': async (agent) => agent.post('/api/instruments').send({ name: newId(), errorMv: 5 }),
  'incident.report': async (agent) => agent.post('/api/incidents').send(incidentBody()),
  'incident.follow': async (agent) => {
    const incident = incidentBody();
    await agents.get('custodian')!.post('/api/incidents').send(incident).expect(201);
    const payload = { cause: 'unknown', text: null };
    const entries = [{ id: newId(), at: NOW, kind: 'cause', payload }];
    return agent.post('/api/incidents').send({ ...incident, entries });
  },
  consign: async (agent) => {
    const { body } = await agents.get('custodian')!.post('/api/recyclers').send(recyclerBody());
    const recyclerId = (body as { id: string }).id;
    return agent.post('/api/consignments').send({ id: newId(), recyclerId });
  },
  'recycler.edit': async (agent) => agent.post('/api/recyclers').send(recyclerBody()),
  'register.import': async (agent) => agent.post('/api/imports').send(importBody()),
  'register.export': async (agent) => agent.get('/api/archive'),
  'log.read': async (agent) => agent.get('/api/log'),
  'key.edit': async (agent) =>
    agent
      .post('/api/keys')
      .send({ id: newId(), name: 'A script', role: 'reader', endsAt: NOW + 60 * 60_000 }),
  'people.edit': async (agent) =>
    agent
      .post('/api/people')
      .send({ name: 'Somebody', login: newId().slice(-12), role: 'pilot', active: true, password: PASSWORD }),
};

async function typeForm(): Promise<object> {
  const { LIPO_4S } = await import('../testing/testApp');
  return LIPO_4S;
}

const cases = ROLES.flatMap((role) =>
  (Object.keys(REQUESTS) as (keyof typeof REQUESTS)[]).map((action) => [role, action] as const),
);

it.each(cases)('%s: %s', async (role, action) => {
  const { status } = await REQUESTS[action](agents.get(role)!);
  const allowed = mayDo(role, action);
  expect([200, 201].includes(status)).toBe(allowed);
  if (!allowed) expect(status).toBe(403);
});

const gated = ROLES.flatMap((role) =>
  (Object.keys(GATED) as GatedAction[]).map((action) => [role, action] as const),
);

it.each(gated)('%s: %s is judged only for those who may', async (role, action) => {
  const { status } = await record(agents.get(role)!, GATED[action]);
  expect(status).toBe(mayDo(role, action) ? 422 : 403);
});

it('nobody signed in may do any of it', async () => {
  for (const ask of Object.values(REQUESTS)) expect((await ask(test.anybody())).status).toBe(401);
});

it('a pilot corrects their own records and no others', async () => {
  const custodian = agents.get('custodian')!;
  const { body } = await record(custodian, { kind: 'note', payload: { text: 'the custodian’s' } });
  const supersedes = (body as { records: { id: string }[] }).records[0]!.id;
  const attempt = await record(agents.get('pilot')!, {
    kind: 'correction',
    supersedes,
    payload: { reason: 'mine now', replacement: null },
  });
  expect(attempt.status).toBe(422);
  expect(JSON.stringify(attempt.body)).toContain('somebody else’s record');
});

it('whoever lacks the right never learns whether the request was sound', async () => {
  await agents.get('reader')!.post('/api/places').send({ nonsense: true }).expect(403);
});

it('a register keeps at least one active custodian', async () => {
  const custodian = agents.get('custodian')!;
  const { body } = await custodian.get('/api/people');
  const me = (body as { id: string; version: number; role: string }[]).find(
    ({ role }) => role === 'custodian',
  )!;
  const demote = {
    name: 'The custodian',
    login: 'custodian',
    role: 'pilot',
    active: true,
    password: '',
    version: me.version,
  };
  await custodian.put(`/api/people/${me.id}`).send(demote).expect(422);
});
