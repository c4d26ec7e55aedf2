import type { Entry, OpenTask } from '../../core/incident';
import { entryWords, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Photo } from '../domain/inspection/PhotoStrip';
import { usePackRows } from '../domain/waitingRows';
import { useNames } from '../domain/useNames';

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
        {entryWords(entry, tasks, { ...names, pack: tagOf }, reader)}
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
