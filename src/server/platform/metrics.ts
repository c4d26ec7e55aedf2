import type { RequestHandler } from 'express';
import type { RequestListener, ServerResponse } from 'node:http';

/** What the figures are taken from besides the requests themselves. */
export interface Measured {
  /** Browsers that listen for changes. */
  readonly streams: () => number;
  /** What people wait for that is done beside the server. */
  readonly heavyTasks: () => number;
  /** Rejects while the database cannot be asked. */
  readonly database: () => Promise<unknown>;
}

export interface Metrics {
  /** Stands before all routes and notes how long each request took. */
  readonly measures: RequestHandler;
  /** Answers `/metrics`, as Prometheus reads it, and `/health`: on an address of its own, never on the one browsers use. */
  readonly pages: RequestListener;
}

const SECONDS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];
/** A database that does not answer within this is down to whoever waits for it. */
const PATIENCE_MS = 2_000;

/** The figures of this process. They name no person, no pack and nothing that was typed: of an address only its pattern is told. */
export async function openMetrics(measured: Measured): Promise<Metrics> {
  // Few servers are watched; the others need not load it.
  const { Gauge, Histogram, Registry, collectDefaultMetrics } = await import('prom-client');
  const registry = new Registry();
  const registers = [registry];
  collectDefaultMetrics({ register: registry });
  const seconds = new Histogram({
    name: 'malle_request_seconds',
    help: 'How long requests took, by the pattern of their address.',
    labelNames: ['method', 'route', 'status'] as const,
    buckets: SECONDS,
    registers,
  });
  const gauge = (name: string, help: string, value: () => number | Promise<number>) =>
    new Gauge({
      name,
      help,
      registers,
      async collect() {
        this.set(await value());
      },
    });
  gauge('malle_live_streams', 'Browsers that listen for changes.', measured.streams);
  gauge('malle_heavy_tasks', 'Printing, pictures and reports under way or waiting.', measured.heavyTasks);
  gauge('malle_database_up', 'Whether the database can be asked: 1 or 0.', async () =>
    Number(await isUp(measured)),
  );

  return {
    measures: (req, res, next) => {
      const end = seconds.startTimer();
      res.once('close', () => {
        // A stream lasts as long as a page is open.
        if (res.getHeader('content-type') === 'text/event-stream') return;
        const { pattern } = res.locals as { readonly pattern?: string };
        end({ method: req.method, route: pattern ?? 'other', status: String(res.statusCode) });
      });
      next();
    },
    pages: (req, res) => {
      void answer(req.url ?? '', res);
    },
  };

  async function answer(path: string, res: ServerResponse): Promise<void> {
    if (path === '/metrics') {
      const text = await registry.metrics();
      res.writeHead(200, { 'content-type': registry.contentType }).end(text);
    } else if (path === '/health') {
      const up = await isUp(measured);
      res
        .writeHead(up ? 200 : 503, { 'content-type': 'text/plain' })
        .end(up ? 'The register answers.\n' : 'The database does not answer.\n');
    } else res.writeHead(404).end();
  }
}

async function isUp({ database }: Measured): Promise<boolean> {
  let late: NodeJS.Timeout | undefined;
  const patience = new Promise<never>((_up, down) => {
    late = setTimeout(() => down(new Error('The database took too long.')), PATIENCE_MS);
  });
  try {
    await Promise.race([database(), patience]);
    return true;
  } catch {
    return false;
  } finally {
    clearTimeout(late);
  }
}
