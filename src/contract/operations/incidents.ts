import { z } from 'zod';
import { incidentAnswer, incidentRow } from '../answers/incidents';
import { list } from '../answers/schema';
import { incidentRequest } from '../incident';
import type { Operations } from './operation';
import { print } from './query';

export const incidentOperations = {
  'GET /incidents': {
    summary: 'The incidents, or those a pack is named in.',
    action: 'register.read',
    query: z.object({ pack: z.uuid().optional() }),
    answer: list(incidentRow),
  },
  'GET /incidents/:id': {
    summary: 'An incident with its log.',
    action: 'register.read',
    answer: incidentAnswer,
  },
  'GET /incidents/:id/report.pdf': {
    summary: 'One incident on paper, with everything said and done.',
    action: 'register.read',
    query: print,
    answer: 'application/pdf',
  },
  'POST /incidents': {
    summary: 'Report an incident, or add to its log. Who may add what depends on the entry.',
    action: 'register.read',
    body: incidentRequest,
    answer: incidentAnswer,
  },
} as const satisfies Operations;
