import { createHash, randomBytes, scrypt } from 'node:crypto';
import { promisify } from 'node:util';
import { parseCookie } from 'cookie';
import type { Request, Response } from 'express';
import { v7 as newId } from 'uuid';
import type { BenchPassAnswer, PersonAnswer, SharedBenchAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { Instant, PersonId } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { announce } from '../platform/live';
import { refusedField } from '../platform/problems';
import { passwordHash, passwordMatches } from './passwords';

/** Says that a browser is a shared bench; whoever has a PIN comes in there, and nowhere else. */
const COOKIE = 'malle.bench';
const KEPT_MS = 400 * DAY_MS;

export interface Bench {
  readonly id: string;
  readonly name: string;
}

/** The shared bench a request comes from; null for every other browser. */
export async function benchOf(req: Request, em: Entities): Promise<Bench | null> {
  const secret = parseCookie(req.get('cookie') ?? '')[cookieName(req)];
  if (!secret) return null;
  const [bench]: Bench[] = await em.execute(
    'select id, name from shared_bench where hash = ? and ended_at is null',
    [hashOf(secret)],
  );
  return bench ?? null;
}

/** Makes the browser that asks a shared bench; one that it was before is none any more. */
export async function makeSharedBench(
  em: Entities,
  req: Request,
  name: string,
  madeBy: PersonId,
  now: Instant,
): Promise<SharedBenchAnswer> {
  const before = await benchOf(req, em);
  if (before) await endSharedBench(em, before.id, now);
  const secret = randomBytes(24).toString('base64url');
  const id = newId();
  await em.execute('insert into shared_bench (id, name, hash, made_by, made_at) values (?, ?, ?, ?, ?)', [
    id,
    name,
    hashOf(secret),
    madeBy,
    timestamp(now),
  ]);
  responseTo(req).cookie(cookieName(req), secret, {
    httpOnly: true,
    sameSite: 'strict',
    secure: req.secure,
    maxAge: KEPT_MS,
    path: '/',
  });
  return { id, name, madeBy, madeAt: now, isThis: true };
}

export async function sharedBenches(em: Entities, req: Request): Promise<SharedBenchAnswer[]> {
  const here = await benchOf(req, em);
  const rows: Omit<SharedBenchAnswer, 'isThis'>[] = await em.execute(
    `select id, name, made_by as "madeBy", ${asInstant('made_at')} as "madeAt" from shared_bench where ended_at is null order by name`,
  );
  return rows.map((row) => ({ ...row, isThis: row.id === here?.id }));
}

/** Ends a shared bench, and the session of whoever came in there by PIN or badge; whether there was one. */
export async function endSharedBench(em: Entities, id: string, now: Instant): Promise<boolean> {
  const ended: unknown[] = await em.execute(
    'update shared_bench set ended_at = ? where id = ? and ended_at is null returning id',
    [timestamp(now), id],
  );
  const out: { personId: PersonId }[] = await em.execute(
    `delete from user_session where sess ->> 'benchId' = ? returning (sess ->> 'personId')::uuid as "personId"`,
    [id],
  );
  for (const { personId } of out) await announce(em, { about: 'access', personId });
  return ended.length > 0;
}

/** Who has a PIN, by name. */
export async function peopleWithPin(em: Entities): Promise<PersonAnswer[]> {
  return em.execute(
    `select p.id, p.name, p.role from bench_pass b join person p on p.id = b.person_id
      where p.active and b.pin_hash is not null order by p.name`,
  );
}

export async function benchPassOf(em: Entities, id: PersonId): Promise<BenchPassAnswer> {
  const [row]: BenchPassAnswer[] = await em.execute(
    `select pin_hash is not null as "hasPin", badge_hash is not null as "hasBadge" from bench_pass where person_id = ?`,
    [id],
  );
  return row ?? { hasPin: false, hasBadge: false };
}

/** Sets, or takes away, a PIN and a badge; what is not named stays. */
export async function setBenchPass(
  em: Entities,
  id: PersonId,
  { pin, badge }: { readonly pin?: string | null | undefined; readonly badge?: string | null | undefined },
): Promise<void> {
  if (typeof pin === 'string' && isFirstGuess(pin))
    throw refusedField('pin', 'This PIN is among those that are tried first. Choose another.');
  const pinHash = typeof pin === 'string' ? await passwordHash(pin) : null;
  const badgeHash = typeof badge === 'string' ? await badgeHashOf(badge) : null;
  await em.transactional(async (tx) => {
    const others: unknown[] = badgeHash
      ? await tx.execute('select from bench_pass where badge_hash = ? and person_id <> ?', [badgeHash, id])
      : [];
    if (others.length > 0) throw refusedField('badge', 'This badge is somebody else’s.');
    await tx.execute(
      `insert into bench_pass (person_id, pin_hash, badge_hash) values (?, ?, ?)
       on conflict (person_id) do update set
         pin_hash = case when ? then excluded.pin_hash else bench_pass.pin_hash end,
         badge_hash = case when ? then excluded.badge_hash else bench_pass.badge_hash end`,
      [id, pinHash, badgeHash, pin !== undefined, badge !== undefined],
    );
  });
}

/** Whether this is the PIN of somebody who may come in; null where it is not, in the same time. */
export async function personByPin(em: Entities, id: PersonId, pin: string): Promise<PersonAnswer | null> {
  const [row]: (PersonAnswer & { readonly pinHash: string | null })[] = await em.execute(
    `select p.id, p.name, p.role, b.pin_hash as "pinHash" from person p left join bench_pass b on b.person_id = p.id
      where p.id = ? and p.active`,
    [id],
  );
  if (!(await passwordMatches(row?.pinHash ?? null, pin)) || !row) return null;
  return { id: row.id, name: row.name, role: row.role };
}

/** Whose badge this is, of those who may come in. */
export async function personByBadge(em: Entities, badge: string): Promise<PersonAnswer | null> {
  const [person]: PersonAnswer[] = await em.execute(
    `select p.id, p.name, p.role from bench_pass b join person p on p.id = b.person_id
      where b.badge_hash = ? and p.active`,
    [await badgeHashOf(badge)],
  );
  return person ?? null;
}

/** One figure again and again, or figures in a row. */
function isFirstGuess(pin: string): boolean {
  const steps = new Set([...pin].slice(1).map((figure, at) => Number(figure) - Number(pin[at])));
  return steps.size === 1 && [-1, 0, 1].some((step) => steps.has(step));
}

const slowHash = promisify(scrypt) as (text: string, salt: string, length: number) => Promise<Buffer>;

/** Badges are looked up by their hash, so all have one salt; a slow hash, since a badge may be a short number. */
async function badgeHashOf(badge: string): Promise<string> {
  return (await slowHash(badge.trim().toUpperCase(), 'malle.badge', 32)).toString('hex');
}

function hashOf(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}

function cookieName(req: Request): string {
  return req.secure ? `__Host-${COOKIE}` : COOKIE;
}

function responseTo(req: Request): Response {
  return req.res!;
}
