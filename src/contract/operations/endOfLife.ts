import { consignmentDetails, endOfLifeAnswer } from '../answers/recycling';
import { consignmentCorrection, consignmentForm, consignmentPacks, handOver } from '../recycling';
import type { Operations } from './operation';
import { print } from './query';

export const endOfLifeOperations = {
  'GET /end-of-life': {
    summary: 'Decisions waiting, retired packs step by step, consignments.',
    action: 'register.read',
    answer: endOfLifeAnswer,
  },
  'GET /consignments/:id': {
    summary: 'A consignment with its lines.',
    action: 'register.read',
    answer: consignmentDetails,
  },
  'POST /consignments': {
    summary: 'Begin a consignment.',
    action: 'consign',
    body: consignmentForm,
    answer: consignmentDetails,
  },
  'POST /consignments/:id/packs': {
    summary: 'Put packs on a consignment, or take them off.',
    action: 'consign',
    body: consignmentPacks,
    answer: consignmentDetails,
  },
  'POST /consignments/:id/hand-over': {
    summary: 'Hand a consignment over and close it.',
    action: 'consign',
    body: handOver,
    answer: consignmentDetails,
  },
  'POST /consignments/:id/corrections': {
    summary: 'Say what was wrong on a closed consignment.',
    action: 'consign',
    body: consignmentCorrection,
    answer: consignmentDetails,
  },
  'GET /consignments/:id/manifest.pdf': {
    summary: 'A manifest on paper.',
    action: 'register.read',
    query: print,
    answer: 'application/pdf',
  },
  'GET /consignments/:id/manifest.csv': {
    summary: 'A manifest for a spreadsheet.',
    action: 'register.read',
    query: print,
    answer: 'text/csv; charset=utf-8',
  },
  'GET /consignments/:id/manifest.json': {
    summary: 'A manifest as a file.',
    action: 'register.read',
    query: print,
    answer: 'application/json',
  },
} as const satisfies Operations;
