import { z } from 'zod';
import { ROLES } from '../../core/lifecycle';
import type { PersonId } from '../../core/measure';
import { idOf, list, moment, version } from './schema';

export const personId = idOf<PersonId>();

export const personAnswer = z
  .strictObject({ id: personId, name: z.string(), role: z.enum(ROLES) })
  .meta({ id: 'Person' });

export const personDetails = z
  .strictObject({ ...personAnswer.shape, login: z.string(), active: z.boolean(), version })
  .meta({ id: 'PersonDetails' });

export const clockShape = {
  now: moment.describe('The server’s time when it answered.'),
  frozen: z.boolean().describe('A register for pictures and tests stands still.'),
};

export const sessionAnswer = z
  .discriminatedUnion('state', [
    z.strictObject({
      ...clockShape,
      state: z.literal('setup'),
      custodians: list(personAnswer).describe(
        'Those of an archive that was just read: nobody has a password yet, so one of them gives the first. Empty for a new register.',
      ),
    }),
    z.strictObject({ ...clockShape, state: z.literal('signed-out'), demoPeople: list(personAnswer) }),
    z.strictObject({
      ...clockShape,
      state: z.literal('signed-in'),
      person: personAnswer,
      demo: z.boolean(),
    }),
  ])
  .meta({ id: 'Session' });

export const calendarAnswer = z.strictObject({
  path: z
    .string()
    .nullable()
    .describe('Where a calendar program fetches it, beginning with a slash; null until it is asked for.'),
});
