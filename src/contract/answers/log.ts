import { z } from 'zod';
import { LOG_DEEDS, LOG_SUBJECTS } from '../log';
import type { LogDeed, LogSubject } from '../log';
import { personId } from './people';
import { moment } from './schema';

export const logSubject = z.enum(Object.keys(LOG_SUBJECTS) as [LogSubject, ...LogSubject[]]);

export const logEntryAnswer = z
  .strictObject({
    seq: z.int(),
    at: moment,
    by: personId.nullable().describe('Null for somebody the register does not know.'),
    through: z.literal('key').nullable().describe('By a script’s key instead of a session.'),
    did: z.enum(Object.keys(LOG_DEEDS) as [LogDeed, ...LogDeed[]]),
    subject: logSubject,
    subjectId: z.string().nullable(),
    name: z.string().nullable().describe('What it was called then.'),
    changes: z
      .record(z.string(), z.tuple([z.unknown(), z.unknown()]))
      .describe(
        'Each figure that changed: what it was and what it became. Passwords and keys are never told.',
      ),
  })
  .meta({ id: 'LogEntry' });
