import { z } from 'zod';
import { CAUSES, INCIDENT_KINDS } from '../core/incident';
import type { EntryDraft } from '../core/incident';
import {
  entryId,
  incidentId,
  instant,
  line,
  optional,
  packId,
  personId,
  photoId,
  recordId,
  taskId,
  text,
} from './fields';

const photoIds = z.array(photoId).max(12, 'At most 12 photos at once.');
const packIds = z.array(packId).max(100, 'At most 100 packs.');

const report = z.strictObject({
  kind: z.enum(INCIDENT_KINDS, 'Choose what happened.'),
  place: optional(line(120, 'The place')),
  what: optional(text(4_000, 'What happened')),
  packIds,
  personIds: z.array(personId).max(50, 'At most 50 people.'),
  craft: optional(line(60, 'The craft')),
  charger: optional(line(60, 'The charger')),
  harm: optional(text(2_000, 'Injuries or damage')),
  photoIds,
  holds: z.boolean(),
});

const envelope = { id: entryId, at: instant };
function entry<Kind extends string, Payload extends z.ZodType>(kind: Kind, payload: Payload) {
  return z.strictObject({ ...envelope, kind: z.literal(kind), payload });
}

/** One line of an incident's log as its writer sends it. */
const entryDraft: z.ZodType<EntryDraft> = z.discriminatedUnion(
  'kind',
  [
    entry('reported', report),
    entry('named', z.strictObject({ packIds: packIds.min(1, 'Name a pack.'), holds: z.boolean() })),
    entry(
      'cause',
      z.strictObject({
        cause: z.enum(CAUSES, 'Choose the cause.'),
        text: optional(text(2_000, 'The explanation')),
      }),
    ),
    entry('harm', z.strictObject({ text: text(2_000, 'Injuries or damage') })),
    entry('told', z.strictObject({ text: text(4_000, 'What happened'), photoIds })),
    entry('lesson', z.strictObject({ text: text(2_000, 'The lesson') })),
    entry(
      'task',
      z.strictObject({ id: taskId, text: line(200, 'The follow-up'), ownerId: personId, dueAt: instant }),
    ),
    entry('task-done', z.strictObject({ taskId, note: optional(text(1_000, 'The note')) })),
    entry('closed', z.strictObject({ note: text(2_000, 'The closing note') })),
    entry('reopened', z.strictObject({ reason: text(1_000, 'The reason') })),
  ],
  'This entry is not known here.',
);

/**
 * Entries for one incident, oldest first, with the ids of the records that name it on packs: all are kept or none, and
 * sending it again is harmless. A report written without a connection arrives as one of these.
 */
export const incidentRequest = z.strictObject({
  id: incidentId,
  entries: z.array(entryDraft).min(1, 'No entry came.').max(50, 'At most 50 entries at once.'),
  packRecords: z.array(z.strictObject({ packId, recordId })).max(100, 'At most 100 packs.'),
});
