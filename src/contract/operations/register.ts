import {
  instrumentAnswer,
  packTypeAnswer,
  placeAnswer,
  recyclerAnswer,
  registerAnswer,
} from '../answers/register';
import { rulesHistoryAnswer } from '../answers/rules';
import { instrumentForm, mapForm, packTypeForm, placeForm, recyclerForm, version } from '../register';
import { adoptRules } from '../rules';
import type { Operations } from './operation';

export const registerOperations = {
  'GET /register': {
    summary: 'The small tables that put names to ids.',
    action: 'register.read',
    answer: registerAnswer,
  },
  'POST /pack-types': {
    summary: 'Add a pack type.',
    action: 'type.edit',
    body: packTypeForm,
    answer: packTypeAnswer,
  },
  'PUT /pack-types/:id': {
    summary: 'Change a pack type; its packs are judged anew.',
    action: 'type.edit',
    body: packTypeForm.safeExtend({ version }),
    answer: packTypeAnswer,
  },
  'POST /places': { summary: 'Add a place.', action: 'place.edit', body: placeForm, answer: placeAnswer },
  'PUT /places/:id': {
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
    summary: 'Add an instrument.',
    action: 'instrument.edit',
    body: instrumentForm,
    answer: instrumentAnswer,
  },
  'PUT /instruments/:id': {
    summary: 'Change an instrument.',
    action: 'instrument.edit',
    body: instrumentForm.extend({ version }),
    answer: instrumentAnswer,
  },
  'POST /recyclers': {
    summary: 'Add a recycler.',
    action: 'recycler.edit',
    body: recyclerForm,
    answer: recyclerAnswer,
  },
  'PUT /recyclers/:id': {
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
    summary: 'Adopt house rules; the register is judged anew under them.',
    action: 'rules.adopt',
    body: adoptRules,
    answer: rulesHistoryAnswer,
  },
} as const satisfies Operations;
