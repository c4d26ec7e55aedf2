import { z } from 'zod';
import {
  instrumentAnswer,
  packTypeAnswer,
  placeAnswer,
  recyclerAnswer,
  registerAnswer,
} from '../answers/register';
import { logEntryAnswer, logSubject } from '../answers/log';
import { rulesHistoryAnswer } from '../answers/rules';
import { list } from '../answers/schema';
import { instrumentForm, mapForm, packTypeForm, placeForm, recyclerForm, version } from '../register';
import { adoptRules } from '../rules';
import { personId } from '../fields';
import { readerZone } from './query';
import type { Operations } from './operation';

/** Of one person or one kind of thing, and before a number. */
const logAsked = z.object({
  before: z.coerce.number<string>().int().min(1).max(Number.MAX_SAFE_INTEGER).optional(),
  by: personId.optional(),
  subject: logSubject.optional(),
});

export const registerOperations = {
  'GET /register': {
    summary: 'The small tables that put names to ids.',
    action: 'register.read',
    answer: registerAnswer,
  },
  'POST /pack-types': {
    logs: { did: 'added', of: 'pack-type' },
    summary: 'Add a pack type.',
    action: 'type.edit',
    body: packTypeForm,
    answer: packTypeAnswer,
  },
  'PUT /pack-types/:id': {
    logs: { did: 'changed', of: 'pack-type' },
    summary: 'Change a pack type; its packs are judged anew.',
    action: 'type.edit',
    body: packTypeForm.safeExtend({ version }),
    answer: packTypeAnswer,
  },
  'POST /places': {
    logs: { did: 'added', of: 'place' },
    summary: 'Add a place.',
    action: 'place.edit',
    body: placeForm,
    answer: placeAnswer,
  },
  'PUT /places/:id': {
    logs: { did: 'changed', of: 'place' },
    summary: 'Change a place.',
    action: 'place.edit',
    body: placeForm.extend({ version }),
    answer: placeAnswer,
  },
  'PUT /map': {
    summary: 'Put places on the map.',
    action: 'place.edit',
    body: mapForm,
    answer: null,
  },
  'POST /instruments': {
    logs: { did: 'added', of: 'meter' },
    summary: 'Add an instrument.',
    action: 'instrument.edit',
    body: instrumentForm,
    answer: instrumentAnswer,
  },
  'PUT /instruments/:id': {
    logs: { did: 'changed', of: 'meter' },
    summary: 'Change an instrument.',
    action: 'instrument.edit',
    body: instrumentForm.extend({ version }),
    answer: instrumentAnswer,
  },
  'POST /recyclers': {
    logs: { did: 'added', of: 'recycler' },
    summary: 'Add a recycler.',
    action: 'recycler.edit',
    body: recyclerForm,
    answer: recyclerAnswer,
  },
  'PUT /recyclers/:id': {
    logs: { did: 'changed', of: 'recycler' },
    summary: 'Change a recycler.',
    action: 'recycler.edit',
    body: recyclerForm.extend({ version }),
    answer: recyclerAnswer,
  },
  'GET /rules': {
    summary: 'The house rules, every version.',
    action: 'register.read',
    answer: rulesHistoryAnswer,
  },
  'POST /rules': {
    logs: { did: 'adopted', of: 'rules' },
    summary: 'Adopt house rules; the register is judged anew under them.',
    action: 'rules.adopt',
    body: adoptRules,
    answer: rulesHistoryAnswer,
  },
  'GET /log': {
    summary: 'Who changed what in the register, newest first, a hundred at a time.',
    action: 'log.read',
    query: logAsked,
    answer: list(logEntryAnswer),
  },
  'GET /log.csv': {
    summary: 'The same for a spreadsheet, whole.',
    action: 'log.read',
    query: logAsked.extend({ zone: readerZone }),
    answer: 'text/csv; charset=utf-8',
  },
} as const satisfies Operations;
