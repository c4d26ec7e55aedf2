import { z } from 'zod';
import { appendAnswer, historiesAnswer, laterRow, offlinePack, packDetails, packRow } from '../answers/packs';
import { list } from '../answers/schema';
import { todayAnswer } from '../answers/today';
import { LABEL_SHEETS } from '../choices';
import type { LabelSheet } from '../choices';
import { appendRequest } from '../record';
import { deliveryForm, packForm, receivePack, version } from '../register';
import type { Operations } from './operation';
import { idList, print } from './query';

export const packOperations = {
  'GET /today': {
    summary: 'What needs hands, the most urgent first.',
    action: 'register.read',
    answer: todayAnswer,
  },
  'GET /packs': {
    summary: 'All packs as lists show them, or those named.',
    action: 'register.read',
    query: z.object({ ids: idList.optional() }),
    answer: list(packRow),
  },
  'GET /packs/:id': {
    summary: 'A pack with its whole ledger.',
    action: 'register.read',
    answer: packDetails,
  },
  'GET /packs/by-tag/:tag': {
    summary: 'The pack that has this tag, or once had it.',
    action: 'register.read',
    answer: packDetails,
  },
  'GET /packs/:id/certificate.pdf': {
    summary: 'A pack’s life on paper.',
    action: 'register.read',
    query: print,
    answer: 'application/pdf',
  },
  'GET /histories': {
    summary: 'The ledgers of all packs, or of those named, page by page.',
    action: 'register.read',
    query: z.object({
      after: z.uuid().optional(),
      ids: idList.optional(),
      packed: z.literal('yes').optional().describe('The caller unpacks long ledgers.'),
      shares: z.coerce
        .number()
        .int()
        .min(1)
        .max(16)
        .default(1)
        .describe('In so many shares, each asked for by itself.'),
      share: z.coerce.number().int().min(0).max(15).default(0).describe('Which of them, from 0.'),
    }),
    answer: historiesAnswer,
  },
  'GET /offline-packs': {
    summary: 'The packs named, each compressed, for a device that keeps them where there is no network.',
    action: 'register.read',
    query: z.object({ ids: idList }),
    answer: list(offlinePack),
  },
  'GET /offline-rows': {
    summary: 'What lists will show of packs by time alone, up to three weeks ahead.',
    action: 'register.read',
    query: z.object({ ids: idList.optional() }),
    answer: list(laterRow),
  },
  'POST /packs': {
    summary: 'Receive a pack.',
    action: 'pack.create',
    body: receivePack,
    answer: packDetails,
  },
  'POST /deliveries': {
    summary: 'Receive several packs of one type at once.',
    action: 'pack.create',
    body: deliveryForm,
    answer: list(packRow),
  },
  'PUT /packs/:id': {
    logs: { did: 'changed', of: 'pack' },
    summary: 'Change a pack’s facts.',
    action: 'pack.edit',
    body: packForm.extend({ version }),
    answer: packDetails,
  },
  'POST /records': {
    summary: 'Write records of one pack: all are kept or none. Which a role may write depends on their kind.',
    action: 'register.read',
    body: appendRequest,
    answer: appendAnswer,
  },
  'GET /labels.pdf': {
    summary: 'Tag labels to print.',
    action: 'register.read',
    query: z.object({
      ids: idList,
      sheet: z.enum(Object.keys(LABEL_SHEETS) as [LabelSheet, ...LabelSheet[]], 'Choose a sheet.'),
      skip: z.coerce.number().int().min(0).max(100, 'At most 100 used labels.').default(0),
    }),
    answer: 'application/pdf',
  },
  'PUT /photos/:id': {
    summary: 'Keep a photo under the id its record will name.',
    action: 'record.inspection',
    bytes: 'image/*',
    answer: null,
  },
  'GET /photos/:id': { summary: 'A photo.', action: 'register.read', answer: 'image/jpeg' },
  'GET /photos/:id/thumbnail': { summary: 'A photo, small.', action: 'register.read', answer: 'image/jpeg' },
} as const satisfies Operations;
