import { z } from 'zod';
import type { Operations } from './operation';

export const serverOperations = {
  'GET /health': {
    summary: 'Whether the server and its database answer.',
    action: null,
    answer: z.strictObject({ ok: z.literal(true) }),
  },
  'GET /openapi.json': {
    summary: 'This description.',
    action: null,
    answer: z.looseObject({ openapi: z.string() }),
  },
  'GET /live': {
    summary: 'A stream of what changes: each event names something to ask for again.',
    action: 'register.read',
    answer: 'text/event-stream',
  },
} as const satisfies Operations;
