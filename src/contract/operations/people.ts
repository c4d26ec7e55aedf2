import { z } from 'zod';
import {
  calendarAnswer,
  invitedAnswer,
  personDetails,
  sessionAnswer,
  signInAnswer,
  signInLinkAnswer,
} from '../answers/people';
import { list } from '../answers/schema';
import {
  claimForm,
  confirmationForm,
  linkForm,
  linkPasswordForm,
  ownPasswordForm,
  personForm,
  setupForm,
  signInForm,
  version,
} from '../register';
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
  'POST /session/link': {
    summary: 'Whom a link to choose a password was made for.',
    action: null,
    body: linkForm,
    answer: invitedAnswer,
  },
  'POST /session/link/password': {
    summary: 'Choose a password by such a link, and sign in; the link ends.',
    action: null,
    body: linkPasswordForm,
    answer: sessionAnswer,
  },
  'PUT /session/password': {
    summary: 'Choose another password for oneself; every other session ends.',
    action: 'register.read',
    body: ownPasswordForm,
    answer: null,
  },
  'POST /session/confirmation': {
    summary: 'Give one’s password once more, before something that changes who can come in.',
    action: 'register.read',
    body: confirmationForm,
    answer: null,
  },
  'GET /session/data': {
    summary: 'Everything the register keeps that names oneself, as a file.',
    action: 'register.read',
    answer: 'application/json',
  },
  'GET /sessions': {
    summary: 'Where one is signed in.',
    action: 'register.read',
    answer: list(signInAnswer),
  },
  'DELETE /sessions/:id': {
    summary: 'End one of one’s own sessions.',
    action: 'register.read',
    answer: null,
  },
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
    confirms: true,
    logs: { did: 'added', of: 'person' },
    summary: 'Add a person.',
    action: 'people.edit',
    body: personForm,
    answer: personDetails,
  },
  'PUT /people/:id': {
    confirms: true,
    logs: { did: 'changed', of: 'person' },
    summary: 'Change a person.',
    action: 'people.edit',
    body: personForm.extend({ version }),
    answer: personDetails,
  },
  'POST /people/:id/sign-in-link': {
    confirms: true,
    logs: { did: 'made-link', of: 'person' },
    summary: 'Make a link to choose a password with; the old password and every session of theirs end.',
    action: 'people.edit',
    answer: signInLinkAnswer,
  },
  'DELETE /people/:id/sessions': {
    logs: { did: 'ended-sessions', of: 'person' },
    summary: 'End every session of a person.',
    action: 'people.edit',
    answer: null,
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
