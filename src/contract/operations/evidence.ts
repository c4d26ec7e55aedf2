import { z } from 'zod';
import { checkpointAnswer, evidenceAnswer, verificationAnswer } from '../answers/evidence';
import type { Operations } from './operation';

const LONGEST_CHECKPOINT = 2_000;

export const evidenceOperations = {
  'GET /evidence': {
    summary: 'The newest checkpoints, and what was found when the register was last held against them.',
    action: 'log.read',
    answer: evidenceAnswer,
  },
  'POST /evidence/checkpoints': {
    summary:
      'Write down and sign what the register holds now; the newest checkpoint where nothing changed since.',
    action: 'log.read',
    answer: checkpointAnswer,
  },
  'GET /evidence/checkpoints/:number.txt': {
    summary: 'A checkpoint as a text, to be kept where the register is not.',
    action: 'log.read',
    answer: 'text/plain; charset=utf-8',
  },
  'POST /evidence/verification': {
    summary: 'Hold the register against itself, its checkpoints, and one that was kept elsewhere.',
    action: 'log.read',
    body: z.strictObject({
      checkpoint: z
        .string()
        .max(LONGEST_CHECKPOINT, 'A checkpoint is shorter than this.')
        .nullable()
        .describe('The text of a checkpoint that was kept elsewhere; null for none.'),
    }),
    answer: verificationAnswer,
  },
} as const satisfies Operations;
