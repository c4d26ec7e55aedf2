import { gzipSync } from 'node:zlib';
import SwaggerParser from '@apidevtools/swagger-parser';
import { Ajv2020 } from 'ajv/dist/2020';
import formats from 'ajv-formats';
import type { IRouter } from 'express';
import fc from 'fast-check';
import sharp from 'sharp';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import { openApi, OPERATIONS, problemCode, successOf } from '../contract';
import type {
  CurveAnswer,
  DeviceAnswer,
  KnownOperation,
  Operation,
  PackDetails,
  SignInAnswer,
  SignInLinkAnswer,
  CheckpointAnswer,
} from '../contract';
import { DAY_MS, HOUR_MS } from '../core/measure';
import { NAMED, SoftAuthenticator } from './testing/authenticators';
import {
  addPack,
  addType,
  importBody,
  incidentBody,
  LIPO_4S,
  NOW,
  openTestApp,
  packBody,
  PASSWORD,
  readingBody,
  recyclerBody,
  roundBody,
} from './testing/testApp';
import {
  addCharger,
  addCraft,
  bench,
  chargerForm,
  craftForm,
  dayForm,
  endBody,
  gateBody,
  jobBody,
  spanForm,
} from './testing/bench';
import { addDevice, logBody, openSocket, TestDevice } from './testing/device';
import type { TestApp } from './testing/testApp';

const NAMES = Object.keys(OPERATIONS) as KnownOperation[];
const description = openApi();

interface Described {
  readonly parameters: readonly { name: string; in: string; required: boolean; schema: object }[];
  readonly requestBody?: { readonly content: Readonly<Record<string, { readonly schema?: object }>> };
  readonly responses: Readonly<
    Record<string, { readonly content?: Readonly<Record<string, { readonly schema?: object }>> }>
  >;
}

function describedAs(name: string): Described {
  const [method, path] = name.split(' ') as [string, string];
  const paths = description.paths as Record<string, Record<string, Described>>;
  return paths[path.replace(/:(\w+)/g, '{$1}')]![method.toLowerCase()]!;
}

/** Judges by the description alone, not by the schemas it was made from. */
const ajv = new Ajv2020({ strict: false });
(formats as unknown as (ajv: Ajv2020) => void)(ajv);
ajv.addSchema({ $id: 'description', components: description.components as object });
const fits = (schema: object, value: unknown) => {
  const resolved = JSON.parse(
    JSON.stringify(schema).replaceAll('"#/components/', '"description#/components/'),
  ) as object;
  const holds = ajv.validate(resolved, value);
  return holds ? null : ajv.errorsText();
};

let test: TestApp;
let custodian: TestAgent;
/** What the register held before anything was asked. */
let firstCheckpoint: CheckpointAnswer;
let door: Awaited<ReturnType<typeof openSocket>>;
beforeAll(async () => {
  test = await openTestApp();
  custodian = await test.as('custodian');
  door = await openSocket(test);
  const { body } = await custodian.post('/api/evidence/checkpoints').send({}).expect(201);
  firstCheckpoint = body as CheckpointAnswer;
});
afterAll(async () => {
  await test.close();
  await door.close();
});

it('the description is sound OpenAPI 3.1, and is what the server hands to anybody', async () => {
  const served = (await test.anybody().get('/api/openapi.json').expect(200)).body as typeof description;
  expect(served).toEqual(JSON.parse(JSON.stringify(description)));
  await SwaggerParser.validate(served as unknown as Parameters<typeof SwaggerParser.validate>[0]);
  const operations = Object.values(description.paths as object).flatMap((path: object) => Object.keys(path));
  expect(operations).toHaveLength(NAMES.length);
});

it('every operation has a route, and every route is an operation', () => {
  const routes = routesOf(test.app.express.router as unknown as Layered).map((route) =>
    route.replace('/api', ''),
  );
  const known = new Set<string>(NAMES);
  expect(NAMES.filter((name) => !routes.includes(name))).toEqual([]);
  expect(routes.filter((route) => !known.has(route))).toEqual([]);
});

interface Layered {
  readonly stack: readonly {
    readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
    readonly handle: IRouter;
  }[];
}

function routesOf({ stack = [] }: Layered): string[] {
  return stack.flatMap(({ route, handle }) =>
    route
      ? Object.keys(route.methods).map((method) => `${method.toUpperCase()} ${route.path}`)
      : routesOf(handle as unknown as Layered),
  );
}

it('each problem of the table is in the description, and no other', () => {
  const { schemas } = description.components as {
    schemas: Record<string, { properties: Record<string, { enum: string[] }> }>;
  };
  for (const type of schemas.Problem!.properties.type!.enum) expect(problemCode({ type })).not.toBeNull();
});

/** What is asked in a good call of each operation; the table is complete, or this does not compile. */
interface Call {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Readonly<Record<string, string | number>>;
  readonly body?: object;
  readonly bytes?: Buffer;
}
type Calls = Readonly<Record<KnownOperation, () => Call | Promise<Call>>>;

let typeId = '';
let pack: PackDetails;
const ids: Partial<Record<'round' | 'place' | 'recycler' | 'consignment' | 'incident' | 'photo', string>> =
  {};
let tags = 0;
const post = async (path: string, body: object) =>
  (await custodian.post(`/api${path}`).send(body).expect(201)).body as { id: string; version: number };

async function layDownRegister(): Promise<void> {
  typeId = (await addType(custodian)).id;
  pack = await addPack(custodian, typeId, 'API-1');
  const write = { packId: pack.id, records: [readingBody([3850, 3850, 3850, 3840])] };
  await custodian.post('/api/records').send(write).expect(201);
  ids.round = (await post('/rounds', roundBody({ packIds: [pack.id] }))).id;
  ids.place = (await post('/places', placeBody())).id;
  ids.recycler = (await post('/recyclers', recyclerBody())).id;
  ids.consignment = (await post('/consignments', { id: newId(), recyclerId: ids.recycler })).id;
  ids.incident = (await post('/incidents', incidentBody([]))).id;
  ids.photo = newId();
  await custodian
    .put(`/api/photos/${ids.photo}`)
    .set('content-type', 'image/png')
    .send(await picture())
    .expect(204);
}

const picture = () =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: 'teal' } })
    .png()
    .toBuffer();
const placeBody = () => ({ name: `Shelf ${newId()}`, kind: 'shelf', fireResistant: false });
const period = { from: NOW - 30 * DAY_MS, to: NOW };
const person = () => ({
  name: 'A new pilot',
  login: `pilot-${newId().slice(-12)}`,
  role: 'pilot',
  active: true,
  password: PASSWORD,
});
const newLink = async () => {
  const { id } = await post('/people', person());
  const { body } = await custodian.post(`/api/people/${id}/sign-in-link`).send({}).expect(201);
  return (body as SignInLinkAnswer).secret;
};
const packForm = () => {
  const {
    id: _id,
    recordId: _recordId,
    receivedAt: _at,
    source: _source,
    ...form
  } = packBody(typeId, `API-${++tags + 10}`);
  return form;
};

const CALLS: Calls = {
  'GET /health': () => ({}),
  'GET /openapi.json': () => ({}),
  'GET /live': () => ({}),
  'GET /session': () => ({}),
  'POST /session': () => ({ body: { login: 'custodian', password: PASSWORD } }),
  // There is no made-up register here: answered as described by not being found.
  'POST /session/demo': () => ({ body: { personId: newId() } }),
  'DELETE /session': () => ({}),
  'POST /session/link': async () => ({ body: { secret: await newLink() } }),
  'POST /session/link/password': async () => ({ body: { secret: await newLink(), password: PASSWORD } }),
  'PUT /session/password': () => ({ body: { current: 'not what it is', password: 'another one for tests' } }),
  'POST /session/confirmation': () => ({ body: { password: PASSWORD } }),
  'GET /session/factors': () => ({}),
  'POST /session/codes': () => ({}),
  // Whoever proves a phone needs it at the next sign-in: people/factors.test.ts does.
  'POST /session/codes/confirmation': () => ({ body: { code: 'no code' } }),
  'DELETE /session/codes': () => ({}),
  'POST /session/passkeys/challenge': () => ({}),
  'POST /session/passkeys': async () => ({
    body: { name: 'A phone', passkey: await new SoftAuthenticator().keeps(await test.as('deputy')) },
  }),
  'DELETE /session/passkeys/:id': async () => {
    const [agent, authenticator] = [await test.as('deputy'), new SoftAuthenticator()];
    const body = { name: 'A phone', passkey: await authenticator.keeps(agent) };
    await agent.post('/api/session/passkeys').set('host', NAMED).send(body).expect(201);
    return { params: { id: authenticator.id } };
  },
  'POST /session/passkey/challenge': () => ({}),
  'POST /session/passkey': async () => ({
    body: { passkey: await new SoftAuthenticator().signs(test.anybody()) },
  }),
  'GET /session/bench-pass': () => ({}),
  'PUT /session/bench-pass': () => ({ body: { pin: '2580', badge: 'BADGE 7' } }),
  // This browser is no shared bench.
  'POST /session/bench': () => ({ body: { personId: newId(), pin: '2580' } }),
  'GET /shared-benches': () => ({}),
  'POST /shared-benches': () => ({ body: { name: 'The long bench' } }),
  'DELETE /shared-benches/:id': async () => ({
    params: { id: (await post('/shared-benches', { name: 'The short bench' })).id },
  }),
  'GET /session/data': () => ({}),
  'GET /sessions': () => ({}),
  'DELETE /sessions/:id': async () => {
    const { body } = await (await test.as('deputy')).get('/api/sessions').expect(200);
    return { params: { id: (body as SignInAnswer[]).find(({ isThis }) => isThis)!.id } };
  },
  'POST /setup': () => ({ body: { name: 'A custodian', login: 'first', password: PASSWORD } }),
  'GET /people': () => ({}),
  'POST /people': () => ({ body: person() }),
  'PUT /people/:id': async () => {
    const { password: _password, ...form } = person();
    const { id, version } = await post('/people', person());
    return { params: { id }, body: { ...form, version } };
  },
  'POST /people/:id/sign-in-link': async () => ({ params: { id: (await post('/people', person())).id } }),
  'POST /people/:id/pseudonym': async () => {
    const { id, version } = await post('/people', { ...person(), active: false });
    return { params: { id }, body: { version } };
  },
  'DELETE /people/:id/factors': async () => ({ params: { id: (await post('/people', person())).id } }),
  'PUT /custodian-factor': () => ({ body: { asked: false } }),
  'DELETE /people/:id/sessions': async () => ({ params: { id: (await post('/people', person())).id } }),
  'GET /calendar': () => ({}),
  'POST /calendar': () => ({}),
  'GET /calendar/:key.ics': async () => {
    const { path } = (await custodian.post('/api/calendar').send({}).expect(201)).body as { path: string };
    return { params: { key: path.split('/').at(-1)!.replace('.ics', '') } };
  },
  'GET /register': () => ({}),
  'GET /log': () => ({}),
  'GET /log.csv': () => ({}),
  'GET /evidence': () => ({}),
  'POST /evidence/checkpoints': () => ({}),
  'GET /evidence/checkpoints/:number.txt': async () => {
    const { body } = await custodian.post('/api/evidence/checkpoints').send({}).expect(201);
    return { params: { number: String((body as CheckpointAnswer).number) } };
  },
  'POST /evidence/verification': () => ({ body: { checkpoint: null } }),
  'POST /pack-types': () => ({ body: { ...LIPO_4S, name: `Type ${newId()}` } }),
  'PUT /pack-types/:id': async () => {
    const { id, version } = await addType(custodian);
    return { params: { id }, body: { ...LIPO_4S, name: `Type ${newId()}`, connector: null, version } };
  },
  'POST /places': () => ({ body: placeBody() }),
  'PUT /places/:id': async () => {
    const { id, version } = await post('/places', placeBody());
    return { params: { id }, body: { ...placeBody(), version } };
  },
  'PUT /map': () => ({ body: { places: [{ id: ids.place, map: { x: 1, y: 1, w: 4, h: 2 } }] } }),
  'POST /instruments': () => ({ body: { name: 'Meter A', errorMv: 5 } }),
  'PUT /instruments/:id': async () => {
    const { id, version } = await post('/instruments', { name: 'Meter B', errorMv: 5 });
    return { params: { id }, body: { name: 'Meter C', errorMv: 3, version } };
  },
  'POST /recyclers': () => ({ body: recyclerBody() }),
  'PUT /recyclers/:id': async () => {
    const { id, version } = await post('/recyclers', recyclerBody());
    return { params: { id }, body: { ...recyclerBody(), version } };
  },
  'GET /rules': () => ({}),
  'POST /rules': () => ({ body: { basedOn: 1, preset: 'long-service', changes: [], reason: 'For a test.' } }),
  'GET /today': () => ({}),
  'GET /packs': () => ({ query: { ids: pack.id } }),
  'GET /packs/:id': () => ({ params: { id: pack.id } }),
  'GET /packs/by-tag/:tag': () => ({ params: { tag: 'API-1' } }),
  'GET /packs/:id/certificate.pdf': () => ({ params: { id: pack.id }, query: { zone: 'UTC' } }),
  'GET /histories': () => ({ query: { ids: pack.id } }),
  'GET /offline-packs': () => ({ query: { ids: pack.id } }),
  'GET /offline-rows': () => ({ query: { ids: pack.id } }),
  'POST /packs': () => ({ body: packBody(typeId, `API-${++tags + 10}`) }),
  'POST /deliveries': () => {
    const packs = [{ id: newId(), recordId: newId(), tag: `API-${++tags + 10}` }];
    const { tag: _tag, inServiceAt: _at, ...form } = packForm();
    return { body: { ...form, id: newId(), packs, receivedAt: NOW - DAY_MS, source: null } };
  },
  'PUT /packs/:id': async () => {
    const { id, version } = await addPack(custodian, typeId, `API-${++tags + 10}`);
    return { params: { id }, body: { ...packForm(), version } };
  },
  'POST /records': () => ({ body: { packId: pack.id, records: [readingBody([3850, 3850, 3850, 3850])] } }),
  'GET /labels.pdf': () => ({ query: { ids: pack.id, sheet: 'a4-21', skip: 2 } }),
  'PUT /photos/:id': async () => ({ params: { id: newId() }, bytes: await picture() }),
  'GET /photos/:id': () => ({ params: { id: ids.photo! } }),
  'GET /photos/:id/thumbnail': () => ({ params: { id: ids.photo! } }),
  'GET /rounds': () => ({}),
  'GET /rounds/:id': () => ({ params: { id: ids.round! } }),
  'POST /rounds': () => ({ body: roundBody({ packIds: [pack.id] }) }),
  'POST /rounds/:id/rows': () => ({
    params: { id: ids.round! },
    body: { packId: pack.id, records: [], outcome: 'skipped', reason: 'Not here.', at: NOW },
  }),
  'POST /rounds/:id/close': async () => ({ params: { id: (await post('/rounds', roundBody())).id } }),
  'POST /equipment': () => ({ body: chargerForm() }),
  'PUT /equipment/:id': async () => {
    const { id, version } = await addCharger(custodian);
    return { params: { id }, body: { ...chargerForm(), version } };
  },
  'GET /devices': async () => {
    await addDevice(custodian, 'meter');
    return {};
  },
  'POST /devices': async () => {
    const { equipmentId } = (await addDevice(custodian, 'charger')).device;
    await custodian.delete(`/api/devices/${await chargerDevice(equipmentId!)}`).expect(204);
    return {
      body: {
        id: newId(),
        name: newId(),
        kind: 'charger',
        instrumentId: null,
        equipmentId,
        patterns: ['{amps}'],
      },
    };
  },
  'PUT /devices/:id': async () => {
    const { id, version, name } = (await addDevice(custodian, 'meter')).device;
    return { params: { id }, body: { version, name, patterns: ['B {cells}'] } };
  },
  'POST /devices/:id/key': async () => ({ params: { id: (await addDevice(custodian, 'meter')).device.id } }),
  'DELETE /devices/:id': async () => ({ params: { id: (await addDevice(custodian, 'meter')).device.id } }),
  'GET /devices/:id/lines': async () => ({
    params: { id: (await addDevice(custodian, 'meter')).device.id },
  }),
  'POST /devices/:id/take': async () => ({
    params: { id: (await addDevice(custodian, 'meter')).device.id },
    body: { page: newId() },
  }),
  'POST /devices/:id/write': async () => {
    const { device, secret } = await addDevice(custodian, 'memory-reader');
    const reader = await TestDevice.connect(door.url, secret, { can: ['write'] });
    await reader.told({ type: 'memory', contact: 1, number: 'N-1', storage: { isOn: false } });
    const devices = (await custodian.get('/api/devices').expect(200)).body as DeviceAnswer[];
    const { readingId } = devices.find(({ id }) => id === device.id)!.memory!;
    return { params: { id: device.id }, body: { readingId, storage: { isOn: true, afterHours: 48 } } };
  },
  'POST /devices/:id/stop': async () => {
    const { device, secret } = await addDevice(custodian, 'charger');
    await TestDevice.connect(door.url, secret, { can: ['stop'] });
    return { params: { id: device.id }, body: { channel: '1' } };
  },
  'GET /charging/jobs/:id/curve': async () => ({ params: { id: (await drawnJob()).jobId! } }),
  'POST /curves': () => ({ body: logBody(pack.id) }),
  'GET /log-reading': () => ({ query: { columns: 't\tV' } }),
  'GET /curves/:id': async () => ({ params: { id: (await drawnJob()).id } }),
  'POST /flying-days': () => ({ body: dayForm(typeId) }),
  'PUT /flying-days/:id': async () => {
    const { id, version } = await post('/flying-days', dayForm(typeId));
    return { params: { id }, body: { ...dayForm(typeId, 2), version } };
  },
  'POST /craft': () => ({ body: craftForm() }),
  'PUT /craft/:id': async () => {
    const { id, version } = await addCraft(custodian);
    return { params: { id }, body: { ...craftForm(), version } };
  },
  'POST /craft/:id/changes': async () => ({
    params: { id: (await addCraft(custodian)).id },
    body: { at: NOW - HOUR_MS, what: 'New propellers', newBaseline: true },
  }),
  'GET /flying': () => ({}),
  'PUT /flying-days/:id/hand-out': async () => {
    const { id, version } = await post('/flying-days', dayForm(typeId));
    return { params: { id }, body: { version, lines: [] } };
  },
  'POST /attendance': () => ({ body: spanForm(test.people.pilot) }),
  'PUT /attendance/:id': async () => {
    const { id, version } = await post('/attendance', spanForm(test.people.deputy));
    return { params: { id }, body: { ...spanForm(test.people.deputy, 0, 90), version } };
  },
  'DELETE /attendance/:id': async () => ({
    params: { id: (await post('/attendance', spanForm(test.people.custodian))).id },
  }),
  'GET /charging': () => ({}),
  'PUT /charging/plan': () => ({ body: { version: 0, jobs: [], leftOutIds: [] } }),
  'POST /charging/jobs': async () => ({ body: jobBody((await addCharger(custodian)).id, [pack.id]) }),
  'POST /charging/jobs/:id/start': async () => ({
    params: { id: await placedJob() },
    body: gateBody(test.people.pilot),
  }),
  'POST /charging/jobs/:id/watch': async () => {
    const id = await runningJob();
    return { params: { id }, body: { attendantId: test.people.deputy } };
  },
  'POST /charging/jobs/:id/end': async () => ({
    params: { id: await runningJob() },
    body: endBody([pack.id]),
  }),
  'GET /incidents': () => ({ query: { pack: pack.id } }),
  'GET /incidents/:id': () => ({ params: { id: ids.incident! } }),
  'GET /incidents/:id/report.pdf': () => ({ params: { id: ids.incident! } }),
  'POST /incidents': () => ({ body: incidentBody([]) }),
  'GET /end-of-life': () => ({}),
  'GET /consignments/:id': () => ({ params: { id: ids.consignment! } }),
  'POST /consignments': () => ({ body: { id: newId(), recyclerId: ids.recycler } }),
  'POST /consignments/:id/packs': () => ({
    params: { id: ids.consignment! },
    body: { add: [], remove: [], reason: null },
  }),
  // Neither can be done to an empty, open consignment: answered by saying why.
  'POST /consignments/:id/hand-over': () => ({ params: { id: ids.consignment! }, body: {} }),
  'POST /consignments/:id/corrections': () => ({
    params: { id: ids.consignment! },
    body: { id: newId(), text: 'A slip.' },
  }),
  'GET /consignments/:id/manifest.pdf': () => ({ params: { id: ids.consignment! } }),
  'GET /consignments/:id/manifest.csv': () => ({ params: { id: ids.consignment! } }),
  'GET /consignments/:id/manifest.json': () => ({ params: { id: ids.consignment! } }),
  'GET /reports': () => ({ query: period }),
  'GET /reports.pdf': () => ({ query: period }),
  'GET /reports/:table.csv': () => ({ params: { table: 'storage' }, query: period }),
  'POST /setup/claim': () => ({ body: { personId: newId(), password: PASSWORD } }),
  'GET /imports': () => ({}),
  'POST /imports': () => ({ body: importBody() }),
  'POST /imports/:id/packs': async () => ({
    params: { id: (await post('/imports', importBody())).id },
    body: { packs: [{ ...packBody(typeId, `API-${++tags + 10}`), note: null }] },
  }),
  'POST /imports/:id/records': async () => ({
    params: { id: (await post('/imports', importBody())).id },
    body: { packId: pack.id, records: [readingBody([3850, 3850, 3850, 3840])] },
  }),
  'POST /imports/:id/end': async () => ({
    params: { id: (await post('/imports', importBody())).id },
    body: { refused: 0 },
  }),
  'POST /imports/:id/take-back': async () => ({
    params: { id: (await post('/imports', importBody())).id },
    body: { reason: 'The wrong file.' },
  }),
  'GET /exports/:table.csv': () => ({ params: { table: 'readings' }, query: period }),
  'GET /exports/:table.pdf': () => ({ params: { table: 'packs' }, query: period }),
  'GET /packs/:id/life.csv': () => ({ params: { id: pack.id } }),
  'GET /packs/:id/life.pdf': () => ({ params: { id: pack.id } }),
  'GET /archive': () => ({}),
  'GET /archive/packs/:id': () => ({ params: { id: pack.id } }),
  'PUT /archive': () => ({ bytes: gzipSync('{}') }),
  'GET /keys': () => ({}),
  'POST /keys': () => ({ body: keyBody() }),
  'DELETE /keys/:id': async () => ({ params: { id: (await post('/keys', keyBody())).id } }),
};

async function chargerDevice(equipmentId: string): Promise<string> {
  const { body } = await custodian.get('/api/devices').expect(200);
  return (body as DeviceAnswer[]).find((one) => one.equipmentId === equipmentId)!.id;
}

/** A running job whose charger has told of it. */
async function drawnJob(): Promise<CurveAnswer> {
  const id = await placedJob();
  await custodian.post(`/api/charging/jobs/${id}/start`).send(gateBody(test.people.custodian)).expect(200);
  const { equipmentId } = (await bench(custodian)).jobs.find((one) => one.id === id)!;
  const { secret } = await addDevice(custodian, 'charger', { equipmentId });
  const device = await TestDevice.connect(door.url, secret);
  const line = {
    type: 'charge',
    channel: '1',
    state: 'running',
    seconds: 5,
    cellsMv: [3850, 3850, 3850, 3840],
    amps: 3,
    movedMah: 4,
  };
  await device.told(line);
  await device.close();
  return (await custodian.get(`/api/charging/jobs/${id}/curve`).expect(200)).body as CurveAnswer;
}

/** A job of a pack of its own, so that none waits for another's. */
async function placedJob(): Promise<string> {
  pack = await addPack(custodian, typeId, `API-${++tags + 10}`);
  const write = { packId: pack.id, records: [readingBody([3850, 3850, 3850, 3840])] };
  await custodian.post('/api/records').send(write).expect(201);
  const job = jobBody((await addCharger(custodian)).id, [pack.id]);
  await post('/charging/jobs', job);
  return job.id;
}

async function runningJob(): Promise<string> {
  const id = await placedJob();
  await custodian.post(`/api/charging/jobs/${id}/start`).send(gateBody(test.people.pilot)).expect(200);
  return id;
}

const keyBody = () => ({ id: newId(), name: 'A script', role: 'reader', endsAt: NOW + 30 * DAY_MS });

/** Good calls that a register like this one answers with a reason why not. */
const REFUSED: Partial<Record<KnownOperation, number>> = {
  'POST /session/demo': 404,
  'PUT /session/password': 422,
  // Made for a register that is opened by another name than this one.
  'POST /session/passkeys': 422,
  'POST /session/passkey': 422,
  'POST /session/bench': 403,
  'POST /session/codes/confirmation': 422,
  'POST /setup': 409,
  'POST /setup/claim': 409,
  'PUT /archive': 409,
  'POST /consignments/:id/hand-over': 422,
  'POST /consignments/:id/corrections': 409,
};

/** Sends a call, and says what was answered. A stream is listened to until it begins. */
async function sent(agent: TestAgent, name: string, { params = {}, query = {}, body, bytes }: Call) {
  const [method, path] = name.split(' ') as ['GET' | 'POST' | 'PUT' | 'DELETE', string];
  const address = `/api${path.replace(/:(\w+)/g, (_all, key: string) => encodeURIComponent(params[key] ?? ''))}`;
  const request = agent[method.toLowerCase() as 'get'](address).query(query);
  const media = name === 'PUT /archive' ? 'application/gzip' : 'image/png';
  if (bytes) return request.set('content-type', media).send(bytes);
  return method === 'GET' ? request : request.send(body ?? {});
}

/** Why an answer is not as described; null when it is. */
function undescribed(name: string, response: { status: number; type: string; body: unknown }): string | null {
  const { responses } = describedAs(name);
  const content = (responses[String(response.status)] ?? responses.default)!.content ?? null;
  if (content === null) return response.status === 204 ? null : 'A body came where none was described.';
  const media = Object.keys(content).find((one) => one.split(';')[0] === response.type);
  if (!media) return `${response.type} came.`;
  const { schema } = content[media]!;
  return schema ? fits(schema, response.body) : null;
}

describe('as it is described', () => {
  beforeAll(layDownRegister);

  it.each(NAMES.filter((name) => name !== 'GET /live'))('%s is called and answered', async (name) => {
    const agent = name.includes(' /session') ? await test.as('deputy') : custodian;
    const call = await CALLS[name]();
    const { requestBody } = describedAs(name);
    const schema = requestBody?.content['application/json']?.schema;
    if (schema && !REFUSED[name]) expect(fits(schema, call.body)).toBeNull();
    const response = await sent(agent, name, call);
    expect([response.status, response.body as unknown]).toEqual([
      REFUSED[name] ?? successOf(name, OPERATIONS[name] as Operation),
      expect.anything(),
    ]);
    expect(undescribed(name, response)).toBeNull();
  });

  it('anything at all is answered as described, and never by something broken', async () => {
    const asked = NAMES.filter((name) => !['GET /live', 'POST /session', 'DELETE /session'].includes(name));
    const call: fc.Arbitrary<Call> = fc.record({
      params: fc.record({ id: value(), tag: value(), key: value(), table: value() }),
      query: fc.dictionary(
        fc.constantFrom('ids', 'from', 'to', 'type', 'zone', 'pack', 'sheet', 'after'),
        value(),
      ),
      body: fc.oneof(
        fc.object(),
        fc.dictionary(fc.constantFrom('id', 'packId', 'records', 'name', 'places', 'version'), fc.anything()),
      ),
    });
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...asked), call, async (name, one) => {
        const body = JSON.parse(
          JSON.stringify(one.body, (_key, each: unknown) => (typeof each === 'bigint' ? 1 : each)) ?? '{}',
        ) as object;
        const response = await sent(custodian, name, { ...one, body });
        expect(response.status).not.toBe(500);
        // An address that leads elsewhere is another operation's, or nobody's.
        if (response.status !== 404) expect([name, undescribed(name, response)]).toEqual([name, null]);
      }),
      { numRuns: 300 },
    );
  });
});

function value(): fc.Arbitrary<string> {
  return fc.oneof(
    fc.uuid(),
    fc.string({ minLength: 1, maxLength: 12 }),
    fc.integer().map(String),
    fc.constant('a\u0000b'),
  );
}

it('after everything that can be asked the register is what its records, its log and its checkpoints say', async () => {
  const { body } = await custodian
    .post('/api/evidence/verification')
    .send({ checkpoint: firstCheckpoint.text })
    .expect(201);
  expect(body).toMatchObject({ findings: [], against: firstCheckpoint.number });
});
