import type { z } from 'zod';
import type { Action } from '../../core/lifecycle';
import type { Logged } from '../log';

/** What a file is told by. */
export type MediaType =
  | 'application/pdf'
  | 'application/json'
  | 'text/csv; charset=utf-8'
  | 'text/plain; charset=utf-8'
  | 'text/calendar'
  | 'image/jpeg'
  | 'application/gzip'
  | 'text/event-stream';

/**
 * One thing the server can be asked: everything that a handler, a client and the description need to agree on. `action` is what
 * the asker's role must allow, `null` where nobody need be signed in. `answer` is a schema, the type of a file, or null for none.
 */
export interface Operation {
  readonly summary: string;
  readonly action: Action | null;
  readonly query?: z.ZodType;
  readonly body?: z.ZodType;
  /** The type of a body that is not JSON. */
  readonly bytes?: 'image/*' | 'application/gzip';
  readonly answer: z.ZodType | MediaType | null;
  /** It changes who can come in: whoever asks has given their password lately. */
  readonly confirms?: true;
  /** What the register's log says of it; for what changes the register and is no pack's record. */
  readonly logs?: Logged;
  /** The status of a success where the method does not say it: 201 for POST, 204 without an answer, else 200. */
  readonly status?: 200 | 201 | 204;
}

/** An operation's name is how it is asked: method and path. */
export type OperationName = `${'GET' | 'POST' | 'PUT' | 'DELETE'} /${string}`;

export type Operations = Readonly<Record<OperationName, Operation>>;

/** The status of an operation's success. */
export function successOf(name: string, { answer, status }: Operation): number {
  return status ?? (answer === null ? 204 : name.startsWith('POST') ? 201 : 200);
}
