import { randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import type { NewCodesAnswer } from '../../contract';
import type { Instant, PersonId } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { Refused, refusedField } from '../platform/problems';
import { isSealed } from '../platform/signing';
import type { Signer } from '../platform/signing';
import { passwordHash, passwordMatches } from './passwords';

/** Codes of six figures for half a minute each, as every phone's program makes them (RFC 6238). */
const STEP_SECONDS = 30;
/** A phone's clock may be a step ahead or behind. */
const STEPS_OFF = 1;
const SECRET_BYTES = 20;
const SPARE_CODES = 10;
/** Fifty bits. That is not enough for a plain hash, so they are kept as passwords are. */
const SPARE_LETTERS = 10;

function codesOf(secret: string, login: string): TOTP {
  return new TOTP({
    issuer: 'Malle',
    label: login,
    period: STEP_SECONDS,
    secret: Secret.fromBase32(secret),
  });
}

/** Begins to get codes from a phone: a picture that was only looked at is worth nothing any more. @throws a refusal while a phone's codes count */
export async function beginCodes(
  em: Entities,
  signer: Signer | null,
  person: Known,
): Promise<NewCodesAnswer> {
  const secret = new Secret({ buffer: new Uint8Array(randomBytes(SECRET_BYTES)).buffer }).base32;
  const begun: unknown[] = await em.execute(
    `insert into one_time_code (person_id, secret) values (?, ?)
     on conflict (person_id) do update set secret = excluded.secret, last_step = 0
       where one_time_code.proven_at is null returning person_id`,
    [person.id, signer ? signer.seal(secret, person.id) : secret],
  );
  if (begun.length === 0)
    throw new Refused('not-allowed', {
      detail: 'A phone gives codes already. Take those away first, then set up the other phone.',
    });
  return { secret, address: codesOf(secret, person.login).toString() };
}

interface Known {
  readonly id: PersonId;
  readonly login: string;
}

interface CodesRow {
  /** As it stands in the database: sealed, where the register has a key. */
  readonly secret: string;
  readonly isProven: boolean;
}

/** A phone's secret; null where only another key than the register's of now could tell. */
function secretOf({ secret }: CodesRow, signer: Signer | null, id: PersonId): string | null {
  if (!isSealed(secret)) return secret;
  return signer?.unseal(secret, id) ?? null;
}

async function codesRow(em: Entities, id: PersonId): Promise<CodesRow | null> {
  const [row]: CodesRow[] = await em.execute(
    `select secret, proven_at is not null as "isProven" from one_time_code where person_id = ?`,
    [id],
  );
  return row ?? null;
}

/**
 * Takes the first code: from then on one is asked for at every sign-in.
 * @returns spare codes for when the phone is lost, told this once
 * @throws a refusal at the field `code`
 */
export async function proveCodes(
  em: Entities,
  signer: Signer | null,
  person: Known,
  code: string,
  now: Instant,
): Promise<readonly string[]> {
  const row = await codesRow(em, person.id);
  if (!row) throw new Refused('not-found', { detail: 'Begin with a picture for the phone.' });
  if (row.isProven) throw new Refused('not-allowed', { detail: 'The codes of this phone count already.' });
  if (!(await isCodeNow(em, signer, person, row, code)))
    throw refusedField('code', 'This is not the code of now. Look at the phone’s clock, and type the next.');
  const spare = Array.from({ length: SPARE_CODES }, spareCode);
  const hashes = await Promise.all(spare.map((one) => passwordHash(bare(one))));
  await em.transactional(async (tx) => {
    await tx.execute('update one_time_code set proven_at = ? where person_id = ?', [
      timestamp(now),
      person.id,
    ]);
    await tx.execute('delete from spare_code where person_id = ?', [person.id]);
    await tx.execute(
      `insert into spare_code (person_id, hash) select ?::uuid, jsonb_array_elements_text(?::jsonb)`,
      [person.id, JSON.stringify(hashes)],
    );
  });
  return spare;
}

/**
 * How a sign-in stands by its code, empty for none: none is asked for, it is missing, it is wrong, or it is right and used up.
 * `unreadable` where the register's key is another than the phone was set up with: then a spare code alone is right.
 */
export async function codeAnswers(
  em: Entities,
  signer: Signer | null,
  person: Known,
  code: string,
): Promise<'not-asked' | 'missing' | 'wrong' | 'unreadable' | 'right'> {
  const row = await codesRow(em, person.id);
  if (!row?.isProven) return 'not-asked';
  if (code === '') return 'missing';
  if (await isCodeNow(em, signer, person, row, code)) return 'right';
  if (await useSpare(em, person.id, code)) return 'right';
  return secretOf(row, signer, person.id) === null ? 'unreadable' : 'wrong';
}

/** Whether a phone shows this code about now and it was not used yet; it is used by asking. */
async function isCodeNow(
  em: Entities,
  signer: Signer | null,
  person: Known,
  row: CodesRow,
  code: string,
): Promise<boolean> {
  const secret = secretOf(row, signer, person.id);
  if (secret === null) return false;
  const token = code.replace(/\s/g, '');
  const now = Date.now();
  const off = codesOf(secret, person.login).validate({ token, timestamp: now, window: STEPS_OFF });
  if (off === null) return false;
  const step = Math.floor(now / 1_000 / STEP_SECONDS) + off;
  const used: unknown[] = await em.execute(
    'update one_time_code set last_step = ? where person_id = ? and secret = ? and last_step < ? returning person_id',
    [step, person.id, row.secret, step],
  );
  return used.length > 0;
}

/** Has somebody sign in without codes again. */
export async function endCodes(em: Entities, id: PersonId): Promise<void> {
  await em.execute('delete from spare_code where person_id = ?', [id]);
  await em.execute('delete from one_time_code where person_id = ?', [id]);
}

/** Letters and figures that nobody takes for another: five, a dash, five. */
const ALPHABET = 'abcdefghijkmnpqrstuvwxyz23456789';

function spareCode(): string {
  const letters = [...randomBytes(SPARE_LETTERS)].map((byte) => ALPHABET[byte % ALPHABET.length]!).join('');
  return `${letters.slice(0, SPARE_LETTERS / 2)}-${letters.slice(SPARE_LETTERS / 2)}`;
}

/** A spare code however it is typed. */
function bare(code: string): string {
  return code.toLowerCase().replace(/[^a-z0-9]/g, '');
}

/** Whether this is one of somebody's spare codes; it is used up by asking. */
async function useSpare(em: Entities, id: PersonId, code: string): Promise<boolean> {
  const said = bare(code);
  if (said.length !== SPARE_LETTERS) return false;
  const kept: { hash: string }[] = await em.execute('select hash from spare_code where person_id = ?', [id]);
  for (const { hash } of kept) {
    if (!(await passwordMatches(hash, said))) continue;
    // Of two who say the same at once, one is let in.
    const used: unknown[] = await em.execute(
      'delete from spare_code where person_id = ? and hash = ? returning hash',
      [id, hash],
    );
    return used.length > 0;
  }
  return false;
}
