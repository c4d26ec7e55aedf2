import { z } from 'zod';
import { ROLES } from '../../core/lifecycle';
import type { PersonId } from '../../core/measure';
import { idOf, list, moment, version } from './schema';

export const personId = idOf<PersonId>();

export const personAnswer = z
  .strictObject({ id: personId, name: z.string(), role: z.enum(ROLES) })
  .meta({ id: 'Person' });

export const personDetails = z
  .strictObject({
    ...personAnswer.shape,
    login: z.string(),
    active: z.boolean(),
    hasFactor: z.boolean().describe('Whether a second factor, or a passkey, is set up.'),
    hasPassword: z.boolean().describe('Whoever has none comes in by a link that a custodian makes.'),
    version,
  })
  .meta({ id: 'PersonDetails' });

export const clockShape = {
  now: moment.describe('The server’s time when it answered.'),
  frozen: z.boolean().describe('A register for pictures and tests stands still.'),
};

const benchAnswer = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  people: list(personAnswer).describe('Who has a PIN to come in with here.'),
});

const hereShape = {
  ...clockShape,
  bench: benchAnswer
    .nullable()
    .describe('The shared bench this browser stands at; null for everywhere else.'),
  epoch: z
    .string()
    .describe(
      'Another one when the register was brought back from a backup: what was handed in since is to be handed in again.',
    ),
};

export const sessionAnswer = z
  .discriminatedUnion('state', [
    z.strictObject({
      ...hereShape,
      state: z.literal('setup'),
      custodians: list(personAnswer).describe(
        'Those of an archive that was just read: nobody has a password yet, so one of them gives the first. Empty for a new register.',
      ),
    }),
    z.strictObject({ ...hereShape, state: z.literal('signed-out'), demoPeople: list(personAnswer) }),
    z.strictObject({
      ...hereShape,
      state: z.literal('signed-in'),
      person: personAnswer,
      heldBy: z
        .enum(['second-factor', 'bench'])
        .nullable()
        .describe(
          'Why a custodian may do no more than a deputy: the second factor that is asked for is missing, or they came in by PIN or badge.',
        ),
      demo: z.boolean(),
    }),
  ])
  .meta({ id: 'Session' });

export const signInAnswer = z
  .strictObject({
    id: z.string(),
    device: z.string().describe('The browser and the machine, as they call themselves.'),
    startedAt: moment.nullable(),
    seenAt: moment.describe('When it was last used, give or take an hour.'),
    isThis: z.boolean().describe('The one that asks.'),
  })
  .meta({ id: 'SignIn' });

export const signInLinkAnswer = z
  .strictObject({
    secret: z.string().describe('Told this once; the link is /welcome# and this.'),
    endsAt: moment,
  })
  .meta({ id: 'SignInLink' });

export const invitedAnswer = z.strictObject({ name: z.string(), login: z.string() }).meta({ id: 'Invited' });

export const calendarAnswer = z.strictObject({
  path: z
    .string()
    .nullable()
    .describe('Where a calendar program fetches it, beginning with a slash; null until it is asked for.'),
});

export const factorsAnswer = z
  .strictObject({
    asked: z.boolean().describe('Whether this register asks custodians for a second factor.'),
    codesSince: moment.nullable().describe('Since when a phone gives codes; null while none does.'),
    spareCodes: z.int().min(0).describe('How many spare codes are left.'),
    passkeys: list(
      z.strictObject({ id: z.string(), name: z.string(), madeAt: moment, usedAt: moment.nullable() }),
    ),
  })
  .meta({ id: 'Factors' });

export const newCodesAnswer = z
  .strictObject({
    secret: z.string().describe('Told this once, for a phone that cannot take the picture.'),
    address: z.string().describe('What the picture says: an otpauth address.'),
  })
  .meta({ id: 'NewCodes' });

export const spareCodesAnswer = z.strictObject({ spareCodes: list(z.string()) }).meta({ id: 'SpareCodes' });

/** What a browser hands to whatever keeps the passkeys, as WebAuthn names its parts. */
export const challengeAnswer = z.looseObject({ challenge: z.string() }).meta({ id: 'PasskeyChallenge' });

export const benchPassAnswer = z
  .strictObject({ hasPin: z.boolean(), hasBadge: z.boolean() })
  .meta({ id: 'BenchPass' });

export const sharedBenchAnswer = z
  .strictObject({
    id: z.uuid(),
    name: z.string(),
    madeBy: personId,
    madeAt: moment,
    isThis: z.boolean().describe('The browser that asks.'),
  })
  .meta({ id: 'SharedBench' });
