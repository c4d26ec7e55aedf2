import { createHash, randomBytes } from 'node:crypto';
import type { z } from 'zod';
import type { KeyAnswer, NewKeyAnswer, keyForm } from '../../contract';
import type { Actor, Role } from '../../core/lifecycle';
import type { Instant, KeyId, PersonId } from '../../core/measure';
import { DAY_MS, MINUTE_MS } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import type { SignedIn } from '../platform/http';
import { Refused, refusedField } from '../platform/problems';

/** What every key begins with, so that one that leaked is recognised. */
const PREFIX = 'malle_';
const LONGEST_DAYS = 366;

const COLUMNS = `k.id, k.name, k.role, k.person_id as "personId", ${asInstant('k.made_at')} as "madeAt", ${asInstant('k.ends_at')} as "endsAt",
  ${asInstant('k.ended_at')} as "endedAt", ${asInstant('k.used_at')} as "usedAt"`;

/** All keys of scripts, those that still work first. */
export async function keys(em: Entities): Promise<KeyAnswer[]> {
  return em.execute(`select ${COLUMNS} from api_key k order by (k.ended_at is null) desc, k.made_at desc`);
}

/** Makes a key. Only its hash is kept, so it is told this once. */
export async function makeKey(
  em: Entities,
  { id, name, role, endsAt }: z.output<typeof keyForm>,
  maker: Actor,
  now: Instant,
): Promise<NewKeyAnswer> {
  if (endsAt <= now) throw refusedField('endsAt', 'The key would have ended already.');
  if (endsAt > now + LONGEST_DAYS * DAY_MS)
    throw refusedField('endsAt', 'At most a year; make a new one then.');
  const secret = `${PREFIX}${randomBytes(30).toString('base64url')}`;
  const made: unknown[] = await em.execute(
    `insert into api_key (id, name, role, hash, person_id, made_at, ends_at) values (?, ?, ?, ?, ?, ?, ?)
     on conflict (id) do nothing returning id`,
    [id, name, role, hashOf(secret), maker.id, timestamp(now), timestamp(endsAt)],
  );
  if (made.length === 0)
    throw new Refused('id-taken', { detail: 'This key was made already, and told then.' });
  const [key]: KeyAnswer[] = await em.execute(`select ${COLUMNS} from api_key k where k.id = ?`, [id]);
  return { ...key!, secret };
}

/** Ends a key at once. */
export async function endKey(em: Entities, id: KeyId, now: Instant): Promise<void> {
  const ended: unknown[] = await em.execute(
    'update api_key set ended_at = coalesce(ended_at, ?) where id = ? returning id',
    [timestamp(now), id],
  );
  if (ended.length === 0) throw new Refused('not-found', { detail: 'There is no such key.' });
}

interface KeyRow {
  readonly id: KeyId;
  readonly name: string;
  readonly role: Role;
  readonly personId: PersonId;
  readonly person: string;
  readonly usedAt: number | null;
}

/**
 * Whoever asks by a key: the person who made it, with the rights of the key's role. Null for a key that is none or has ended, or whose
 * maker is no custodian any more.
 */
export async function byKey(em: Entities, authorization: string, now: Instant): Promise<SignedIn | null> {
  const secret = /^Bearer (\S+)$/i.exec(authorization)?.[1];
  if (!secret?.startsWith(PREFIX)) return null;
  const [key]: KeyRow[] = await em.execute(
    `select k.id, k.name, k.role, p.id as "personId", p.name as person, ${asInstant('k.used_at')} as "usedAt"
       from api_key k join person p on p.id = k.person_id
      where k.hash = ? and k.ended_at is null and k.ends_at > ? and p.active and p.role = 'custodian'`,
    [hashOf(secret), timestamp(now)],
  );
  if (!key) return null;
  if (key.usedAt === null || now - key.usedAt >= MINUTE_MS)
    await em.execute('update api_key set used_at = ? where id = ?', [timestamp(now), key.id]);
  return { id: key.personId, name: `${key.person}, by ${key.name}`, role: key.role };
}

/** A key is long and random, so a plain hash is enough and costs nothing at each request. */
function hashOf(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}
