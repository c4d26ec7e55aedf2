import { DELTA_IM, problemCode, withDelta } from '../../contract';
import type {
  AnswerTo,
  Askable,
  CallArguments,
  Delta,
  FieldProblem,
  Json,
  Problem,
  ProblemCode,
  ProgressLine,
} from '../../contract';

/** A request that did not succeed. `problem` is null when no answer came: no network, or no server. */
export class FailedRequest extends Error {
  constructor(readonly problem: Problem | null) {
    super(problem?.title ?? 'No connection to the register.');
  }

  get code(): ProblemCode | null {
    return this.problem && problemCode(this.problem);
  }

  get fields(): readonly FieldProblem[] {
    return this.problem?.errors ?? [];
  }

  /** The first thing that is wrong, in one sentence. */
  get says(): string {
    return this.fields[0]?.message ?? this.problem?.detail ?? this.message;
  }

  /** Whether the same request may succeed later without anybody changing it. */
  get mayPass(): boolean {
    return (
      this.problem === null ||
      this.problem.status >= 500 ||
      this.problem.status === 429 ||
      this.code === 'signed-out'
    );
  }
}

/** Whether something failed because no answer came: no network, or no server. */
export function noAnswer(error: unknown): boolean {
  return error instanceof FailedRequest && error.problem === null;
}

type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

let signedOut: () => void = () => undefined;

/** Has this called whenever the server no longer knows who is asking, so that the way back in is shown. */
export function onSignedOut(listener: () => void): void {
  signedOut = listener;
}

let confirmed: () => Promise<boolean> = () => Promise.resolve(false);

/** Has this asked whether it is surely the person themself, before something that changes who can come in. */
export function onConfirmFirst(confirm: () => Promise<boolean>): void {
  confirmed = confirm;
}

/**
 * Asks the server for one operation of the contract, which types what is sent and what is answered.
 * @throws {@link FailedRequest} for everything but the answer
 */
export async function ask<Name extends Askable>(
  name: Name,
  ...[call]: CallArguments<Name>
): Promise<AnswerTo<Name>> {
  const [method, path] = name.split(' ') as [Method, string];
  const { params, query, body } = (call ?? {}) as LooseCall;
  return (await request(method, addressOf(path, params, query), body)) as AnswerTo<Name>;
}

interface LooseCall {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Readonly<Record<string, string | number>>;
  readonly body?: unknown;
}

function addressOf(path: string, params: LooseCall['params'] = {}, query: LooseCall['query'] = {}): string {
  const filled = path.replace(/:(\w+)/g, (_all, name: string) => encodeURIComponent(params[name] ?? ''));
  const asked = new URLSearchParams(Object.entries(query).map(([key, value]) => [key, String(value)]));
  return asked.size > 0 ? `${filled}?${asked.toString()}` : filled;
}

/** The same for an address put together elsewhere: what it answers is not known to the compiler. */
export async function request(method: Method, path: string, body?: unknown): Promise<unknown> {
  const before = method === 'GET' ? known.get(path) : undefined;
  const response = await send(method, path, body, before);
  if (response.status === 204) return undefined;
  if (before && response.status === 304) return before.answer;
  known.delete(path);
  const told: unknown = await response.json().catch(() => null);
  // A change that arrived broken is of no use; without the older answer the whole is told.
  if (before && response.status === 226 && !told) return request(method, path, body);
  const answer = before && response.status === 226 ? withDelta(before.answer, told as Delta) : told;
  if (!response.ok) {
    const failed = new FailedRequest(isProblem(answer) ? answer : null);
    if (failed.code === 'signed-out') signedOut();
    if (failed.code === 'confirm-first' && (await confirmed())) return request(method, path, body);
    throw failed;
  }
  const tag = response.headers.get('etag');
  // What is asked with a query is asked once.
  if (method === 'GET' && tag && !path.includes('?')) remember(path, { tag, answer: answer as Json });
  return answer;
}

/** An answer of the register, and what it is called there. */
interface Known {
  readonly tag: string;
  readonly answer: Json;
}

/** What this page was answered last, by address: of what has changed since, the rest is not sent again. */
const known = new Map<string, Known>();
const MOST_KNOWN = 24;

function remember(path: string, answered: Known): void {
  known.set(path, answered);
  // First in the map is what was answered longest ago.
  for (const oldest of known.keys()) if (known.size > MOST_KNOWN) known.delete(oldest);
}

declare global {
  interface Window {
    /** What the page asked for before the application had arrived; see public/early.js. */
    malleEarly?: Record<string, Promise<Response | null> | undefined>;
  }
}

/** What the application has asked for itself, of what may be asked early. */
const askedHere = new Set<string>();
const EARLY: readonly string[] = ['/session', '/today'];

/**
 * The answer to what was asked early, once; null where this was not. An application that the browser had kept may be here before that: what it asks
 * for a second time is no longer what was asked early.
 */
async function takeEarly(path: string): Promise<Response | null> {
  if (!EARLY.includes(path) || askedHere.has(path)) return null;
  askedHere.add(path);
  return (await globalThis.window?.malleEarly?.[path]) ?? null;
}

async function send(method: Method, path: string, body: unknown, before?: Known): Promise<Response> {
  try {
    const early = method === 'GET' ? await takeEarly(path) : null;
    if (early) return early;
    return await fetch(`/api${path}`, {
      method,
      headers: {
        accept: 'application/json',
        ...(method === 'GET' ? {} : { 'content-type': 'application/json' }),
        ...(before ? { 'if-none-match': before.tag, 'a-im': DELTA_IM } : {}),
      },
      ...(method === 'GET' ? {} : { body: JSON.stringify(body ?? {}) }),
    });
  } catch {
    throw new FailedRequest(null);
  }
}

/**
 * Asks for what takes the server a while; hears how far it is. Given up by the signal, the server stops as well.
 * @throws {@link FailedRequest} when it fails, also in the middle
 */
export async function askWhileTold<Answer>(
  path: string,
  told: (done: number, of: number) => void,
  signal: AbortSignal,
): Promise<Answer> {
  const response = await fetch(`/api${path}`, { headers: { accept: 'application/x-ndjson' }, signal }).catch(
    failedUnless(signal),
  );
  if (!response.ok || !response.body) {
    const answer: unknown = await response.json().catch(() => null);
    throw new FailedRequest(isProblem(answer) ? answer : null);
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  for (;;) {
    const { done, value } = await reader.read().catch(failedUnless(signal));
    if (done) throw new FailedRequest(null);
    const lines = (text + value).split('\n');
    text = lines.pop()!;
    for (const line of lines.map((one) => JSON.parse(one) as ProgressLine<Answer>)) {
      if ('answer' in line) return line.answer;
      told(line.done, line.of);
    }
  }
}

/** What was given up is no failure; everything else is. */
function failedUnless(signal: AbortSignal): (error: unknown) => never {
  return (error) => {
    throw signal.aborted ? error : new FailedRequest(null);
  };
}

/** Sends a file's bytes as they are: a picture, an archive. */
export async function sendFile(
  path: string,
  file: Blob,
  type = file.type || 'application/octet-stream',
): Promise<void> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, { method: 'PUT', headers: { 'content-type': type }, body: file });
  } catch {
    throw new FailedRequest(null);
  }
  if (response.ok) return;
  const answer: unknown = await response.json().catch(() => null);
  throw new FailedRequest(isProblem(answer) ? answer : null);
}

function isProblem(answer: unknown): answer is Problem {
  return typeof answer === 'object' && answer !== null && 'status' in answer && 'title' in answer;
}
