import type { EntryId, IncidentId, Instant, PackId, PersonId, PhotoId, TaskId } from '../measure';
import type { Cause, IncidentKind } from './kinds';

/** What is said of an incident at once; all but the kind may come later. */
export interface Report {
  readonly kind: IncidentKind;
  readonly place: string | null;
  readonly what: string | null;
  readonly packIds: readonly PackId[];
  readonly personIds: readonly PersonId[];
  readonly craft: string | null;
  readonly charger: string | null;
  /** Injuries or damage; null where nobody said, which is not the same as none. */
  readonly harm: string | null;
  readonly photoIds: readonly PhotoId[];
  /** Whether the packs named are on hold: settled by the kind, or by whoever reports where the kind leaves it open. */
  readonly holds: boolean;
}

export interface Task {
  readonly id: TaskId;
  readonly text: string;
  readonly ownerId: PersonId;
  readonly dueAt: Instant;
}

/** One line of an incident's log. Written once; what it says is never changed, only added to. */
export type EntryBody =
  | { readonly kind: 'reported'; readonly payload: Report }
  /** More packs, told later. */
  | {
      readonly kind: 'named';
      readonly payload: { readonly packIds: readonly PackId[]; readonly holds: boolean };
    }
  | {
      readonly kind: 'cause';
      readonly payload: { readonly cause: Cause; readonly text: string | null };
    }
  | { readonly kind: 'harm'; readonly payload: { readonly text: string } }
  | {
      readonly kind: 'told';
      readonly payload: { readonly text: string; readonly photoIds: readonly PhotoId[] };
    }
  | { readonly kind: 'lesson'; readonly payload: { readonly text: string } }
  | { readonly kind: 'task'; readonly payload: Task }
  | {
      readonly kind: 'task-done';
      readonly payload: { readonly taskId: TaskId; readonly note: string | null };
    }
  | { readonly kind: 'closed'; readonly payload: { readonly note: string } }
  | { readonly kind: 'reopened'; readonly payload: { readonly reason: string } };

export type EntryKind = EntryBody['kind'];
export type EntryDraft = EntryBody & { readonly id: EntryId; readonly at: Instant };
export type Entry = EntryDraft & {
  /** 1, 2, 3 … in the order of arrival. */
  readonly seq: number;
  readonly recordedAt: Instant;
  readonly by: PersonId;
};

/** A follow-up as it stands. */
export interface OpenTask extends Task {
  readonly done: { readonly at: Instant; readonly by: PersonId; readonly note: string | null } | null;
}

/** What an incident's entries add up to. */
export interface Incident {
  readonly id: IncidentId;
  readonly report: Report;
  readonly at: Instant;
  readonly by: PersonId;
  /** Everything named, at once or later. */
  readonly packIds: readonly PackId[];
  readonly cause: { readonly cause: Cause; readonly text: string | null } | null;
  readonly harm: string | null;
  readonly lessons: readonly string[];
  readonly tasks: readonly OpenTask[];
  readonly closed: { readonly at: Instant; readonly by: PersonId; readonly note: string } | null;
  readonly entries: readonly Entry[];
}

/** The incident its entries tell of, in the order they arrived; null before it is reported. */
export function foldIncident(id: IncidentId, entries: readonly Entry[]): Incident | null {
  const first = entries[0];
  if (first?.kind !== 'reported') return null;
  let incident: Incident = {
    id,
    report: first.payload,
    at: first.at,
    by: first.by,
    packIds: first.payload.packIds,
    cause: null,
    harm: first.payload.harm,
    lessons: [],
    tasks: [],
    closed: null,
    entries,
  };
  for (const entry of entries.slice(1)) incident = { ...incident, ...changeBy(incident, entry) };
  return incident;
}

function changeBy(incident: Incident, { kind, payload, at, by }: Entry): Partial<Incident> {
  switch (kind) {
    case 'reported':
    case 'told':
      return {};
    case 'named':
      return { packIds: [...new Set([...incident.packIds, ...payload.packIds])] };
    case 'cause':
      return { cause: payload };
    case 'harm':
      return { harm: payload.text };
    case 'lesson':
      return { lessons: [...incident.lessons, payload.text] };
    case 'task':
      return { tasks: [...incident.tasks, { ...payload, done: null }] };
    case 'task-done':
      return {
        tasks: incident.tasks.map((task) =>
          task.id === payload.taskId && !task.done ? { ...task, done: { at, by, note: payload.note } } : task,
        ),
      };
    case 'closed':
      return { closed: { at, by, note: payload.note } };
    case 'reopened':
      return { closed: null };
    default:
      return kind satisfies never;
  }
}

/** Why an entry is not taken. */
export type EntryRefusal =
  | { readonly code: 'not-reported'; readonly field: string }
  | { readonly code: 'reported-already'; readonly field: string }
  | { readonly code: 'is-closed'; readonly field: string }
  | { readonly code: 'is-open'; readonly field: string }
  | { readonly code: 'no-such-task'; readonly field: string }
  | { readonly code: 'tasks-open'; readonly field: string; readonly count: number }
  | { readonly code: 'cause-missing'; readonly field: string };

/**
 * What keeps an entry from being added. An incident is reported once, and closed only when its cause is named (unknown is
 * a cause) and every follow-up is done; a closed one takes nothing more until it is opened again with a reason.
 */
export function entryRefusals(incident: Incident | null, entry: EntryBody): readonly EntryRefusal[] {
  if (entry.kind === 'reported') return incident ? [{ code: 'reported-already', field: 'kind' }] : [];
  if (!incident) return [{ code: 'not-reported', field: 'kind' }];
  if (entry.kind === 'reopened') return incident.closed ? [] : [{ code: 'is-open', field: 'kind' }];
  if (incident.closed) return [{ code: 'is-closed', field: 'kind' }];
  if (entry.kind === 'task-done') {
    const task = incident.tasks.find(({ id }) => id === entry.payload.taskId);
    return task && !task.done ? [] : [{ code: 'no-such-task', field: 'payload.taskId' }];
  }
  if (entry.kind !== 'closed') return [];
  const open = incident.tasks.filter(({ done }) => !done).length;
  return [
    ...(incident.cause ? [] : [{ code: 'cause-missing' as const, field: 'payload.note' }]),
    ...(open > 0 ? [{ code: 'tasks-open' as const, field: 'payload.note', count: open }] : []),
  ];
}
