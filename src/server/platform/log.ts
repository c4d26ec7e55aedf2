import { pino } from 'pino';
import type { Logger } from 'pino';

export type Log = Logger;

/** One JSON line an event. Cookies and passwords never reach it. */
export function logAt(level: string): Log {
  return pino({
    level,
    redact: ['req.headers.cookie', 'req.headers.authorization', 'res.headers["set-cookie"]'],
  });
}
