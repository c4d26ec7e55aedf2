import type { RequestListener } from 'node:http';
import { resolve } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import express from 'express';
import type { Express } from 'express';
import helmet from 'helmet';
import { Pool } from 'pg';
import { v7 as newId } from 'uuid';
import { pinoHttp } from 'pino-http';
import { openApi } from '../contract';
import { calendarFile, calendarRoutes } from './calendar/routes';
import { chargingRoutes } from './charging/routes';
import { openDoor } from './devices';
import type { Door } from './devices';
import { deviceRoutes } from './devices/routes';
import { evidenceRoutes, keepCheckpoints } from './evidence';
import { exchangeRoutes } from './exchange/routes';
import { Craft } from './flying';
import { flyingRoutes } from './flying/routes';
import { incidentRoutes } from './incidents/routes';
import { labelRoutes } from './labels/routes';
import { keepPacked, layDownFirstRules } from './ledger';
import { ledgerRoutes } from './ledger/routes';
import { packRows } from './packs';
import { packRoutes } from './packs/routes';
import { Pack, PackTag } from './packs/entities';
import { Person } from './people/entities';
import { peopleRoutes } from './people/routes';
import { factorRoutes } from './people/factorRoutes';
import { keyRoutes } from './people/keyRoutes';
import { sessionRoutes } from './people/sessionRoutes';
import { logged, logRoutes } from './log';
import { isStillIn, isSure, personOf, seenBy, sessions } from './people/sessions';
import { signInThrottle } from './people/throttle';
import { clockFrom } from './platform/clock';
import type { Config } from './platform/config';
import { openDatabase } from './platform/database';
import type { Database } from './platform/database';
import type { Api } from './platform/http';
import { HeavyWork } from './platform/heavy';
import { connectionTo } from './platform/hosts';
import { openLive } from './platform/live';
import { watchMachine } from './platform/machine';
import { openMail } from './platform/mail';
import { openMetrics } from './platform/metrics';
import type { Log } from './platform/log';
import { openSigner } from './platform/signing';
import { sameOrigin } from './platform/origin';
import { rawRoute, route } from './platform/http';
import { Refused, problemHandler } from './platform/problems';
import { writeSettingOnce } from './platform/settings';
import { throughProxy } from './platform/proxy';
import { SharedAnswers } from './platform/shared';
import { Turns } from './platform/turns';
import { webApplication, withNonce } from './platform/web';
import { photoRoutes } from './photos/routes';
import { recyclingRoutes } from './recycling/routes';
import { Equipment, Instrument, PackType, Place, Recycler } from './register/entities';
import { registerRoutes } from './register/routes';
import { reportRoutes } from './reports/routes';
import { roundRoutes } from './rounds/routes';
import { rejudging } from './rules/rejudge';
import { rulesRoutes } from './rules/routes';
import { todayRoutes } from './today/routes';

const ENTITIES = [Person, PackType, Place, Instrument, Recycler, Equipment, Craft, Pack, PackTag];
const LARGEST_BODY = '512kb';

/** Opens the register's database: tables up to date, house rules laid down. */
export async function openRegister(databaseUrl: string, now = Date.now()): Promise<Database> {
  const database = await openDatabase(databaseUrl, ENTITIES);
  await layDownFirstRules(database.entities(), now);
  // A backup does not have it, so a register that was brought back has another, and browsers notice.
  await writeSettingOnce(database.entities(), 'epoch', newId());
  return database;
}

export interface App {
  readonly express: Express;
  readonly database: Database;
  /** Answers whoever watches this process, on an address of its own; null where nobody does. */
  readonly metrics: RequestListener | null;
  /** Where instruments knock: takes over a connection that becomes a WebSocket. */
  readonly upgrade: Door['upgrade'];
  /** Ends the streams that would otherwise keep the server from draining. */
  endStreams(): Promise<void>;
  /** Gives every database connection back; for when no request is running any more. */
  close(): Promise<void>;
}

/** The whole server without its socket. */
export async function openApp(config: Config, log: Log): Promise<App> {
  const clock = clockFrom(config.fixedNow);
  const database = await openRegister(config.databaseUrl, clock.now());
  const pool = new Pool({ ...connectionTo(config.databaseUrl), max: 4 });
  pool.on('error', (err) => log.warn({ err }, 'Session connection to the database lost'));
  const live = await openLive(config.databaseUrl, log, (ids) =>
    packRows(database.entities(), clock.now(), ids),
  );
  const signer = config.signingKey === null ? null : openSigner(config.signingKey);
  const session = await sessions(config, pool, database.entities(), signer);
  const mail = config.mail && openMail(config.mail);
  const machine = watchMachine(database, config.databaseUrl, {
    clock,
    log,
    leastSpaceMb: config.leastSpaceMb,
  });
  const api: Api = {
    database,
    clock,
    identify: personOf,
    isSure,
    seenBy,
    checksAnswers: config.checksAnswers,
    shared: new SharedAnswers(),
    heavy: new HeavyWork(),
    turns: new Turns(),
    hasRoom: machine.hasRoom,
    signer,
    mail,
    logged,
  };
  const door = openDoor(api, live, log);
  const rejudge = rejudging(database, api.heavy, log);
  // A server that stopped while judging under new rules left packs behind.
  rejudge.begin();
  const packing = keepPacked(database, machine.hasRoom, log);
  const { checkpoints: folder } = config;
  const keeping = signer && keepCheckpoints(database, signer, { clock, log, folder, mail });

  const metrics =
    config.metrics &&
    (await openMetrics({
      streams: () => live.streams(),
      heavyTasks: () => api.heavy.tasks(),
      database: () => database.entities().execute('select 1'),
    }));

  const app = express();
  app.disable('x-powered-by');
  if (metrics) app.use(metrics.measures);
  if (config.behindTls) app.set('trust proxy', 1);
  app.use(
    pinoHttp({
      logger: log,
      autoLogging: { ignore: (req) => !req.url?.startsWith('/api') },
      useLevel: 'debug',
    }),
  );
  app.use(withNonce());
  app.use(securityHeaders(config));
  const isCompressed: compression.CompressionFilter = (req, res) =>
    !req.path.startsWith('/api/live') && compression.filter(req, res);
  app.use(compression({ filter: (req, res) => isCompressed(req, res) && !isPacked(req) }));
  app.use(
    compression({
      filter: (req, res) => isCompressed(req, res) && isPacked(req),
      strategy: constants.Z_HUFFMAN_ONLY,
    }),
  );

  const router = express.Router();
  router.use((_req, res, next) => {
    res.set('cache-control', 'no-store');
    next();
  });
  if (config.behindTls) router.use(throughProxy());
  route(router, api, 'GET /health', async ({ em }) => {
    await em.execute('select 1');
    return { ok: true as const };
  });
  // Putting it together takes a sixth of a start, and few ever ask.
  let description: ReturnType<typeof openApi> | null = null;
  route(router, api, 'GET /openapi.json', () => Promise.resolve((description ??= openApi())));
  // A calendar program has no session; its address is the secret.
  router.use(calendarFile(api));
  router.use(sameOrigin());
  router.use(express.json({ limit: LARGEST_BODY, strict: true }));
  router.use(session.handler);
  router.use(sessionRoutes(api, signInThrottle(pool)));
  rawRoute(router, api, 'GET /live', ({ req, person }, res) =>
    live.stream(res, {
      personId: person.id,
      mayListen: () => isStillIn(req, database.entities(), clock.now()),
    }),
  );
  const features = [
    packRoutes,
    ledgerRoutes,
    roundRoutes,
    chargingRoutes,
    deviceRoutes,
    flyingRoutes,
    photoRoutes,
    labelRoutes,
    incidentRoutes,
    recyclingRoutes,
    reportRoutes,
    todayRoutes,
    peopleRoutes,
    factorRoutes,
    keyRoutes,
    exchangeRoutes,
    logRoutes,
    evidenceRoutes,
  ];
  for (const routes of features) router.use(routes(api));
  router.use(registerRoutes(api, rejudge));
  router.use(rulesRoutes(api, rejudge));
  router.use(calendarRoutes(api));
  router.use(() => {
    throw new Refused('not-found');
  });
  app.use('/api', router);
  // A phone fetches what it is to trust from here, before it trusts anything.
  const authority = config.tls?.authority;
  if (authority)
    app.get('/authority.crt', (_req, res) =>
      res.type('application/x-x509-ca-cert').sendFile(resolve(authority), { dotfiles: 'allow' }),
    );
  if (config.webRoot) app.use(webApplication(config.webRoot));
  app.use(problemHandler(log));

  return {
    express: app,
    database,
    metrics: metrics?.pages ?? null,
    upgrade: (req, socket, head) => door.upgrade(req, socket, head),
    endStreams: async () => {
      await door.close();
      await live.close();
    },
    close: async () => {
      await machine.stop();
      await keeping?.stop();
      await packing.stop();
      await rejudge.stop();
      await api.heavy.close();
      await door.close();
      await live.close();
      session.close();
      await pool.end();
      await database.close();
    },
  };
}

/** Ledgers that are packed already, in base64: nothing repeats in that, and its letters alone are written shorter in a quarter of the time. */
function isPacked({ path, query }: express.Request): boolean {
  return path === '/api/offline-packs' || (path === '/api/histories' && query.packed === 'yes');
}

/** Everything comes from this origin. Styles that dialogs make at run time carry the page's nonce. */
function securityHeaders(config: Config) {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        // The solver of the plan's bound is WebAssembly; nothing else than a compiled module is allowed by this.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", (_req, res) => `'nonce-${(res as express.Response).locals.nonce as string}'`],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: config.behindTls,
    referrerPolicy: { policy: 'same-origin' },
  });
}
