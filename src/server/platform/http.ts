import type { Request, RequestHandler, Response, Router } from 'express';
import { z } from 'zod';
import type { FieldProblem } from '../../contract';
import { mayDo } from '../../core/lifecycle';
import type { Action, Role } from '../../core/lifecycle';
import type { Instant, PersonId } from '../../core/measure';
import type { Database, Entities } from './database';
import type { Clock } from './clock';
import { Refused } from './problems';

/** Who is asking. */
export interface SignedIn {
  readonly id: PersonId;
  readonly name: string;
  readonly role: Role;
}

/** What a handler works with once a request has been identified, authorised and parsed. */
export interface Asked<Body> {
  readonly person: SignedIn;
  readonly body: Body;
  readonly params: Readonly<Record<string, string>>;
  readonly query: Readonly<Record<string, string>>;
  readonly em: Entities;
  readonly now: Instant;
}

export interface Api {
  readonly database: Database;
  readonly clock: Clock;
  /** The person behind a request's session, or null. */
  identify(req: Request, em: Entities): Promise<SignedIn | null>;
}

type Method = 'get' | 'post' | 'put' | 'delete';

/**
 * Adds one route. Stages: identify, authorise, parse, then the handler, whose result is answered as JSON
 * (201 for a POST). Whoever lacks the right never learns whether the body was sound.
 */
export function route<Schema extends z.ZodType>(
  router: Router,
  api: Api,
  method: Method,
  path: string,
  needs: { readonly action: Action; readonly body?: Schema },
  handle: (asked: Asked<z.output<Schema>>) => Promise<unknown>,
): void {
  const handler: RequestHandler = async (req, res) => {
    const { person, em } = await admitted(api, req, needs.action);
    const body = needs.body ? parsed(needs.body, req.body) : (undefined as z.output<Schema>);
    const params = req.params as Record<string, string>;
    const answer = await handle({ person, body, params, query: plainQuery(req), em, now: api.clock.now() });
    sendAnswer(res, method === 'post' ? 201 : 200, answer);
  };
  router[method](path, handler);
}

/** Whoever asks, if they may do this. */
export async function admitted(
  api: Api,
  req: Request,
  action: Action,
): Promise<{ readonly person: SignedIn; readonly em: Entities }> {
  const em = api.database.entities();
  const person = await api.identify(req, em);
  if (!person) throw new Refused('signed-out');
  if (!mayDo(person.role, action)) throw new Refused('not-allowed');
  return { person, em };
}

export function sendAnswer(res: Response, status: number, answer: unknown): void {
  res.status(answer === undefined ? 204 : status);
  if (answer === undefined) res.end();
  else res.json(answer);
}

/** The body as the schema understands it; refuses with one reason a field. */
export function parsed<Schema extends z.ZodType>(schema: Schema, body: unknown): z.output<Schema> {
  const result = schema.safeParse(body ?? {});
  if (!result.success) throw new Refused('invalid-input', { errors: fieldProblems(result.error) });
  return result.data;
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
  return `${req.protocol}://${req.get('host') ?? 'localhost'}`;
}
