import { roundAnswer, roundDetails, roundRowAnswer } from '../answers/rounds';
import { list } from '../answers/schema';
import { roundRow } from '../record';
import { roundForm } from '../register';
import type { Operations } from './operation';

export const roundOperations = {
  'GET /rounds': {
    summary: 'The rounds, the newest first.',
    action: 'register.read',
    answer: list(roundAnswer),
  },
  'GET /rounds/:id': { summary: 'A round with its rows.', action: 'register.read', answer: roundDetails },
  'POST /rounds': { summary: 'Start a round.', action: 'round.work', body: roundForm, answer: roundDetails },
  'POST /rounds/:id/rows': {
    summary: 'Keep one pack’s row, with the records written for it: all or nothing.',
    action: 'round.work',
    body: roundRow,
    answer: roundRowAnswer,
  },
  'POST /rounds/:id/close': { summary: 'Close a round.', action: 'round.work', answer: roundDetails },
} as const satisfies Operations;
