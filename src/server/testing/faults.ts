import { spawn, spawnSync } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { Client } from 'pg';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { HOUR_MS } from '../../core/measure';
import { incidentBody, LIPO_4S, packBody, PASSWORD, readingBody, recyclerBody, roundBody } from './testApp';

/** How long a server or a cluster may take to come back before it counts as gone for good. */
const PATIENCE_MS = 90_000;
/** An answer may take longer: a server that is killed again and again may never get to it. */
const ANSWERED_MS = 600_000;

/** What runs the server: built or from source. */
export type Program = readonly string[];

/** A server and a cluster of their own that may be killed at any moment, and the people who go on working meanwhile. */
export class FaultySite {
  readonly #folder: string;
  readonly #env: NodeJS.ProcessEnv;
  readonly #base: string;
  #server: ChildProcess | null = null;
  #databaseUrl = '';
  #cookie = '';
  #stopped = false;

  /**
   * @param root the project
   * @param folder where the cluster lies, when it must be a certain disk
   */
  constructor(
    readonly root: string,
    readonly program: Program,
    readonly port: number,
    folder?: string,
  ) {
    this.#folder = folder ?? mkdtempSync(join(tmpdir(), 'malle-faults-'));
    // PostgreSQL runs as another user when this runs as root, and must get in.
    chmodSync(this.#folder, 0o755);
    this.#env = { ...process.env, MALLE_DATA: join(this.#folder, 'data') };
    this.#base = `http://127.0.0.1:${port}/api`;
  }

  get databaseUrl(): string {
    return this.#databaseUrl;
  }

  /** Makes the cluster, an empty register and its first custodian. */
  async open(): Promise<void> {
    this.#databaseUrl = this.#startCluster();
    await asAdmin(this.#databaseUrl, (client) => client.query('create database faults'));
    await this.startServer();
    await this.ask('POST', '/setup', { name: 'Ann', login: 'ann', password: PASSWORD });
  }

  /** @param clock what the server takes for the present; the machine's own time when left out */
  async startServer(clock?: string): Promise<void> {
    this.#server = spawn(process.execPath, [...this.program], {
      cwd: this.root,
      env: {
        ...process.env,
        DATABASE_URL: this.#databaseUrl,
        MALLE_PORT: String(this.port),
        MALLE_LOG: 'silent',
        ...(clock ? { MALLE_CLOCK: clock } : {}),
      },
      stdio: 'ignore',
    });
    await until(async () => (await fetch(`${this.#base}/health`)).ok);
  }

  /** Ends the server outright, in the middle of whatever it does, and starts another. */
  async killServer(clock?: string): Promise<void> {
    this.#server?.kill('SIGKILL');
    await this.startServer(clock);
  }

  /** Ends PostgreSQL outright, and leaves it so. */
  endDatabase(): void {
    const pidFile = join(this.#env.MALLE_DATA!, 'pg', 'postmaster.pid');
    process.kill(Number(readFileSync(pidFile, 'utf8').split('\n')[0]), 'SIGKILL');
  }

  /** What starts PostgreSQL again whenever it has ended, once it has seen it run; whoever asks for it ends it. */
  async keepDatabase(): Promise<ChildProcess> {
    const keeper = spawn(process.execPath, ['scripts/postgres.mjs', 'keep'], {
      cwd: this.root,
      env: this.#env,
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    await new Promise((runs) => keeper.stdout.once('data', runs));
    return keeper;
  }

  /** Ends PostgreSQL outright and starts the same cluster, over the remains of the unclean stop, on the same port. */
  async killDatabase(): Promise<void> {
    this.endDatabase();
    if (this.#startCluster() !== this.#databaseUrl) throw new Error('The cluster came back somewhere else.');
    await until(async () => (await fetch(`${this.#base}/health`)).ok);
  }

  /** Cuts every connection between the server and PostgreSQL at once. */
  async cutConnections(): Promise<void> {
    await asAdmin(this.#databaseUrl, (client) =>
      client.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = 'faults'`),
    );
  }

  /** Nobody works any more: what waits for an answer is given up. */
  stopWorking(): void {
    this.#stopped = true;
  }

  close(): void {
    this.#server?.kill('SIGKILL');
    spawnSync(process.execPath, ['scripts/postgres.mjs', 'stop'], { cwd: this.root, env: this.#env });
    rmSync(join(this.#folder, 'data'), { recursive: true, force: true });
  }

  #startCluster(): string {
    const { stdout, stderr } = spawnSync(process.execPath, ['scripts/postgres.mjs', 'address', 'faults'], {
      cwd: this.root,
      env: this.#env,
      encoding: 'utf8',
    });
    const address = stdout.trim().split('\n').at(-1) ?? '';
    if (!address.startsWith('postgres://')) throw new Error(`${stdout}${stderr}`);
    return address;
  }

  /** One request, once. */
  async once(method: string, path: string, body?: object | Buffer): Promise<Response> {
    const json = !Buffer.isBuffer(body);
    const response = await fetch(`${this.#base}${path}`, {
      method,
      headers: { 'content-type': json ? 'application/json' : 'image/png', cookie: this.#cookie },
      signal: AbortSignal.timeout(20_000),
      ...(body === undefined ? {} : { body: json ? JSON.stringify(body) : new Uint8Array(body) }),
    });
    this.#cookie = response.headers.get('set-cookie')?.split(';')[0] ?? this.#cookie;
    return response;
  }

  /**
   * Sends what got no answer again, the way the outbox does, until it is answered.
   * @throws {@link GivenUp} when nobody works any more, and for a refusal
   */
  async ask(method: string, path: string, body?: object | Buffer): Promise<unknown> {
    const since = Date.now();
    for (;;) {
      const answer = await this.once(method, path, body).catch(() => null);
      if (answer?.ok) return answer.status === 204 ? null : await answer.json().catch(() => null);
      if (answer && answer.status < 500 && answer.status !== 401)
        throw new Error(`${method} ${path} was answered ${answer.status}: ${await answer.text()}`);
      if (this.#stopped) throw new GivenUp();
      if (Date.now() - since > ANSWERED_MS) throw new Error(`${method} ${path} was never answered.`);
      await pause(50);
    }
  }
}

/** Something was still without an answer when the work ended: it may be there or not. */
export class GivenUp extends Error {}

/** What was acknowledged, and how to see that it is there, whole and once. */
export interface Acknowledged {
  readonly what: string;
  readonly holds: () => Promise<boolean>;
}

/** Kinds of work that people do: each call does one piece of it and answers what must be there from then on. */
export type Work = () => Promise<Acknowledged>;

/** Everything that is sent from the field or the bench, each on things of its own. */
export async function worksAt(site: FaultySite): Promise<readonly Work[]> {
  const { id: typeId } = (await site.ask('POST', '/pack-types', LIPO_4S)) as { id: string };
  const { id: recyclerId } = (await site.ask('POST', '/recyclers', recyclerBody())) as { id: string };
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: 'teal' } })
    .png()
    .toBuffer();
  const get = async (path: string) => (await (await site.once('GET', path)).json()) as unknown;
  let tags = 0;
  const packs: string[] = [];
  const anyPack = () => packs[Math.floor(Math.random() * packs.length)]!;
  const addPack = async () => {
    const body = packBody(typeId, `F-${++tags}`, { receivedAt: Date.now() - 4 * HOUR_MS });
    await site.ask('POST', '/packs', body);
    packs.push(body.id);
    return body;
  };
  for (let i = 0; i < 6; i++) await addPack();
  const recordsOf = async (packId: string) =>
    ((await get(`/packs/${packId}`)) as { records: { id: string }[] }).records.map(({ id }) => id);
  const onceIn = (ids: readonly string[], id: string) => ids.filter((one) => one === id).length === 1;

  const reads: Work = async () => {
    const [packId, record] = [anyPack(), readingBody([3800, 3810, 3800, 3800], { at: Date.now() - HOUR_MS })];
    await site.ask('POST', '/records', { packId, records: [record] });
    return { what: `reading ${record.id}`, holds: async () => onceIn(await recordsOf(packId), record.id) };
  };
  const delivers: Work = async () => {
    const { tag: _tag, recordId: _id, inServiceAt: _at, ...form } = packBody(typeId, '');
    const pieces = Array.from({ length: 3 }, () => ({ id: newId(), recordId: newId(), tag: `F-${++tags}` }));
    await site.ask('POST', '/deliveries', {
      ...form,
      id: newId(),
      packs: pieces,
      receivedAt: Date.now() - 4 * HOUR_MS,
    });
    packs.push(...pieces.map(({ id }) => id));
    return {
      what: `delivery of ${pieces[0]!.tag}`,
      holds: async () => {
        for (const { id, recordId } of pieces) if (!onceIn(await recordsOf(id), recordId)) return false;
        return true;
      },
    };
  };
  const photographs: Work = async () => {
    const id = newId();
    await site.ask('PUT', `/photos/${id}`, picture);
    return { what: `photo ${id}`, holds: async () => (await site.once('GET', `/photos/${id}`)).ok };
  };
  const reports: Work = async () => {
    const packId = anyPack();
    const photoId = newId();
    await site.ask('PUT', `/photos/${photoId}`, picture);
    const body = incidentBody([packId], { photoIds: [photoId] }, Date.now() - HOUR_MS);
    await site.ask('POST', '/incidents', body);
    return {
      what: `incident ${body.id}`,
      holds: async () => {
        const { entries } = (await get(`/incidents/${body.id}`)) as { entries: { id: string }[] };
        const named = await recordsOf(packId);
        return entries.length === 1 && onceIn(named, body.packRecords[0]!.recordId);
      },
    };
  };
  const goesRound: Work = async () => {
    const own = [await addPack(), await addPack()];
    const round = roundBody({ packIds: own.map(({ id }) => id) });
    await site.ask('POST', '/rounds', round);
    const records = own.map(() => readingBody([3800, 3810, 3800, 3800], { at: Date.now() - HOUR_MS }));
    for (const [i, { id: packId }] of own.entries())
      await site.ask('POST', `/rounds/${round.id}/rows`, {
        packId,
        records: [records[i]!],
        outcome: 'done',
        reason: null,
        at: Date.now() - HOUR_MS,
      });
    await site.ask('POST', `/rounds/${round.id}/close`, {});
    return {
      what: `round ${round.id}`,
      holds: async () => {
        const { closedAt, rows } = (await get(`/rounds/${round.id}`)) as {
          closedAt: number | null;
          rows: { packId: string; outcome: string | null }[];
        };
        for (const [i, { id }] of own.entries())
          if (!onceIn(await recordsOf(id), records[i]!.id)) return false;
        return closedAt !== null && rows.length === 2 && rows.every(({ outcome }) => outcome === 'done');
      },
    };
  };
  const consigns: Work = async () => {
    const id = newId();
    await site.ask('POST', '/consignments', { id, recyclerId });
    return {
      what: `consignment ${id}`,
      holds: async () => (await site.once('GET', `/consignments/${id}`)).ok,
    };
  };
  return [reads, reads, reads, delivers, photographs, reports, goesRound, consigns];
}

/** Lets so many people work, each at one thing after the other, while faults happen; answers what was acknowledged. */
export async function workThrough(
  site: FaultySite,
  works: readonly Work[],
  faults: () => Promise<void>,
): Promise<readonly Acknowledged[]> {
  const acknowledged: Acknowledged[] = [];
  let over = false;
  const working = works.map(async (work) => {
    while (!over) {
      try {
        acknowledged.push(await work());
      } catch (error) {
        if (!(error instanceof GivenUp)) throw error;
      }
    }
  });
  // A worker who fails ends the run, not the process.
  const failed = Promise.all(working);
  failed.catch(() => undefined);
  try {
    await Promise.race([faults(), failed]);
  } finally {
    over = true;
    site.stopWorking();
  }
  await failed;
  return acknowledged;
}

/** What was acknowledged and is not there as it was acknowledged. */
export async function lostOf(acknowledged: readonly Acknowledged[]): Promise<readonly string[]> {
  const lost: string[] = [];
  for (const { what, holds } of acknowledged) if (!(await holds().catch(() => false))) lost.push(what);
  return lost;
}

export async function until(holds: () => Promise<boolean>): Promise<void> {
  const deadline = Date.now() + PATIENCE_MS;
  while (Date.now() < deadline) {
    if (await holds().catch(() => false)) return;
    await pause(50);
  }
  throw new Error('It never came to hold.');
}

async function asAdmin(databaseUrl: string, work: (client: Client) => Promise<unknown>): Promise<void> {
  const client = new Client({ connectionString: databaseUrl.replace(/\/faults$/, '/postgres') });
  client.on('error', () => undefined);
  await client.connect();
  await work(client);
  await client.end();
}
