import type {
  AuthenticationResponseJSON,
  AuthenticatorTransport,
  RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { Request } from 'express';
import { MINUTE_MS } from '../../core/measure';
import type { Instant, PersonId } from '../../core/measure';
import { timestamp } from '../platform/columns';
import type { Entities } from '../platform/database';
import { publicAddress } from '../platform/http';
import { Refused } from '../platform/problems';

/** Loaded by whoever first comes with a passkey: reading certificates takes a fifth of what a server needs to start. */
const webauthn = () => import('@simplewebauthn/server');

/** So long somebody may look for their key. */
const CHALLENGE_MS = 5 * MINUTE_MS;
const MOST_PASSKEYS = 20;

/** What a browser makes a passkey from: bound to the name this register was opened by, and of use once. */
export async function challengeToKeep(
  em: Entities,
  req: Request,
  person: { readonly id: PersonId; readonly name: string; readonly login: string },
) {
  const own = await passkeyRows(em, 'person_id', person.id);
  if (own.length >= MOST_PASSKEYS)
    throw new Refused('not-allowed', { detail: 'These are many passkeys. Take away one that is not used.' });
  const { generateRegistrationOptions } = await webauthn();
  const options = await generateRegistrationOptions({
    rpName: 'Malle',
    rpID: req.hostname,
    userID: new TextEncoder().encode(person.id),
    userName: person.login,
    userDisplayName: person.name,
    attestationType: 'none',
    excludeCredentials: own.map(({ id, transports }) => ({ id, transports })),
    // It stands for name, password and second factor: so it says whose it is, and the device asks who holds it.
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });
  await keepChallenge(em, options.challenge, person.id);
  return { ...options };
}

/** Keeps the passkey a browser made from a challenge of this person's. */
export async function keepPasskey(
  em: Entities,
  req: Request,
  personId: PersonId,
  { name, passkey }: { readonly name: string; readonly passkey: object },
  now: Instant,
): Promise<void> {
  const response = passkey as RegistrationResponseJSON;
  const expectedChallenge = await takeChallenge(em, response, personId);
  const { verifyRegistrationResponse } = await webauthn();
  const { registrationInfo } = await verified(() =>
    verifyRegistrationResponse({
      response,
      expectedChallenge,
      expectedOrigin: publicAddress(req),
      expectedRPID: req.hostname,
    }),
  );
  if (!registrationInfo) throw notTaken();
  const { id, publicKey, counter, transports = [] } = registrationInfo.credential;
  await em.execute(
    `insert into passkey (id, person_id, name, public_key, counter, transports, made_at)
     values (?, ?, ?, decode(?, 'base64'), ?, ?::jsonb, ?) on conflict (id) do nothing`,
    [
      ...[id, personId, name, Buffer.from(publicKey).toString('base64'), counter],
      ...[JSON.stringify(transports), timestamp(now)],
    ],
  );
}

/** What a browser has signed by whichever passkey of this register it keeps. */
export async function challengeToComeIn(em: Entities, req: Request) {
  const { generateAuthenticationOptions } = await webauthn();
  const options = await generateAuthenticationOptions({ rpID: req.hostname, userVerification: 'required' });
  await keepChallenge(em, options.challenge, null);
  return { ...options };
}

/** Whose passkey signed a challenge. @throws a refusal for one that is not known, or signed something else */
export async function personByPasskey(
  em: Entities,
  req: Request,
  passkey: { readonly id: string },
  now: Instant,
): Promise<PersonId> {
  const response = passkey as AuthenticationResponseJSON;
  const expectedChallenge = await takeChallenge(em, response, null);
  const [known] = await passkeyRows(em, 'id', passkey.id);
  if (!known)
    throw new Refused('wrong-passkey', {
      detail: 'This passkey is not known here any more. Sign in by your name and password.',
    });
  const { verifyAuthenticationResponse } = await webauthn();
  const { authenticationInfo, verified: isRight } = await verified(() =>
    verifyAuthenticationResponse({
      response,
      expectedChallenge,
      expectedOrigin: publicAddress(req),
      expectedRPID: req.hostname,
      credential: {
        id: known.id,
        publicKey: new Uint8Array(Buffer.from(known.publicKey, 'base64')),
        counter: known.counter,
        transports: [...known.transports],
      },
    }),
  );
  if (!isRight) throw notTaken();
  await em.execute('update passkey set counter = ?, used_at = ? where id = ?', [
    authenticationInfo.newCounter,
    timestamp(now),
    known.id,
  ]);
  return known.personId;
}

/** Takes one of a person's passkeys away; whether there was one. */
export async function endPasskey(em: Entities, personId: PersonId, id: string): Promise<boolean> {
  const ended: unknown[] = await em.execute(
    'delete from passkey where person_id = ? and id = ? returning id',
    [personId, id],
  );
  return ended.length > 0;
}

interface PasskeyRow {
  readonly id: string;
  readonly personId: PersonId;
  readonly publicKey: string;
  readonly counter: number;
  readonly transports: AuthenticatorTransport[];
}

async function passkeyRows(
  em: Entities,
  by: 'id' | 'person_id',
  value: string,
): Promise<readonly PasskeyRow[]> {
  return em.execute(
    `select id, person_id as "personId", encode(public_key, 'base64') as "publicKey", counter::float8 as counter, transports
       from passkey where ${by} = ?`,
    [value],
  );
}

async function keepChallenge(em: Entities, challenge: string, personId: PersonId | null): Promise<void> {
  const now = Date.now();
  await em.execute('delete from passkey_challenge where ends_at < ?', [timestamp(now)]);
  await em.execute('insert into passkey_challenge (challenge, person_id, ends_at) values (?, ?, ?)', [
    challenge,
    personId,
    timestamp(now + CHALLENGE_MS),
  ]);
}

/** The challenge a browser says it signed, if it was given to this person, or for this purpose, and was not used. */
async function takeChallenge(
  em: Entities,
  { response }: { readonly response: { readonly clientDataJSON: string } },
  personId: PersonId | null,
): Promise<string> {
  const said = challengeIn(response.clientDataJSON);
  const taken: unknown[] = said
    ? await em.execute(
        `delete from passkey_challenge where challenge = ? and ends_at > ? and person_id is not distinct from ?::uuid
         returning challenge`,
        [said, timestamp(Date.now()), personId],
      )
    : [];
  if (said === null || taken.length === 0)
    throw new Refused('wrong-passkey', { detail: 'That took too long, or was sent twice. Try again.' });
  return said;
}

function challengeIn(clientDataJSON: string): string | null {
  try {
    const data = JSON.parse(Buffer.from(clientDataJSON, 'base64url').toString()) as { challenge?: unknown };
    return typeof data.challenge === 'string' ? data.challenge : null;
  } catch {
    return null;
  }
}

/** The package throws for whatever it cannot take; why is nothing a person could mend. */
async function verified<Result>(verify: () => Promise<Result>): Promise<Result> {
  try {
    return await verify();
  } catch {
    throw notTaken();
  }
}

function notTaken(): Refused {
  return new Refused('wrong-passkey', {
    detail: 'The passkey does not fit. Was the register opened by another name than when it was made?',
  });
}
