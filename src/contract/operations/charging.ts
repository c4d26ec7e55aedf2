import { attendanceAnswer, chargingAnswer } from '../answers/charging';
import { equipmentAnswer } from '../answers/equipment';
import { attendanceForm, endJob, equipmentForm, jobForm, planForm, startJob, watchJob } from '../charging';
import { version } from '../register';
import type { Operations } from './operation';

export const chargingOperations = {
  'POST /equipment': {
    logs: { did: 'added', of: 'bench' },
    summary: 'Add a charger, load, board, adapter or supply.',
    action: 'equipment.edit',
    body: equipmentForm,
    answer: equipmentAnswer,
  },
  'PUT /equipment/:id': {
    logs: { did: 'changed', of: 'bench' },
    summary: 'Change a thing of the bench.',
    action: 'equipment.edit',
    body: equipmentForm.extend({ version }),
    answer: equipmentAnswer,
  },
  'POST /attendance': {
    summary: 'Say who watches the bench from when to when.',
    action: 'bench.attend',
    body: attendanceForm,
    answer: attendanceAnswer,
  },
  'PUT /attendance/:id': {
    summary: 'Change a span of attendance.',
    action: 'bench.attend',
    body: attendanceForm.safeExtend({ version }),
    answer: attendanceAnswer,
  },
  'DELETE /attendance/:id': {
    summary: 'Take a span of attendance back.',
    action: 'bench.attend',
    answer: null,
  },
  'GET /charging': {
    summary: 'What tonight’s plan is made from, the plan that is kept, and what runs.',
    action: 'register.read',
    answer: chargingAnswer,
  },
  'PUT /charging/plan': {
    summary: 'Keep a plan in place of the one it was made from. A plan that breaks a hard limit is refused.',
    action: 'bench.plan',
    body: planForm,
    answer: chargingAnswer,
  },
  'POST /charging/jobs': {
    summary: 'Put a job on a channel at once, planned by nobody but whoever starts it.',
    action: 'bench.charge',
    body: jobForm,
    answer: chargingAnswer,
  },
  'POST /charging/jobs/:id/start': {
    summary: 'Start a job through the gate; what is missing is refused, and nobody overrules it.',
    action: 'bench.charge',
    body: startJob,
    answer: chargingAnswer,
    status: 200,
  },
  'POST /charging/jobs/:id/watch': {
    summary: 'Say that somebody is still there, or hand the watch over.',
    action: 'bench.charge',
    body: watchJob,
    answer: chargingAnswer,
    status: 200,
  },
  'POST /charging/jobs/:id/end': {
    summary: 'End a job: its charge records are written for every pack, all or none.',
    action: 'bench.charge',
    body: endJob,
    answer: chargingAnswer,
    status: 200,
  },
} as const satisfies Operations;
