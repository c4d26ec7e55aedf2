import type { Entry, OpenTask } from '../../core/incident';
import { CAUSE_WORDS, dueWords, plural, whenWords } from '../../core/wording';
import type { Reader } from '../../core/wording';
import { useReader } from '../app/clock';
import { Photo } from '../domain/inspection/PhotoStrip';
import { usePackRows } from '../domain/waitingRows';
import { useNames } from '../domain/useNames';
import type { Names } from '../../core/wording';

/** One line of an incident's log. */
export function EntryLine({ entry, tasks }: { entry: Entry; tasks: readonly OpenTask[] }) {
  const reader = useReader();
  const names = useNames();
  const rows = usePackRows().data ?? [];
  const tagOf = (id: string) => rows.find((row) => row.id === id)?.tag ?? 'a pack';
  const photos = entry.kind === 'reported' || entry.kind === 'told' ? entry.payload.photoIds : [];
  return (
    <li className="ruled py-1.5 text-sm md:flex md:items-baseline md:gap-4">
      <time dateTime={new Date(entry.at).toISOString()} className="shrink-0 text-faint md:w-40">
        {whenWords(entry.at, reader)}
      </time>
      <span className="min-w-0 flex-1 break-words">
        {entryWords(entry, tasks, names, tagOf, reader)}
        {photos.length > 0 && (
          <span className="flex flex-wrap gap-2 py-1">
            {photos.map((id, i) => (
              <Photo key={id} id={id} label={`Photo ${i + 1}`} />
            ))}
          </span>
        )}
      </span>
      <span className="text-faint">{names.person(entry.by)}</span>
    </li>
  );
}

function entryWords(
  { kind, payload }: Entry,
  tasks: readonly OpenTask[],
  names: Names,
  tagOf: (id: string) => string,
  reader: Reader,
): string {
  switch (kind) {
    case 'reported': {
      const { packIds, what, harm } = payload;
      const named = packIds.length > 0 ? `Reported, with ${packIds.map(tagOf).join(', ')}.` : 'Reported.';
      return [named, what, harm && `Injuries and damage: ${harm}`].filter(Boolean).join(' ');
    }
    case 'named':
      return `${plural(payload.packIds.length, 'pack')} named: ${payload.packIds.map(tagOf).join(', ')}.`;
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
