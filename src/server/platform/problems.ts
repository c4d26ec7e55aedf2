import type { ErrorRequestHandler, Response } from 'express';
import { problemOf } from '../../contract';
import type { FieldProblem, Problem, ProblemCode } from '../../contract';
import type { Log } from './log';

/** A request that cannot be granted, in the terms of the contract's table of problems. */
export class Refused extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly more: { detail?: string; errors?: readonly FieldProblem[] } = {},
  ) {
    super(code);
  }
}

/** Refuses for one field. */
export function refusedField(field: string, message: string): Refused {
  return new Refused('invalid-input', { errors: [{ field, message }] });
}

/** Refusals that whoever runs the register may want to know of: somebody tries what is not theirs. */
const TELLING: ReadonlySet<ProblemCode> = new Set([
  'confirm-first',
  'foreign-origin',
  'not-allowed',
  'too-many-tries',
  'wrong-sign-in',
]);

/** The one place where failures become answers. Only our own words go out; the rest is logged. */
export function problemHandler(log: Log): ErrorRequestHandler {
  return (error: unknown, { method }, res, next) => {
    // Whoever asked has gone: there is nobody to tell.
    if (res.closed) return;
    if (res.headersSent) {
      next(error);
      return;
    }
    const problem = problemFor(error);
    if (problem.status >= 500) log.error({ err: error }, problem.title);
    if (error instanceof Refused && TELLING.has(error.code)) {
      const { pattern: route, personId } = res.locals;
      log.info({ refused: error.code, method, route, personId }, 'Refused');
    }
    sendProblem(res, problem);
  };
}

export function sendProblem(res: Response, problem: Problem): void {
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

function problemFor(error: unknown): Problem {
  if (error instanceof Refused) return problemOf(error.code, error.more);
  const { type, name, status } = error as { type?: string; name?: string; status?: number };
  if (type === 'entity.too.large' || type === 'parameters.too.many') return problemOf('too-large');
  if (name === 'URIError') return problemOf('not-found');
  // What reads bodies blames the request: no JSON, a set of characters nobody has, something packed that cannot be unpacked.
  if (status !== undefined && status >= 400 && status < 500) return problemOf('not-json');
  // Two edits of the same thing at the same moment: the version was right when each was looked at.
  if (name === 'OptimisticLockError') return problemOf('changed-meanwhile');
  // What a request names was there when it was looked for, or was never looked for: either way the request cannot be granted.
  if (name === 'ForeignKeyConstraintViolationException')
    return problemOf('invalid-input', { detail: 'Something this names is not in the register.' });
  return isPassing(error as Error & { code?: string }) ? problemOf('busy') : problemOf('internal');
}

/** What PostgreSQL's client says without a code when the server is gone in the middle. */
const BROKEN_OFF = 'Connection terminated';

/** Database failures that a later try may not meet: lost or refused connections, restarts, deadlocks, a database that became the one that follows. */
function isPassing({ code, name, message }: { code?: string; name?: string; message?: string }): boolean {
  if (name === 'ConnectionException' || name === 'DeadlockException' || name === 'LockWaitTimeoutException')
    return true;
  if (name === 'KnexTimeoutError') return true;
  if (message?.startsWith(BROKEN_OFF)) return true;
  return code !== undefined && (/^(08|57P|40|53|25006)/.test(code) || /^(ECONN|EPIPE|ETIMEDOUT)/.test(code));
}

/** Whether PostgreSQL refused because a value must be unique. */
export function isUniqueViolation(error: unknown): boolean {
  return (error as { code?: string }).code === '23505';
}
