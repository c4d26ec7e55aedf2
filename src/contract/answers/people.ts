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
    hasPassword: z.boolean().describe('Whoever has none comes in by a link that a custodian makes.'),
    version,
  })
  .meta({ id: 'PersonDetails' });

export const clockShape = {
  now: moment.describe('The server’s time when it answered.'),
  frozen: z.boolean().describe('A register for pictures and tests stands still.'),
};

const hereShape = {
  ...clockShape,
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
