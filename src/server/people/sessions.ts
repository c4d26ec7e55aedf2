import { createHash, randomBytes } from 'node:crypto';
import Bowser from 'bowser';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';
import type { SignInAnswer } from '../../contract';
import { DAY_MS, HOUR_MS, MINUTE_MS } from '../../core/measure';
import type { PersonId, Instant } from '../../core/measure';
import type { Config } from '../platform/config';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { keyIn } from '../platform/http';
import type { SignedIn } from '../platform/http';
import { announce } from '../platform/live';
import { readSetting, writeSetting, writeSettingOnce } from '../platform/settings';
import type { Signer } from '../platform/signing';
import { LACKS_FACTOR } from './factors';
import { byKey } from './keys';

declare module 'express-session' {
  interface SessionData {
    personId: PersonId;
    /** When somebody signed in, and with what, as the browser calls itself. */
    startedAt: Instant;
    device: string;
    /** When they last gave their password again. */
    confirmedAt: Instant;
    /** The shared bench at which they came in by PIN or badge. */
    benchId: string;
    /** When the browser was last told how long its cookie is good. */
    cookieAt: Instant;
  }
}

const COOKIE = 'malle.session';
const LASTS_MS = 14 * DAY_MS;
/** Who came in at a shared bench is out after a day's work. */
const BENCH_LASTS_MS = 12 * HOUR_MS;
/** However often it is used, a session is over after this: whoever found a forgotten tablet is out in the end. */
const LONGEST_MS = 180 * DAY_MS;
const PRUNE_SECONDS = 15 * 60;

/** Sessions live in PostgreSQL, so any server process knows them and a restart signs nobody out. */
export async function sessions(
  config: Config,
  pool: Pool,
  em: Entities,
  signer: Signer | null,
): Promise<{ handler: RequestHandler; close(): void }> {
  const Store = lookingOnce(neverRevived(seldomTouched(connectPgSimple(session)), pool), pool);
  const store = new Store({ pool, tableName: 'user_session', pruneSessionInterval: PRUNE_SECONDS });
  const isSecure = config.behindTls || config.tls !== null;
  const inSession = session({
    // A browser takes a cookie of the longer name over HTTPS only, and from no other host of the same domain.
    name: isSecure ? `__Host-${COOKIE}` : COOKIE,
    store,
    secret: await cookieSecrets(em, signer, Date.now()),
    resave: false,
    saveUninitialized: false,
    cookie: {
      httpOnly: true,
      sameSite: 'strict',
      secure: isSecure,
      maxAge: LASTS_MS,
      path: '/',
    },
  });
  const handler: RequestHandler = (req, res, next) =>
    inSession(req, res, (error?: unknown) => {
      if (!error) keepCookie(req);
      next(error);
    });
  return { handler, close: () => void store.close() };
}

/**
 * Has the cookie sent again once a day, so that it outlives its two weeks where it is used. With every answer it may not be sent: one that
 * was under way while a password was changed would bring back the cookie of the session that ended by it.
 */
function keepCookie({ session: own }: Request): void {
  if (!own.personId || Date.now() - (own.cookieAt ?? 0) < DAY_MS) return;
  own.cookieAt = Date.now();
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

/** So young a session may still be on its way into the database. */
const NEW_MS = MINUTE_MS;

/** A store that writes an older session only where it still is: a request that was under way while its session ended must not bring it back. */
function neverRevived(Store: ReturnType<typeof connectPgSimple>, pool: Pool): typeof Store {
  return class extends Store {
    override set(sid: string, data: session.SessionData, done?: (error?: unknown) => void): void {
      if (Date.now() - (data.startedAt ?? 0) < NEW_MS) return void super.set(sid, data, done);
      const { expires } = data.cookie;
      const endsAt = expires ? new Date(expires).getTime() : Date.now() + LASTS_MS;
      pool
        .query('update user_session set sess = $1, expire = to_timestamp($2) where sid = $3', [
          JSON.stringify(data),
          endsAt / 1_000,
          sid,
        ])
        .then(
          () => done?.(),
          (error: unknown) => done?.(error),
        );
    }
  };
}

/** Somebody who may come in, as one look at the database shows them. */
interface Known extends Omit<SignedIn, 'heldBy'> {
  readonly accessFrom: Instant | null;
  readonly lacksFactor: boolean;
}

/** {@link Known} of a person `p`, as JSON; null for one whose account is ended. */
const KNOWN = `case when p.active then json_build_object('id', p.id, 'name', p.name, 'role', p.role,
  'accessFrom', ${asInstant('p.access_from')}, 'lacksFactor', ${LACKS_FACTOR}) end`;

/** What one look at the database tells of whoever sent a request. */
interface Look {
  readonly personId: PersonId;
  /** Null for somebody who may not come in. */
  readonly person: Known | null;
  /** The database's own name for what could be seen then. */
  readonly snapshot: string;
}

const lookOf = new WeakMap<Request, Look>();

/**
 * A store that reads with a session whose it is, and what could be seen in the database at that moment: every request wants all three, and each
 * by itself would be another way there and back.
 */
function lookingOnce(Store: ReturnType<typeof connectPgSimple>, pool: Pool): typeof Store {
  interface Row {
    readonly sess: session.SessionData;
    readonly person: Look['person'];
    readonly snapshot: string;
  }
  const found = new WeakMap<object, Look>();
  const read = async (sid: string): Promise<session.SessionData | null> => {
    const { rows } = await pool.query<Row>(
      `select s.sess, pg_current_snapshot()::text as snapshot, ${KNOWN} as person
         from user_session s left join person p on p.id = (s.sess ->> 'personId')::uuid
        where s.sid = $1 and s.expire >= to_timestamp($2)`,
      [sid, Date.now() / 1_000],
    );
    const [row] = rows;
    if (!row) return null;
    const { sess, person, snapshot } = row;
    if (sess.personId) found.set(sess, { personId: sess.personId, person, snapshot });
    return sess;
  };
  return class extends Store {
    override get(sid: string, done: (err: unknown, data?: session.SessionData | null) => void): void {
      read(sid).then(
        (data) => done(null, data),
        (error: unknown) => done(error),
      );
    }

    override createSession(req: Request, data: session.SessionData) {
      const look = found.get(data);
      if (look) lookOf.set(req, look);
      return super.createSession(req, data);
    }
  };
}

/** What could be seen in the database when a request with a session came in; null for one without. */
export function seenBy(req: Request): string | null {
  return lookOf.get(req)?.snapshot ?? null;
}

/**
 * What cookies are signed with, first, and what older ones may be signed with. The secret comes from the register's key, so that nobody
 * can make a cookie of what stands in the database. A register without a key keeps one there, made at its first start; once it has a
 * key, that one is good for as long as cookies last.
 */
export async function cookieSecrets(
  em: Entities,
  signer: Pick<Signer, 'cookieSecret'> | null,
  now: Instant,
): Promise<string[]> {
  if (!signer) await writeSettingOnce(em, 'cookie-secret', randomBytes(32).toString('base64'));
  const stored = await readSetting<string | Replaced>(em, 'cookie-secret');
  if (!signer) return [typeof stored === 'string' ? stored : stored!.secret];
  if (stored === undefined) return [signer.cookieSecret];
  const replaced = typeof stored === 'string' ? { secret: stored, goodUntil: now + LASTS_MS } : stored;
  if (replaced !== stored) await writeSetting(em, 'cookie-secret', replaced);
  return [signer.cookieSecret, ...(now < replaced.goodUntil ? [replaced.secret] : [])];
}

/** A secret of the database that gave way to the key's. */
interface Replaced {
  readonly secret: string;
  readonly goodUntil: Instant;
}

/**
 * The active person a request's session or key belongs to; null for none, or one whose access was taken away since. A custodian is let in as
 * a deputy while the second factor is missing that the register asks for, and where a PIN or a badge was all they gave.
 */
export async function personOf(req: Request, em: Entities, now: Instant): Promise<SignedIn | null> {
  const key = keyIn(req);
  if (key) return byKey(em, key, now);
  const id = req.session.personId;
  if (!id) return null;
  const { startedAt = 0 } = req.session;
  if (startedAt > 0 && Date.now() - startedAt > LONGEST_MS) return null;
  const look = lookOf.get(req);
  // Somebody who came in with this very request was looked up before that.
  const person = look?.personId === id ? look.person : await knownNow(em, id);
  if (!person || (person.accessFrom && startedAt < person.accessFrom)) return null;
  const { name, role } = person;
  const heldBy = req.session.benchId ? 'bench' : person.lacksFactor ? 'second-factor' : null;
  return role === 'custodian' && heldBy ? { id, name, role: 'deputy', heldBy } : { id, name, role };
}

async function knownNow(em: Entities, id: PersonId): Promise<Known | null> {
  const [row]: { person: Known | null }[] = await em.execute(
    `select ${KNOWN} as person from person p where p.id = ?`,
    [id],
  );
  return row?.person ?? null;
}

/** So long after somebody gave their password a page that is open is taken for theirs, whatever it asks for. */
const SURE_MS = 15 * MINUTE_MS;

/**
 * Whether somebody signed in or gave their password lately; a PIN or a badge is less than that. Who has no password has nothing to give; no
 * script's key may do what this is asked for.
 */
export async function isSure(req: Request, em: Entities, id: PersonId): Promise<boolean> {
  const { startedAt = 0, confirmedAt = 0, benchId } = req.session;
  if (Date.now() - Math.max(benchId ? 0 : startedAt, confirmedAt) < SURE_MS) return true;
  const [{ has }]: [{ has: boolean }] = await em.execute(
    'select exists (select from person where id = ? and password_hash is not null) as has',
    [id],
  );
  return !has && !benchId;
}

/**
 * Starts a new session for a person; the old one's id dies, so that a planted cookie gains nothing.
 * @param benchId the shared bench at which a PIN or a badge was given; null for a whole sign-in
 */
export function startSession(req: Request, personId: PersonId, benchId: string | null = null): Promise<void> {
  return new Promise((resolve, reject) => {
    req.session.regenerate((error) => {
      if (error) return reject(error as Error);
      req.session.personId = personId;
      req.session.startedAt = Date.now();
      req.session.cookieAt = Date.now();
      req.session.device = deviceName(req.get('user-agent') ?? '');
      if (benchId !== null) {
        req.session.benchId = benchId;
        req.session.cookie.maxAge = BENCH_LASTS_MS;
      }
      req.session.save((failure) => (failure ? reject(failure as Error) : resolve()));
    });
  });
}

export function endSession(req: Request): Promise<void> {
  return new Promise((resolve, reject) => {
    req.session.destroy((error) => (error ? reject(error as Error) : resolve()));
  });
}

/** What a browser is called in a list of sign-ins. */
export function deviceName(userAgent: string): string {
  if (userAgent === '') return 'an unnamed program';
  const { browser, os, platform } = Bowser.parse(userAgent);
  const machine = platform.type === 'mobile' ? 'phone' : platform.type === 'tablet' ? 'tablet' : null;
  const said = [browser.name, os.name && `on ${os.name}`, machine && `(${machine})`].filter(Boolean);
  // Of what it does not know, the package tells an empty name.
  return browser.name ? said.join(' ') : ['a program', ...said].join(' ');
}

interface SessionRow {
  readonly sid: string;
  readonly startedAt: Instant | null;
  readonly device: string | null;
  readonly endsAt: Instant;
  readonly lasts: number | null;
}

/** Where a person is signed in, the one who asks first and then the newest. A cookie's own id is told to nobody. */
export async function signInsOf(
  em: Entities,
  personId: PersonId,
  currentSid: string,
): Promise<SignInAnswer[]> {
  const rows: SessionRow[] = await em.execute(
    `select sid, (sess ->> 'startedAt')::float8 as "startedAt", sess ->> 'device' as device,
            (extract(epoch from expire::timestamptz) * 1000)::float8 as "endsAt",
            (sess -> 'cookie' ->> 'originalMaxAge')::float8 as lasts
       from user_session where sess ->> 'personId' = ? and expire > now() order by "startedAt" desc nulls last`,
    [personId],
  );
  return rows
    .map(({ sid, startedAt, device, endsAt, lasts }) => ({
      id: publicId(sid),
      device: device ?? 'a browser',
      startedAt,
      // A session's end is moved on as it is used, at most once an hour.
      seenAt: Math.round(endsAt - (lasts ?? LASTS_MS)),
      isThis: sid === currentSid,
    }))
    .sort((a, b) => Number(b.isThis) - Number(a.isThis));
}

/** Ends one of a person's sign-ins; whether there was one. */
export async function endSignIn(em: Entities, personId: PersonId, id: string): Promise<boolean> {
  const rows: { sid: string }[] = await em.execute(
    `select sid from user_session where sess ->> 'personId' = ?`,
    [personId],
  );
  const found = rows.find(({ sid }) => publicId(sid) === id);
  if (!found) return false;
  await em.execute('delete from user_session where sid = ?', [found.sid]);
  await announce(em, { about: 'access', personId });
  return true;
}

/** Ends every session of a person, for good: a sign-in that is under way at this moment is over, too. */
export async function endSessionsOf(em: Entities, personId: PersonId): Promise<void> {
  await em.execute('update person set access_from = ? where id = ?', [timestamp(Date.now()), personId]);
  await em.execute(`delete from user_session where sess ->> 'personId' = ?`, [personId]);
  await announce(em, { about: 'access', personId });
}

function publicId(sid: string): string {
  return createHash('sha256').update(sid).digest('hex').slice(0, 32);
}

/** Whether a request's session is still there: it may have been ended from elsewhere since the request came. */
export async function isStillIn(req: Request, em: Entities, now: Instant): Promise<boolean> {
  if (!keyIn(req)) {
    const isThere = await new Promise<boolean>((told) => req.session.reload((error) => told(!error)));
    if (!isThere) return false;
  }
  return (await personOf(req, em, now)) !== null;
}
