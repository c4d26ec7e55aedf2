import type { Entry, OpenTask } from '../incident';
import type { PackId, PersonId } from '../measure';
import { plural } from './figures';
import { CAUSE_WORDS } from './incident';
import { dueWords } from './time';
import type { Reader } from './time';

/** Names for what an incident's log names. */
export interface LogNames {
  readonly person: (id: PersonId) => string;
  readonly pack: (id: PackId) => string;
}

/**
 * One line of an incident's log, in words.
 * @param tasks the incident's follow-ups, which lines that end one name by id
 */
export function entryWords(
  { kind, payload }: Entry,
  tasks: readonly OpenTask[],
  names: LogNames,
  reader: Reader,
): string {
  switch (kind) {
    case 'reported': {
      const { packIds, what, harm } = payload;
      const named =
        packIds.length > 0 ? `Reported, with ${packIds.map(names.pack).join(', ')}.` : 'Reported.';
      return [named, what, harm && `Injuries and damage: ${harm}`].filter(Boolean).join(' ');
    }
    case 'named':
      return `${plural(payload.packIds.length, 'pack')} named: ${payload.packIds.map(names.pack).join(', ')}.`;
    case 'cause':
      return `Cause: ${[CAUSE_WORDS[payload.cause], payload.text].filter(Boolean).join(', ')}`;
    case 'harm':
      return `Injuries and damage: ${payload.text}`;
    case 'told':
      return payload.text;
    case 'lesson':
      return `Lesson learned: ${payload.text}`;
    case 'task':
      return `To be done by ${names.person(payload.ownerId)}, ${dueWords(payload.dueAt, reader)}: ${payload.text}`;
    case 'task-done': {
      const task = tasks.find(({ id }) => id === payload.taskId);
      return `Done: ${[task?.text, payload.note].filter(Boolean).join('. ')}`;
    }
    case 'closed':
      return `Closed: ${payload.note}`;
    case 'reopened':
      return `Opened again: ${payload.reason}`;
    default:
      return kind satisfies never;
  }
}
