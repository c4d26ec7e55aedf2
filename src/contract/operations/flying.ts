import { craftAnswer } from '../answers/craft';
import { flyingAnswer, flyingDayAnswer } from '../answers/flying';
import { craftChange, craftForm, flyingDayForm, handOutForm } from '../flying';
import { version } from '../register';
import type { Operations } from './operation';

export const flyingOperations = {
  'POST /craft': {
    logs: { did: 'added', of: 'craft' },
    summary: 'Add a craft.',
    action: 'craft.edit',
    body: craftForm,
    answer: craftAnswer,
  },
  'PUT /craft/:id': {
    logs: { did: 'changed', of: 'craft' },
    summary: 'Change a craft.',
    action: 'craft.edit',
    body: craftForm.extend({ version }),
    answer: craftAnswer,
  },
  'POST /craft/:id/changes': {
    logs: { did: 'changed', of: 'craft' },
    summary: 'Write down what was done to a craft.',
    action: 'craft.edit',
    body: craftChange,
    answer: craftAnswer,
  },
  'GET /flying': {
    summary: 'Flying days to come, what each craft’s returns have shown, and the landings of late.',
    action: 'register.read',
    answer: flyingAnswer,
  },
  'POST /flying-days': {
    summary: 'Add a flying day.',
    action: 'flying-day.edit',
    body: flyingDayForm,
    answer: flyingDayAnswer,
  },
  'PUT /flying-days/:id': {
    summary: 'Change or cancel a flying day.',
    action: 'flying-day.edit',
    body: flyingDayForm.extend({ version }),
    answer: flyingDayAnswer,
  },
  'PUT /flying-days/:id/hand-out': {
    summary:
      'Settle which packs are taken along on a day. A pack that may not be flown, or does not fit, is refused.',
    action: 'flying-day.hand-out',
    body: handOutForm,
    answer: flyingDayAnswer,
  },
} as const satisfies Operations;
