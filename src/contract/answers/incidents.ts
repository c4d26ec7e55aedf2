import { z } from 'zod';
import { CAUSES, INCIDENT_KINDS } from '../../core/incident';
import type { Incident } from '../../core/incident';
import type { IncidentId, TaskId } from '../../core/measure';
import { packId } from './packs';
import { personId } from './people';
import { count, idOf, list, moment } from './schema';

export const incidentId = idOf<IncidentId>();
const incidentKind = z.enum(INCIDENT_KINDS);

export const watchItem = z
  .strictObject({ packId, tag: z.string(), incidentId, kind: incidentKind, from: moment, until: moment })
  .describe('One pack nobody goes near, and until when.')
  .meta({ id: 'WatchItem' });

const taskShape = { id: idOf<TaskId>(), text: z.string(), ownerId: personId, dueAt: moment };

export const taskItem = z
  .strictObject({ incidentId, incidentKind, ...taskShape })
  .describe('A follow-up of an open incident.')
  .meta({ id: 'TaskItem' });

export const incidentRow = z
  .strictObject({
    id: incidentId,
    kind: incidentKind,
    at: moment,
    by: personId,
    what: z.string().nullable(),
    place: z.string().nullable(),
    packs: list(z.strictObject({ id: packId, tag: z.string() })),
    cause: z.enum(CAUSES).nullable(),
    openTasks: count,
    closedAt: moment.nullable(),
  })
  .describe('An incident as the list shows it.')
  .meta({ id: 'IncidentRow' });

const signed = { at: moment, by: personId };

export const incidentAnswer = z
  .strictObject({
    id: incidentId,
    report: z.looseObject({ kind: incidentKind, holds: z.boolean() }),
    ...signed,
    packIds: list(packId).describe('Everything named, at once or later.'),
    cause: z.strictObject({ cause: z.enum(CAUSES), text: z.string().nullable() }).nullable(),
    harm: z.string().nullable(),
    lessons: list(z.string()),
    tasks: list(
      z.strictObject({
        ...taskShape,
        done: z.strictObject({ ...signed, note: z.string().nullable() }).nullable(),
      }),
    ),
    closed: z.strictObject({ ...signed, note: z.string() }).nullable(),
    entries: list(
      z.looseObject({
        id: z.uuid(),
        kind: z.string(),
        payload: z.looseObject({}),
        seq: count,
        recordedAt: moment,
        ...signed,
      }),
    ),
  })
  .describe('An incident with its log.')
  .meta({ id: 'Incident' }) as unknown as z.ZodType<Incident>;
