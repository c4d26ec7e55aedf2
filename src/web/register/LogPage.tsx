import { useInfiniteQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { LOG_DEEDS, LOG_SUBJECTS } from '../../contract';
import type { LogEntryAnswer, LogSubject } from '../../contract';
import { whenWords } from '../../core/wording';
import { ask } from '../app/api';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { KEYS, useRegister } from '../app/queries';
import { useNames } from '../domain/useNames';
import { Button } from '../kit/Button';
import { SelectField, SelectOption } from '../kit/Select';
import { Empty, Loading } from '../kit/Message';

/** As many as the server answers at once. */
const PAGE = 100;
const ALL = 'all';
/** What is told by the deed and a name alone. */
const WORDLESS: ReadonlySet<LogSubject> = new Set<LogSubject>(['session', 'export', 'person']);
/** A thing that was added is told by its name; what stood in its form is there to look at. */
const MOST_SHOWN = 6;

/** Who changed what in the register, newest first: all that is no pack's record. */
export function LogPage() {
  const [subject, setSubject] = useState<LogSubject | typeof ALL>(ALL);
  const [by, setBy] = useState<string>(ALL);
  const { zone } = useReader();
  const people = useRegister().data?.people ?? [];
  const asked = { ...(subject === ALL ? {} : { subject }), ...(by === ALL ? {} : { by }) };
  const log = useInfiniteQuery({
    queryKey: [...KEYS.log, subject, by],
    queryFn: ({ pageParam }) =>
      ask('GET /log', { query: { ...asked, ...(pageParam === null ? {} : { before: String(pageParam) }) } }),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.length < PAGE ? null : page.at(-1)!.seq),
  });
  const entries = log.data?.pages.flat() ?? [];
  return (
    <section aria-label="The register’s log" className="max-w-4xl">
      <div className="mb-4 flex flex-wrap items-end gap-4">
        <SelectField label="What" value={subject} onChange={(value) => setSubject(value as typeof subject)}>
          <SelectOption value={ALL}>everything</SelectOption>
          {Object.entries(LOG_SUBJECTS).map(([one, words]) => (
            <SelectOption key={one} value={one}>
              {words}
            </SelectOption>
          ))}
        </SelectField>
        <SelectField label="Who" value={by} onChange={setBy}>
          <SelectOption value={ALL}>everybody</SelectOption>
          {people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </SelectField>
        <a
          className="inline-flex min-h-11 items-center font-bold text-accent underline underline-offset-3 md:min-h-9"
          href={`/api/log.csv?${new URLSearchParams({ zone, ...asked }).toString()}`}
        >
          For a spreadsheet
        </a>
      </div>
      {log.isLoadingError && <Failure error={log.error} retry={() => void log.refetch()} />}
      {log.isPending && <Loading what="the log" />}
      {log.data && entries.length === 0 && (
        <Empty title="Nothing of this kind was ever done.">
          The log begins where the register learnt to keep one; what is written about packs is in their own
          records.
        </Empty>
      )}
      <ol className="border-t-2 border-ink">
        {entries.map((entry) => (
          <Entry key={entry.seq} entry={entry} />
        ))}
      </ol>
      {log.hasNextPage && (
        <Button
          weight="quiet"
          className="mt-3"
          disabled={log.isFetchingNextPage}
          onClick={() => void log.fetchNextPage()}
        >
          Show older ones
        </Button>
      )}
    </section>
  );
}

function Entry({ entry }: { entry: LogEntryAnswer }) {
  const reader = useReader();
  const names = useNames();
  const [isWhole, setWhole] = useState(false);
  const { at, by, through, did, subject, name, changes } = entry;
  const called = useCalled();
  // Of something new its name stands in the line above.
  const figures = Object.entries(changes).filter(([path]) => did !== 'added' || path !== 'name');
  const shown = isWhole ? figures : figures.slice(0, MOST_SHOWN);
  return (
    <li className="ruled grid gap-x-6 py-2 sm:grid-cols-[9rem_1fr]">
      <span className="text-sm text-faint">{whenWords(at, reader)}</span>
      <div>
        <b>{by === null ? 'Somebody' : names.person(by)}</b>{' '}
        {through === 'key' && <span className="text-sm text-faint">by a script’s key </span>}
        {LOG_DEEDS[did]}
        {WORDLESS.has(subject) ? '' : ` the ${LOG_SUBJECTS[subject]}`}
        {name !== null && !(subject === 'session' && by !== null) && (
          <>
            {subject === 'session' ? ' as ' : ' '}
            <b>{name}</b>
          </>
        )}
        {shown.length > 0 && (
          <dl className="mt-0.5 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
            {shown.map(([path, [was, is]]) => (
              <Fragment key={path}>
                <dt className="text-faint">{pathWords(path)}</dt>
                <dd className="min-w-0 break-words">
                  {did !== 'added' && was !== null && (
                    <span className="text-faint">{figure(was, called)} → </span>
                  )}
                  {is === null ? 'nothing' : figure(is, called)}
                </dd>
              </Fragment>
            ))}
          </dl>
        )}
        {figures.length > shown.length && (
          <Button weight="quiet" onClick={() => setWhole(true)}>
            {figures.length - shown.length} more
          </Button>
        )}
      </div>
    </li>
  );
}

/** A figure's path in words: `spread.watchMv` is *spread, watch Mv*. */
function pathWords(path: string): string {
  return path
    .split('.')
    .map((part) => part.replace(/_/g, ' ').replace(/(?<=[a-z])(?=[A-Z])/g, ' '))
    .join(', ');
}

/** What things are called by now, by their ids: an entry names a place by its id, whatever it was called then. */
function useCalled(): ReadonlyMap<string, string> {
  const register = useRegister().data;
  const lists = register ? [register.people, register.places, register.types, register.craft] : [];
  return new Map(lists.flat().map(({ id, name }) => [id, name]));
}

function figure(value: unknown, called: ReadonlyMap<string, string>): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' ? (called.get(value) ?? value) : JSON.stringify(value);
}
