import type { Response } from 'express';
import type { ProgressLine } from '../../contract';

/** A line of JSON for every step, the last with the answer. */
export const PROGRESS_TYPE = 'application/x-ndjson';
/** Oftener nobody reads it. */
const EVERY_MS = 200;

/** Tells whoever waits how far their answer is. What fails before the first line is answered as everywhere. */
export function progressTo<Answer>(res: Response): {
  readonly told: (done: number, of: number) => void;
  readonly answered: (answer: Answer) => void;
} {
  let toldAt = 0;
  const write = (line: ProgressLine<Answer>) => {
    if (!res.headersSent) res.type(PROGRESS_TYPE).set('cache-control', 'no-store');
    res.write(`${JSON.stringify(line)}\n`);
    // Compression would hold it back until there is enough of it.
    res.flush();
  };
  return {
    told: (done, of) => {
      if (performance.now() - toldAt < EVERY_MS) return;
      toldAt = performance.now();
      write({ done, of });
    },
    answered: (answer) => {
      write({ answer });
      res.end();
    },
  };
}

/** Given up when whoever asked has gone. */
export function whileAsked(res: Response): AbortSignal {
  const gone = new AbortController();
  res.once('close', () => gone.abort());
  return gone.signal;
}
