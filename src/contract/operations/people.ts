import { z } from 'zod';
import { calendarAnswer, personDetails, sessionAnswer } from '../answers/people';
import { list } from '../answers/schema';
import { claimForm, personForm, setupForm, signInForm, version } from '../register';
import type { Operations } from './operation';

export const peopleOperations = {
  'GET /session': { summary: 'Who is signed in.', action: null, answer: sessionAnswer },
  'POST /session': { summary: 'Sign in.', action: null, body: signInForm, answer: sessionAnswer },
  'POST /session/demo': {
    summary: 'Sign in as one of the people of the made-up register.',
    action: null,
    body: z.strictObject({ personId: z.uuid() }),
    answer: sessionAnswer,
  },
  'DELETE /session': { summary: 'Sign out.', action: null, answer: null },
  'POST /setup': {
    summary: 'Name the first custodian of an empty register.',
    action: null,
    body: setupForm,
    answer: sessionAnswer,
  },
  'POST /setup/claim': {
    summary: 'Give the first password of a register that was read from an archive.',
    action: null,
    body: claimForm,
    answer: sessionAnswer,
  },
  'GET /people': {
    summary: 'All people with their sign-ins.',
    action: 'people.edit',
    answer: list(personDetails),
  },
  'POST /people': {
    summary: 'Add a person.',
    action: 'people.edit',
    body: personForm,
    answer: personDetails,
  },
  'PUT /people/:id': {
    summary: 'Change a person.',
    action: 'people.edit',
    body: personForm.extend({ version }),
    answer: personDetails,
  },
  'GET /calendar': {
    summary: 'Where one’s own calendar is.',
    action: 'register.read',
    answer: calendarAnswer,
  },
  'POST /calendar': {
    summary: 'Get a new address for one’s own calendar; the old one ends.',
    action: 'register.read',
    answer: calendarAnswer,
  },
  'GET /calendar/:key.ics': {
    summary: 'The calendar itself, for whoever knows its address.',
    action: null,
    answer: 'text/calendar',
  },
} as const satisfies Operations;
