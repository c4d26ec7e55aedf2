import { readFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { faultOf, Fuzzer } from '../src/server/testing/fuzz';
import type { FuzzedRequest } from '../src/server/testing/fuzz';
import { SignedInAsker } from './asker';
import { demoRegister, serve } from './largeRegister';
import { say } from './measure';

const REQUESTS = Number(process.env.FUZZ_REQUESTS ?? 20_000);
const SEED = Number(process.env.SEED ?? 1);
/** What is heavy would take four fifths of the time. */
const HEAVY_SHARE = 0.05;
/** So many ask at once: each sends one request after the other. */
const AT_ONCE = 6;
/** What the server may be silent for: longer is a stall. */
const PATIENCE_MS = 60_000;
/** Workers that print and report are let go after half a minute without work. */
const REST_MS = 45_000;

/**
 * Requests made from the description of the server, right in form and spoiled deep inside, asked by each role and by nobody. Told are the
 * answers that should not be (broken, telling of the inside, none at all), how the answers part, and the server's memory on the way; an
 * interrupted run tells what it has.
 */
export async function benchFuzz(url: string): Promise<void> {
  const server = await serve(await demoRegister(url, 'malle_bench_fuzz'));
  try {
    const session = (await (await fetch(`${server.url}/api/session`)).json()) as {
      demoPeople: readonly { id: string }[];
    };
    const own = session.demoPeople.map(({ id }) => id);
    const fuzzer = new Fuzzer(SEED, { own, now: Date.now(), heavyShare: HEAVY_SHARE });
    const askers = await Promise.all(own.map((id) => SignedInAsker.at(server.url, id)));
    for (const path of [
      '/register',
      '/packs',
      '/rounds',
      '/incidents',
      '/charging',
      '/flying',
      '/end-of-life',
      '/imports',
    ])
      fuzzer.learn(await askers[0]!.json(path), path.slice(1));
    const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE });
    const statuses = new Map<number, number>();
    const faults = new Map<string, string>();
    const slow: string[] = [];
    const tookMs = new Map<string, number>();
    let asked = 0;
    let isEnough = false;
    const enough = () => (isEnough = true);
    process.once('SIGINT', enough);
    const works = async () => {
      while (asked < REQUESTS && !isEnough) {
        asked += 1;
        if (asked % Math.ceil(REQUESTS / 10) === 0)
          say(`After ${asked}`, memoryOf(server.process.pid!), told(statuses));
        const one = fuzzer.next();
        const cookie = asked % 12 === 0 ? '' : askers[asked % askers.length]!.cookie;
        const began = performance.now();
        const { status, text } = await answerTo(server.url, agent, one, cookie);
        const took = performance.now() - began;
        tookMs.set(one.operation, (tookMs.get(one.operation) ?? 0) + took);
        if (took > 5_000) slow.push(`${Math.round(took)} ms ${one.method} ${one.path.slice(0, 120)}`);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        const fault = status === 0 ? text : faultOf(status, text);
        // One example of each says enough.
        if (fault)
          faults.set(
            `${one.operation} ${fault.slice(0, 60)}`,
            `${JSON.stringify(one).slice(0, 1_500)}\n  ${fault}`,
          );
        if (status < 300 && one.method === 'POST') learn(fuzzer, one, text);
        // Whoever was signed out by what was asked goes on.
        if (status === 401 && cookie && asked % 5 === 0)
          askers[asked % askers.length] = await SignedInAsker.at(server.url, own[asked % own.length]);
      }
    };
    const before = performance.now();
    await Promise.all(Array.from({ length: AT_ONCE }, works));
    const seconds = (performance.now() - before) / 1_000;
    process.removeListener('SIGINT', enough);
    say(`${asked} requests, seed ${SEED}`, `${Math.round(asked / seconds)} a second`, told(statuses));
    say('Took the most', ...mostOf(tookMs));
    await new Promise((rested) => setTimeout(rested, REST_MS));
    say('The server’s memory after it had rested', memoryOf(server.process.pid!));
    say('Answers that took longer than 5 s', String(slow.length), ...slow.slice(0, 5));
    say('Answers that should not be (wanted 0)', String(faults.size));
    for (const [name, example] of faults) say(name, `\n  ${example}`);
  } finally {
    server.process.kill('SIGKILL');
  }
}

function learn(fuzzer: Fuzzer, { path }: FuzzedRequest, text: string): void {
  try {
    fuzzer.learn(JSON.parse(text), path.split('/').at(-1)!);
  } catch {
    // A file, which says no ids.
  }
}

function answerTo(
  base: string,
  agent: Agent,
  { method, path, headers, body }: FuzzedRequest,
  cookie: string,
): Promise<{ status: number; text: string }> {
  return new Promise((answered) => {
    const failed = (why: Error) => answered({ status: 0, text: `no answer: ${why.message}` });
    const { port } = new URL(base);
    const asked = request(
      {
        host: '127.0.0.1',
        port,
        method,
        path,
        agent,
        headers: {
          ...(cookie ? { cookie } : {}),
          ...headers,
          ...(body === null ? {} : { 'content-length': Buffer.byteLength(body) }),
        },
        timeout: PATIENCE_MS,
      },
      (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.once('end', () =>
          answered({ status: answer.statusCode!, text: Buffer.concat(parts).toString() }),
        );
        answer.once('error', failed);
      },
    );
    asked.once('timeout', () => asked.destroy(new Error('the server is silent')));
    asked.once('error', failed);
    asked.end(body ?? undefined);
  });
}

/** The eight operations that took the longest together, and which part of the whole each was. */
function mostOf(tookMs: ReadonlyMap<string, number>): string[] {
  const all = [...tookMs.values()].reduce((sum, ms) => sum + ms, 0);
  return [...tookMs]
    .sort(([, a], [, b]) => b - a)
    .slice(0, 8)
    .map(([operation, ms]) => `${operation} ${((ms / all) * 100).toFixed(1)} %`);
}

function memoryOf(pid: number): string {
  const kB = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1];
  return `${Math.round(Number(kB) / 1_024)} MB`;
}

function told(statuses: ReadonlyMap<number, number>): string {
  return [...statuses]
    .sort(([a], [b]) => a - b)
    .map(([status, count]) => `${status}: ${count}`)
    .join('  ');
}
