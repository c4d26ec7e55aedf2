import { execFileSync, spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { Client } from 'pg';

const DATABASE = 'malle_pair';
const AS_ROOT = process.getuid?.() === 0;

/** A database that takes writes and one that follows it, each a PostgreSQL of its own: nothing is acknowledged before both have it. */
export class PostgresPair {
  readonly #folder = mkdtempSync(join(tmpdir(), 'malle-pair-'));
  readonly #bin: string;
  readonly #servers: ChildProcess[] = [];
  #ports: readonly number[] = [];

  constructor() {
    // Jest cannot load what runs before anything is installed, so that runs by itself.
    const script = `import('./scripts/postgres.mjs').then((all) => console.log(all.findBinaries()))`;
    this.#bin = execFileSync(process.execPath, ['-e', script], { encoding: 'utf8' }).trim();
    chmodSync(this.#folder, 0o755);
    if (AS_ROOT) execFileSync('chown', ['postgres:postgres', this.#folder]);
  }

  async open(): Promise<void> {
    this.#ports = await Promise.all([freePort(), freePort()]);
    const [first, second] = [join(this.#folder, 'first'), join(this.#folder, 'second')];
    this.#run('initdb', [
      '-D',
      first,
      '-U',
      'malle',
      '-A',
      'trust',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
      '--no-sync',
    ]);
    this.#start(0, first);
    await this.#until(0);
    const primary = this.#url(0, 'postgres');
    this.#run('pg_basebackup', ['-d', primary, '-D', second, '-R', '--no-sync', '-c', 'fast']);
    this.#start(1, second);
    await this.#until(1);
    await execute(primary, `create database ${DATABASE}`);
    await execute(primary, `alter system set synchronous_standby_names = '*'`);
    await execute(primary, 'select pg_reload_conf()');
  }

  /** The address a server is given: the one that follows stands first. */
  get url(): string {
    const [first, second] = this.#ports;
    return `postgres://malle@127.0.0.1:${second},127.0.0.1:${first}/${DATABASE}`;
  }

  /** Ends the one that takes writes without a word, or has its machine fall silent: nothing is answered and nothing is closed. */
  fell(how: 'killed' | 'silent'): void {
    this.#signal(0, how === 'killed' ? 'SIGKILL' : 'SIGSTOP');
  }

  /** Has the one that follows take writes from now on, alone. */
  async promote(): Promise<void> {
    const second = this.#url(1, 'postgres');
    await execute(second, 'select pg_promote()');
    await execute(second, `alter system set synchronous_standby_names = ''`);
    await execute(second, 'select pg_reload_conf()');
  }

  close(): void {
    for (const index of this.#servers.keys()) this.#signal(index, 'SIGKILL');
    rmSync(this.#folder, { recursive: true, force: true, maxRetries: 5 });
  }

  #url(index: number, database: string): string {
    return `postgres://malle@127.0.0.1:${this.#ports[index]}/${database}`;
  }

  #start(index: number, data: string): void {
    const set = ['listen_addresses=127.0.0.1', 'unix_socket_directories=', 'max_connections=60', 'fsync=off'];
    const [program, args] = this.#asOwner('postgres', [
      ...['-D', data, '-p', String(this.#ports[index])],
      ...set.flatMap((one) => ['-c', one]),
    ]);
    this.#servers[index] = spawn(program, args, { stdio: 'ignore', cwd: '/' });
  }

  async #until(index: number): Promise<void> {
    for (let tries = 0; ; tries += 1) {
      try {
        return await execute(this.#url(index, 'postgres'), 'select 1');
      } catch (error) {
        if (tries > 300) throw error;
        await pause(100);
      }
    }
  }

  #run(name: string, args: readonly string[]): void {
    const [program, rest] = this.#asOwner(name, args);
    execFileSync(program, rest, { stdio: 'pipe', cwd: '/' });
  }

  /** PostgreSQL refuses to run as root. */
  #asOwner(name: string, args: readonly string[]): [string, string[]] {
    const program = join(this.#bin, name);
    return AS_ROOT ? ['runuser', ['-u', 'postgres', '--', program, ...args]] : [program, [...args]];
  }

  /** To a server and everything it started. */
  #signal(index: number, signal: NodeJS.Signals): void {
    for (const pid of this.#processesOf(index)) {
      try {
        process.kill(pid, signal);
      } catch (error) {
        // It ended with the one before it.
        if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error;
      }
    }
  }

  #processesOf(index: number): number[] {
    const pids = [this.#servers[index]!.pid!];
    const parents = new Map(
      readdirSync('/proc')
        .filter((name) => /^\d+$/.test(name))
        .map((pid) => [Number(pid), parentOf(pid)]),
    );
    for (const pid of pids) for (const [child, parent] of parents) if (parent === pid) pids.push(child);
    return pids.filter((pid) => parents.has(pid));
  }
}

function parentOf(pid: string): number {
  try {
    return Number(/\) \S+ (\d+)/.exec(readFileSync(`/proc/${pid}/stat`, 'utf8'))?.[1]);
  } catch {
    // It has ended meanwhile.
    return 0;
  }
}

async function execute(url: string, sql: string): Promise<void> {
  const client = new Client({ connectionString: url, connectionTimeoutMillis: 5_000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query(sql);
  } finally {
    await client.end();
  }
}

function freePort(): Promise<number> {
  return new Promise((found) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => found(port));
    });
  });
}
