import type { Request, RequestHandler, Response, Router } from 'express';
import { z } from 'zod';
import { DELTA_IM, OPERATIONS, successOf } from '../../contract';
import type { FieldProblem, KnownOperation, Logged, Operation } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Action, Role } from '../../core/lifecycle';
import type { Instant, PersonId } from '../../core/measure';
import type { Database, Entities } from './database';
import type { Clock } from './clock';
import { sendFile } from './file';
import type { FileAnswer } from './file';
import type { Heavily, HeavyWork } from './heavy';
import { JsonText } from './jsonText';
import { Refused, refusedField } from './problems';
import type { Mail } from './mail';
import type { Signer } from './signing';
import { whileAsked } from './progress';
import { ENCODINGS } from './shared';
import type { Lasts, SharedAnswers, SharedJson } from './shared';
import type { Turns } from './turns';

/** Who is asking. */
export interface SignedIn {
  readonly id: PersonId;
  readonly name: string;
  readonly role: Role;
  /** Why a custodian is let in as a deputy; left out for everybody else. */
  readonly heldBy?: 'second-factor' | 'bench';
}

type Of<Name extends KnownOperation> = (typeof OPERATIONS)[Name];
type Output<Schema> = Schema extends z.ZodType ? z.output<Schema> : undefined;
type Member<Thing, Key extends string> = Thing extends Readonly<Record<Key, infer Value>> ? Value : undefined;

/** What a handler works with once a request has been identified, authorised and parsed. */
export interface Asked<Name extends KnownOperation> {
  /** Null where nobody need be signed in. */
  readonly person: Of<Name>['action'] extends null ? null : SignedIn;
  readonly body: Output<Member<Of<Name>, 'body'>>;
  readonly query: Output<Member<Of<Name>, 'query'>>;
  readonly params: Readonly<Record<string, string>>;
  readonly em: Entities;
  readonly now: Instant;
  readonly req: Request;
  /** What would keep everybody else waiting is done beside the server. */
  readonly heavily: Heavily;
  /** Reads much of the register at once: one such thing at a time for each person, so that nobody's haste keeps others waiting. */
  readonly inTurn: <Answer>(work: () => Promise<Answer>) => Promise<Answer>;
}

/** What a handler gives back: the contract's answer, nothing where it has none, a file where it is one. */
type Answered<Answer> = Answer extends z.ZodType
  ? z.input<Answer>
  : Answer extends string
    ? FileAnswer
    : void;

/** Who does something, when and by what, as the register's log tells it; null for somebody the register does not know. */
export interface Doer {
  readonly by: PersonId | null;
  readonly at: Instant;
  readonly through: 'key' | null;
}

type LoggedWork = <Answer>(
  em: Entities,
  logs: Logged,
  doer: Doer,
  id: string | null,
  work: (tx: Entities) => Promise<Answer>,
) => Promise<Answer>;

export interface Api {
  readonly database: Database;
  readonly clock: Clock;
  /** Whether every answer is held against the contract before it is sent; costly, so in tests only. */
  readonly checksAnswers: boolean;
  readonly shared: SharedAnswers;
  readonly heavy: HeavyWork;
  readonly turns: Turns;
  /** Whether the server's disk has room for what is written. */
  readonly hasRoom: () => boolean;
  /** Signs checkpoints; null where this server has no key. */
  readonly signer: Signer | null;
  /** Sends the register's own letters; null where no mail server is set. */
  readonly mail: Mail | null;
  /** Does the work of an operation that the register's log tells of, and writes what it changed, in one transaction. */
  readonly logged: LoggedWork;
  /** The person behind a request's session, or its key; null for nobody. */
  identify(req: Request, em: Entities, now: Instant): Promise<SignedIn | null>;
  /** Whether it is surely the person themself who asks, and not whoever found their page open. */
  isSure(req: Request, em: Entities, personId: PersonId): Promise<boolean>;
  /** What could be seen in the database when a request was identified, by the database's own name for it; null where nobody looked. */
  seenBy(req: Request): string | null;
}

/**
 * Adds the route of one operation. Stages: identify, authorise, parse, then the handler, whose result is answered as the
 * contract says. Whoever lacks the right never learns whether the body was sound.
 */
export function route<Name extends KnownOperation>(
  router: Router,
  api: Api,
  name: Name,
  handle: (
    asked: Asked<Name>,
  ) => Promise<Answered<Of<Name>['answer']> | JsonText<Answered<Of<Name>['answer']>>>,
): void {
  const operation: Operation = OPERATIONS[name];
  rawRoute(router, api, name, async (asked, res) => {
    const { logs } = operation;
    const answer: unknown = logs
      ? await api.logged(asked.em, logs, doerOf(asked), asked.params.id ?? null, (tx) =>
          handle({ ...asked, em: tx }),
        )
      : await handle(asked);
    if (typeof operation.answer === 'string') sendFile(res, answer as FileAnswer);
    else {
      if (api.checksAnswers) check(name, operation, answer);
      res.status(successOf(name, operation));
      if (operation.answer === null) res.end();
      else if (answer instanceof JsonText) res.type('json').send(answer.text);
      else res.json(answer);
    }
  });
}

/** What a script's key comes in; null for a session. What a proxy in front asks for by its own password is none of a key. */
export function keyIn(req: Request): string | null {
  const authorization = req.get('authorization') ?? '';
  return /^bearer /i.test(authorization) ? authorization : null;
}

/** Who asks. */
export function doerOf({ person, now, req }: DoerAsked): Doer {
  return { by: person?.id ?? null, at: now, through: keyIn(req) ? 'key' : null };
}

/** As much of what was asked as tells who asks. */
export interface DoerAsked {
  readonly person: SignedIn | null;
  readonly now: Instant;
  readonly req: Request;
}

/**
 * Adds the route of an operation whose answer is the same for everybody who may ask: it is worked out once for all who ask while
 * nothing changes, in one reading of the database. The handler does not learn who asks, and can write nothing. Whoever names the answer
 * they have, and says that they understand it, is told what has become another since (delta encoding, RFC 3229).
 * @param lasts until when time alone leaves the answer as it is
 */
export function sharedRoute<Name extends KnownOperation>(
  router: Router,
  api: Api,
  name: Name,
  lasts: Lasts,
  handle: (
    asked: Pick<Asked<Name>, 'em' | 'query' | 'params' | 'now'>,
  ) => Promise<Answered<Of<Name>['answer']> | JsonText<Answered<Of<Name>['answer']>>>,
): void {
  const operation: Operation = OPERATIONS[name];
  rawRoute(router, api, name, async ({ em, query, params, req }, res) => {
    const answer = await api.shared.answerTo(req.originalUrl, em, {
      clock: api.clock,
      lasts,
      seen: api.seenBy(req),
      answer: async (tx, now) => {
        const made: unknown = await handle({ em: tx, query, params, now });
        if (api.checksAnswers) check(name, operation, made);
        return made;
      },
    });
    res.set('ETag', `"${answer.tag}"`);
    const known = /^(?:W\/)?"([^"]+)"$/.exec(req.get('if-none-match') ?? '')?.[1] ?? null;
    if (known === answer.tag) {
      res.status(304).end();
      return;
    }
    const delta = known !== null && req.get('a-im') === DELTA_IM ? answer.since(known) : null;
    if (delta) res.status(226).set({ IM: DELTA_IM, 'Delta-Base': `"${known}"` });
    else res.status(successOf(name, operation));
    await sendShared(req, res, delta ?? answer);
  });
}

/** Below this, packing saves nothing. */
const LEAST_PACKED_BYTES = 1_024;

async function sendShared(req: Request, res: Response, { json, packed }: SharedJson): Promise<void> {
  const how = json.length < LEAST_PACKED_BYTES ? false : req.acceptsEncodings(...ENCODINGS);
  const encoding = ENCODINGS.find((one) => one === how);
  const body = encoding ? await packed(encoding) : json;
  res.type('json').vary('Accept-Encoding').set('Content-Length', String(body.length));
  if (encoding) res.set('Content-Encoding', encoding);
  res.end(body);
}

/** Adds the route of an operation whose handler writes its answer itself: a stream, a picture. */
export function rawRoute<Name extends KnownOperation>(
  router: Router,
  api: Api,
  name: Name,
  handle: (asked: Asked<Name>, res: Response) => Promise<void>,
): void {
  const operation: Operation = OPERATIONS[name];
  const [method, path] = name.split(' ') as [Uppercase<Method>, string];
  const handler: RequestHandler = async (req, res) => {
    res.locals.pattern = `/api${path}`;
    const { person, em } = operation.action
      ? await admitted(api, req, operation.action)
      : { person: null, em: api.database.entities() };
    if (operation.confirms && person && !(await api.isSure(req, em, person.id)))
      throw new Refused('confirm-first');
    if (operation.action && method !== 'GET' && !api.hasRoom()) throw new Refused('no-room');
    // Nothing is called by what cannot be kept.
    if (textNotKept(req.params) !== null) throw new Refused('not-found');
    const asked = {
      person,
      em,
      req,
      body: operation.body && parsed(operation.body, req.body),
      query: operation.query && parsed(operation.query, plainQuery(req)),
      params: req.params as Record<string, string>,
      now: api.clock.now(),
      heavily: heavilyFor(api, person, res),
      inTurn: (work: () => Promise<unknown>) =>
        person ? api.turns.take(person.id, whileAsked(res), work) : work(),
    };
    // The table has told the compiler what the same table has just parsed.
    await handle(asked as unknown as Asked<Name>, res);
  };
  router[method.toLowerCase() as Method](path, handler);
}

/** Nobody has anything heavy done without saying who they are. */
function heavilyFor({ heavy }: Api, person: SignedIn | null, res: Response): Heavily {
  return (task, input, told) => {
    if (!person) throw new Refused('signed-out');
    return heavy.do(task, input, { personId: person.id, signal: whileAsked(res), told });
  };
}

type Method = 'get' | 'post' | 'put' | 'delete';

/** @throws when an answer is not what the contract says: a programmer's error, looked for in tests only. */
function check(name: string, { answer: schema }: Operation, answer: unknown): void {
  if (schema === null || typeof schema === 'string') return;
  const result = schema.safeParse(
    JSON.parse(answer instanceof JsonText ? answer.text : JSON.stringify(answer)),
  );
  if (!result.success)
    throw new Error(`The answer of ${name} is not as described.\n${z.prettifyError(result.error)}`);
}

/** Whoever asks, if they may do this. */
export async function admitted(
  api: Api,
  req: Request,
  action: Action,
): Promise<{ readonly person: SignedIn; readonly em: Entities }> {
  const em = api.database.entities();
  const person = await api.identify(req, em, api.clock.now());
  if (!person) throw new Refused('signed-out');
  // Whom a refusal is told of, in the lines of the server.
  if (req.res) req.res.locals.personId = person.id;
  if (!mayDo(person.role, action)) throw new Refused('not-allowed');
  return { person, em };
}

/** The body as the schema understands it; refuses with one reason a field. */
export function parsed<Schema extends z.ZodType>(schema: Schema, body: unknown): z.output<Schema> {
  const odd = textNotKept(body);
  if (odd !== null) throw refusedField(odd, 'This holds a character that cannot be kept.');
  const result = schema.safeParse(body ?? {});
  if (!result.success) throw new Refused('invalid-input', { errors: fieldProblems(result.error) });
  return result.data;
}

/** Whether PostgreSQL can keep this text: it holds neither a NUL nor half of a character. */
function isKept(text: string): boolean {
  return !text.includes('\u0000') && !/\p{Surrogate}/u.test(text);
}

/** Where in what came a text stands that cannot be kept, dots between; null for nowhere. */
function textNotKept(said: unknown, at: readonly string[] = []): string | null {
  if (typeof said === 'string') return isKept(said) ? null : at.join('.');
  if (typeof said !== 'object' || said === null) return null;
  for (const [key, value] of Object.entries(said)) {
    const found = isKept(key) ? textNotKept(value, [...at, key]) : [...at, 'text'].join('.');
    if (found !== null) return found;
  }
  return null;
}

function fieldProblems(error: z.ZodError): FieldProblem[] {
  return error.issues.flatMap((issue) => {
    const at = issue.path.join('.');
    if (issue.code !== 'unrecognized_keys') return [{ field: at, message: issue.message }];
    return issue.keys.map((key) => ({
      field: at ? `${at}.${key}` : key,
      message: 'This field is not known here.',
    }));
  });
}

/** A path parameter that must be an id; anything else names nothing. */
export function idParam<Id extends string>(params: Readonly<Record<string, string>>, name = 'id'): Id {
  const value = z.uuid().safeParse(params[name]);
  if (!value.success) throw new Refused('not-found');
  return value.data.toLowerCase() as Id;
}

function plainQuery(req: Request): Record<string, string> {
  return Object.fromEntries(
    Object.entries(req.query).filter((entry): entry is [string, string] => typeof entry[1] === 'string'),
  );
}

/** The address this server was asked at, for what leads back here from paper or another program. */
export function publicAddress(req: Request): string {
  return `${req.protocol}://${req.host || 'localhost'}`;
}
