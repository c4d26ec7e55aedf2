import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import request from 'supertest';
import type { Test } from 'supertest';
import type TestAgent from 'supertest/lib/agent';
import { v7 as newId } from 'uuid';
import type { PackDetails, PackTypeAnswer } from '../../contract';
import { answeredItems, DEFAULT_CHECKLISTS } from '../../core/inspection';
import type { Marks } from '../../core/inspection';
import { HOUR_MS } from '../../core/measure';
import type { Instant, PersonId } from '../../core/measure';
import { ROLES } from '../../core/lifecycle';
import type { InspectionPayload } from '../../core/record';
import type { Role } from '../../core/lifecycle';
import { openApp } from '../app';
import type { App } from '../app';
import { Person } from '../people/entities';
import { passwordHash } from '../people/passwords';
import type { Config } from '../platform/config';
import { logAt } from '../platform/log';

/** The register's present in these tests. */
export const NOW: Instant = Date.UTC(2026, 2, 2, 19, 0);
/** Made by whichever test comes first. */
export const SIGNING_KEY = join(tmpdir(), 'malle-tests.signing.key');
export const PASSWORD = 'a password for tests';

export interface TestApp {
  readonly app: App;
  readonly url: string;
  readonly people: Readonly<Record<Role, PersonId>>;
  /** Somebody of this role, signed in. */
  as(role: Role): Promise<TestAgent>;
  /** Nobody signed in. */
  anybody(): TestAgent;
  close(): Promise<void>;
}

/** An empty database of its own in the test cluster. */
export async function emptyDatabase(): Promise<string> {
  const cluster = process.env.MALLE_TEST_CLUSTER;
  if (!cluster) throw new Error('Run the integration tests through Jest’s integration project.');
  const name = `test_${newId().replaceAll('-', '')}`;
  const client = new Client({ connectionString: `${cluster}/postgres` });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  return `${cluster}/${name}`;
}

export function testConfig(url: string, more: Partial<Config> = {}): Config {
  return {
    databaseUrl: url,
    host: '127.0.0.1',
    port: 0,
    webRoot: null,
    fixedNow: NOW,
    behindTls: false,
    tls: null,
    signingKey: SIGNING_KEY,
    checkpoints: null,
    mail: null,
    metrics: null,
    leastSpaceMb: 0,
    checksAnswers: true,
    logLevel: 'silent',
    ...more,
  };
}

/** The real application on a real, empty database; with one person of each role unless told otherwise. */
export async function openTestApp({
  withPeople = true,
  url,
  ...more
}: { withPeople?: boolean; url?: string } & Partial<Config> = {}): Promise<TestApp> {
  const databaseUrl = url ?? (await emptyDatabase());
  const app = await openApp(testConfig(databaseUrl, more), logAt('silent'));
  const people = Object.fromEntries(ROLES.map((role) => [role, newId()])) as Record<Role, PersonId>;
  if (withPeople) {
    const em = app.database.entities();
    const hash = await passwordHash(PASSWORD);
    for (const role of ROLES) {
      em.create(Person, {
        id: people[role],
        name: `The ${role}`,
        login: role,
        role,
        passwordHash: hash,
        active: true,
        version: 1,
      });
    }
    await em.flush();
  }
  return {
    app,
    url: databaseUrl,
    people,
    anybody: () => request.agent(app.express),
    as: async (role) => {
      const agent = request.agent(app.express);
      await agent.post('/api/session').send({ login: role, password: PASSWORD }).expect(201);
      return agent;
    },
    close: () => app.close(),
  };
}

/** The bytes of a file that is answered, as they came. */
export async function bytesOf(request: Test): Promise<{ bytes: Buffer; headers: Record<string, string> }> {
  const { body, headers } = await request
    .buffer(true)
    .parse((res, done) => {
      const parts: Buffer[] = [];
      res.on('data', (part: Buffer) => parts.push(part));
      res.on('end', () => done(null, Buffer.concat(parts)));
    })
    .expect(200);
  return { bytes: body as Buffer, headers: headers };
}

export const LIPO_4S = {
  name: 'Quad 4S',
  chemistry: 'lipo',
  series: 4,
  parallel: 1,
  capacityMah: 3300,
  continuousC: 20,
  burstC: 40,
  chargeC: 2,
  connector: 'yellow 60 A',
  balancePlug: 'white 5-pin',
  massG: 310,
  price: 42,
  dutyClass: 'normal',
} as const;

export async function addType(agent: TestAgent, more: object = {}): Promise<PackTypeAnswer> {
  const { body } = await agent
    .post('/api/pack-types')
    .send({ ...LIPO_4S, name: `Type ${newId()}`, ...more })
    .expect(201);
  return body as PackTypeAnswer;
}

export function packBody(typeId: string, tag: string, more: object = {}) {
  return {
    id: newId(),
    recordId: newId(),
    tag,
    typeId,
    owner: null,
    homePlaceId: null,
    inServiceAt: null,
    fieldPack: false,
    smart: null,
    receivedAt: NOW - 48 * HOUR_MS,
    source: 'a delivery',
    ...more,
  };
}

export async function addPack(
  agent: TestAgent,
  typeId: string,
  tag: string,
  more: object = {},
): Promise<PackDetails> {
  const { body } = await agent
    .post('/api/packs')
    .send(packBody(typeId, tag, more))
    .expect(201);
  return body as PackDetails;
}

/** A record of any kind as a client sends it. */
export function recordBody(kind: string, payload: object, at: Instant = NOW) {
  return { id: newId(), at, kind, payload, supersedes: null };
}

export function readingBody(cellsMv: readonly number[], more: object = {}, payload: object = {}) {
  return {
    id: newId(),
    kind: 'reading',
    at: NOW - HOUR_MS,
    supersedes: null,
    payload: {
      volts: { of: 'cells', cellsMv },
      condition: 'rested',
      instrument: null,
      meterErrorMv: 5,
      temperatureC: null,
      remarks: null,
      ...payload,
    },
    ...more,
  };
}

/** A scheduled inspection with everything in order but what is named. */
export function inspectionPayload(
  more: Partial<InspectionPayload> = {},
  wrong: Marks = {},
): InspectionPayload {
  const occasion = more.occasion ?? 'scheduled';
  return {
    occasion,
    items: answeredItems(DEFAULT_CHECKLISTS[occasion], wrong),
    swelling: 'none',
    thicknessMm: null,
    massG: null,
    remarks: null,
    ...more,
  };
}

export function roundBody(more: object = {}) {
  return {
    id: newId(),
    kind: 'put-away',
    title: 'Put-away',
    checklist: false,
    placeId: null,
    fliesAt: null,
    packIds: [],
    ...more,
  };
}

/** An incident as it is reported in the field: that it happened, and to which packs. */
export function incidentBody(packIds: readonly string[] = [], report: object = {}, at = NOW - HOUR_MS) {
  return {
    id: newId(),
    entries: [
      {
        id: newId(),
        at,
        kind: 'reported',
        payload: {
          kind: 'crash',
          place: null,
          what: null,
          packIds,
          personIds: [],
          craft: null,
          charger: null,
          harm: null,
          photoIds: [],
          holds: true,
          ...report,
        },
      },
    ],
    packRecords: packIds.map((packId) => ({ packId, recordId: newId() })),
  };
}

export function recyclerBody(more: object = {}) {
  return {
    name: `Recycler ${newId()}`,
    contact: null,
    chemistries: ['lipo', 'lihv', 'liion', 'lifepo4', 'nimh'],
    takesDamaged: true,
    limitKg: null,
    confirmedAt: null,
    ...more,
  };
}

/** Field and message of each reason a request was refused. */
export function reasons(body: unknown): Record<string, string> {
  const { errors = [] } = body as { errors?: { field: string; message: string }[] };
  return Object.fromEntries(errors.map(({ field, message }) => [field, message]));
}

/** An import as a browser begins it. */
export function importBody(more: object = {}) {
  return {
    id: newId(),
    kind: 'packs',
    fileName: 'packs.csv',
    digest: '0'.repeat(64),
    columnsKey: 'Tag|Type',
    reading: { matching: ['tag', 'type'], decimals: 'comma', dates: 'day-first', words: {}, whole: null },
    lines: 2,
    ...more,
  };
}
