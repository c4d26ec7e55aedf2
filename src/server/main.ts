import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { RequestListener, Server } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { openApp } from './app';
import { configFrom } from './platform/config';
import type { Config } from './platform/config';
import { logAt } from './platform/log';

const DRAIN_MS = 5_000;

/** Starts one server process from environment variables and stops it cleanly on SIGINT or SIGTERM. */
async function main(): Promise<void> {
  const config = configFrom(process.env);
  const log = logAt(config.logLevel);
  const app = await openApp(config, log);
  const server = serverFor(config, app.express);
  server.on('upgrade', app.upgrade);
  const port = await listen(server, config.host, config.port);
  process.stdout.write(
    `Malle is at ${config.tls ? 'https' : 'http'}://${config.host === '0.0.0.0' ? 'localhost' : config.host}:${port}\n`,
  );

  const watched = app.metrics && config.metrics ? createServer(app.metrics) : null;
  if (watched && config.metrics) await listen(watched, config.metrics.host, config.metrics.port);

  const stop = async () => {
    watched?.close();
    const drained = new Promise<void>((resolve) => server.close(() => resolve()));
    await app.endStreams();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), DRAIN_MS).unref();
    await drained;
    await app.close();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => void stop());
}

/** Longer than proxies keep a connection: one that this end closes just as a request comes in fails that request. */
const KEEP_ALIVE_MS = 75_000;

/** Plain on loopback and behind a proxy; by itself over HTTPS with a certificate of one's own. */
function serverFor({ tls }: Config, listener: RequestListener): Server {
  const kept = { keepAliveTimeout: KEEP_ALIVE_MS };
  if (!tls) return createServer(kept, listener);
  const files = { cert: readFileSync(tls.certificate), key: readFileSync(tls.key) };
  return createTlsServer({ ...kept, ...files }, listener);
}

/** Listens on the port asked for, or the next free one, and says which. */
function listen(server: Server, host: string, port: number): Promise<number> {
  return new Promise((resolve, reject) => {
    const attempt = (candidate: number) => {
      server.once('error', (error: NodeJS.ErrnoException) => {
        if (error.code !== 'EADDRINUSE' || candidate >= port + 50) return reject(error);
        process.stdout.write(`Port ${candidate} is taken; trying ${candidate + 1}.\n`);
        attempt(candidate + 1);
      });
      server.listen(candidate, host, () => {
        server.removeAllListeners('error');
        const address = server.address();
        resolve(typeof address === 'object' && address ? address.port : candidate);
      });
    };
    attempt(port);
  });
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
