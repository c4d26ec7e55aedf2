import { randomBytes } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';
import type { PersonId, Instant } from '../../core/measure';
import type { Config } from '../platform/config';
import type { Entities } from '../platform/database';
import type { SignedIn } from '../platform/http';
import { readSetting, writeSettingOnce } from '../platform/settings';
import { Person } from './entities';
import { byKey } from './keys';

declare module 'express-session' {
  interface SessionData {
    personId: PersonId;
  }
}

const COOKIE = 'malle.session';
const LASTS_MS = 14 * 24 * 60 * 60 * 1000;
const PRUNE_SECONDS = 15 * 60;

/** Sessions live in PostgreSQL, so any server process knows them and a restart signs nobody out. */
export async function sessions(
  config: Config,
  pool: Pool,
  em: Entities,
): Promise<{ handler: RequestHandler; close(): void }> {
  const Store = seldomTouched(connectPgSimple(session));
  const store = new Store({ pool, tableName: 'user_session', pruneSessionInterval: PRUNE_SECONDS });
  const handler = session({
    name: COOKIE,
    store,
    secret: await cookieSecret(em),
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: {
      httpOnly: true,
      sameSite: 'strict',
      secure: config.behindTls || config.tls !== null,
      maxAge: LASTS_MS,
      path: '/',
    },
  });
  return { handler, close: () => void store.close() };
}

const TOUCHED_EVERY_MS = 60 * 60 * 1000;
const MOST_REMEMBERED = 10_000;

/**
 * A store that writes a session's new end at most once an hour: it lasts two weeks, and a page that only looks must change nothing in
 * the database, or no answer could be told twice.
 */
function seldomTouched(Store: ReturnType<typeof connectPgSimple>): typeof Store {
  const touchedAt = new Map<string, number>();
  return class extends Store {
    override touch(sid: string, data: session.SessionData, done?: () => void): void {
      const now = Date.now();
      if (now - (touchedAt.get(sid) ?? -Infinity) < TOUCHED_EVERY_MS) return done?.();
      if (touchedAt.size >= MOST_REMEMBERED) touchedAt.clear();
      touchedAt.set(sid, now);
      super.touch(sid, data, done);
    }
  };
}

/** One secret for all processes of a register, made at its first start. */
async function cookieSecret(em: Entities): Promise<string> {
  await writeSettingOnce(em, 'cookie-secret', randomBytes(32).toString('base64'));
  return (await readSetting<string>(em, 'cookie-secret'))!;
}

/** The active person a request's session or key belongs to; null for none, or one whose access was taken away since. */
export async function personOf(req: Request, em: Entities, now: Instant): Promise<SignedIn | null> {
  const authorization = req.get('authorization');
  // What a proxy in front asks for by its own password is none of a key.
  if (authorization && /^bearer /i.test(authorization)) return byKey(em, authorization, now);
  const id = req.session.personId;
  if (!id) return null;
  const person = await em.findOne(Person, { id, active: true });
  return person && { id: person.id, name: person.name, role: person.role };
}

/** Starts a new session for a person; the old one's id dies, so that a planted cookie gains nothing. */
export function startSession(req: Request, personId: PersonId): Promise<void> {
  return new Promise((resolve, reject) => {
    req.session.regenerate((error) => {
      if (error) return reject(error as Error);
      req.session.personId = personId;
      req.session.save((failure) => (failure ? reject(failure as Error) : resolve()));
    });
  });
}

export function endSession(req: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    req.session.destroy((error) => (error ? reject(error as Error) : resolve()));
  });
}
