import { createHash, randomBytes } from 'node:crypto';
import type { SignInLinkAnswer } from '../../contract';
import { DAY_MS } from '../../core/measure';
import type { Instant, PersonId } from '../../core/measure';
import { asInstant, timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { Refused } from '../platform/problems';
import { chosenPassword } from './passwords';
import { endSessionsOf } from './sessions';

/** A link waits so long for whoever it was made for. */
const LASTS_MS = 3 * DAY_MS;

/**
 * Makes a link with which a person chooses a password, their first or a new one. Any link made before, their old password, PIN, badge and
 * passkeys, and every session of theirs end at once: who asks for a link may have lost a phone. Codes of a phone are still asked for.
 */
export async function makeSignInLink(
  em: Entities,
  personId: PersonId,
  madeBy: PersonId | null,
  now: Instant,
): Promise<SignInLinkAnswer> {
  const secret = randomBytes(24).toString('base64url');
  const endsAt = now + LASTS_MS;
  await em.transactional(async (tx) => {
    await tx.execute(
      `insert into sign_in_link (person_id, hash, made_by, ends_at) values (?, ?, ?, ?)
       on conflict (person_id) do update set hash = excluded.hash, made_by = excluded.made_by, ends_at = excluded.ends_at`,
      [personId, hashOf(secret), madeBy, timestamp(endsAt)],
    );
    await tx.execute('update person set password_hash = null, version = version + 1 where id = ?', [
      personId,
    ]);
    await tx.execute('delete from passkey where person_id = ?', [personId]);
    await tx.execute('delete from bench_pass where person_id = ?', [personId]);
    await endSessionsOf(tx, personId);
  });
  return { secret, endsAt };
}

interface Invited {
  readonly id: PersonId;
  readonly name: string;
  readonly login: string;
}

/** Whom a link was made for; refuses one that was used, was replaced or is too old. */
export async function invitedBy(em: Entities, secret: string, now: Instant): Promise<Invited> {
  const [row]: (Invited & { readonly endsAt: Instant })[] = await em.execute(
    `select p.id, p.name, p.login, ${asInstant('l.ends_at')} as "endsAt"
       from sign_in_link l join person p on p.id = l.person_id where l.hash = ? and p.active`,
    [hashOf(secret)],
  );
  if (!row || row.endsAt <= now)
    throw new Refused('not-found', {
      detail:
        'This link was used already, or is too old, or a newer one was made. Ask a custodian for another.',
    });
  return row;
}

/** Takes the password whoever has the link chose; the link is worth nothing after that. */
export async function acceptLink(
  em: Entities,
  secret: string,
  password: string,
  now: Instant,
): Promise<Invited> {
  const person = await invitedBy(em, secret, now);
  const hash = await chosenPassword(password, person);
  await em.transactional(async (tx) => {
    const used: unknown[] = await tx.execute('delete from sign_in_link where hash = ? returning person_id', [
      hashOf(secret),
    ]);
    // Somebody else was quicker with the same link.
    if (used.length === 0) await invitedBy(tx, secret, now);
    await tx.execute('update person set password_hash = ?, version = version + 1 where id = ?', [
      hash,
      person.id,
    ]);
    await endSessionsOf(tx, person.id);
  });
  return person;
}

function hashOf(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}
